import { ChangeDetectionStrategy, Component, inject } from "@angular/core";
import type { Case } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { CaseStore } from "./case-store";

/** Two people wrote in one case: both versions to choose from. */
@Component({
  selector: "ip-conflict-note",
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (store.theirs(); as theirs) {
      <div class="bad" role="alert">
        <p>
          Somebody changed this case while you did: theirs has
          {{ count(theirs) }} answers, yours {{ count(store.current()) }}. Nothing is lost yet.
        </p>
        <button type="button" pButton severity="secondary" (click)="store.settle(true)">Keep mine</button>
        <button type="button" pButton severity="secondary" (click)="store.settle(false)">Take theirs</button>
      </div>
    } @else if (store.error() && store.current()) {
      <p class="bad" role="alert">{{ store.error() }} Your answers stay here and are sent again.</p>
    }
  `,
})
export class ConflictNote {
  protected readonly store = inject(CaseStore);

  protected count(file: Case | null): number {
    return Object.values(file?.told ?? {}).reduce((sum, told) => sum + Object.keys(told.answers).length, 0);
  }
}
