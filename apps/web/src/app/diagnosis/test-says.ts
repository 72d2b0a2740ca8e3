import { ChangeDetectionStrategy, Component, computed, inject, input, output } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { Preferences } from "../data/preferences";
import { loadParts, loadRemarks, type LoadTraceView } from "./load-trace.view";

/** What a load trace or a crest run says, part by part. */
@Component({
  selector: "ip-test-says",
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    @if (parts().length) {
      @for (remark of traceRemarks(); track remark) {
        <p class="warn">{{ remark }}</p>
      }
      @if (trace()?.analysis?.askMeter) {
        <div class="acts">
          <button type="button" pButton severity="secondary" (click)="meter.emit('unsigned')">It shows no sign</button>
          <button type="button" pButton severity="secondary" (click)="meter.emit('signed')">It shows the sign</button>
        </div>
      }
      <table class="rows">
        <tbody>
          @for (part of parts(); track part.name) {
            <tr>
              <th scope="row">{{ part.name }}</th>
              <td class="figure">{{ part.value }}</td>
              <td class="words">{{ part.points }}</td>
            </tr>
          }
        </tbody>
      </table>
      <p class="quiet">
        {{ trace()?.analysis?.cutOff }} samples at the ends were cut off: the axis accelerates there. Robust fit: spots
        do not bend the rest.
      </p>
    } @else if (crest(); as crest) {
      @for (plane of crest.planes; track $index) {
        <p>{{ plane }}</p>
      }
      <p>
        <b>{{ crest.verdict }}</b>
      </p>
    } @else {
      <p class="quiet">
        An answer left at “?” weighs nothing. Kept results can be set aside at Locate; they stay on record.
      </p>
    }
  `,
})
export class TestSays {
  readonly trace = input.required<LoadTraceView | null>();
  readonly crest = input.required<{ readonly planes: readonly string[]; readonly verdict: string } | null>();
  /** What kind of meter showed the load. */
  readonly meter = output<"signed" | "unsigned">();
  private readonly preferences = inject(Preferences);
  protected readonly parts = computed(() => {
    const trace = this.trace();
    return trace ? loadParts(trace, this.preferences.system()) : [];
  });
  protected readonly traceRemarks = computed(() => {
    const trace = this.trace();
    return trace ? loadRemarks(trace) : [];
  });
}
