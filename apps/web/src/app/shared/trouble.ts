import { ChangeDetectionStrategy, Component, input, output } from "@angular/core";
import { ButtonDirective } from "primeng/button";

/** What could not be had, with a way to try again; other ways out go inside. */
@Component({
  selector: "ip-trouble",
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="bad" role="alert">
      <p>{{ message() }}</p>
      <button type="button" pButton severity="secondary" (click)="again.emit()">Try again</button>
      <ng-content />
    </div>
  `,
})
export class Trouble {
  readonly message = input.required<string>();
  readonly again = output();
}
