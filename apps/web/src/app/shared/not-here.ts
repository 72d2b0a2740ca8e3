import { ChangeDetectionStrategy, Component } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";

@Component({
  selector: "ip-not-here",
  imports: [ButtonDirective, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>There is nothing here</h1>
      <p>The address does not lead to a machine, axis or test of this shop.</p>
      <a pButton severity="secondary" routerLink="/floor">Go to the floor</a>
    </main>
  `,
})
export class NotHere {}
