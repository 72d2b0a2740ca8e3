import { ChangeDetectionStrategy, Component, inject } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { VisitQueue } from "./visit-queue";

/** Visits that the server would not have, in its words; one that somebody else has made too can be kept beside it. */
@Component({
  selector: "ip-refused-visits",
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (one of queue.refused(); track one.visit.key) {
      <div class="bad" role="alert">
        <p>{{ one.place }}: {{ one.message }}</p>
        <div class="acts">
          @if (one.besides) {
            <button type="button" pButton severity="secondary" (click)="queue.keepBesides(one)">Keep mine too</button>
          }
          <button type="button" pButton severity="secondary" (click)="queue.read(one.visit.key)">Read</button>
        </div>
      </div>
    }
  `,
})
export class RefusedVisits {
  protected readonly queue = inject(VisitQueue);
}
