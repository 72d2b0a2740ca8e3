import { ChangeDetectionStrategy, Component, computed, input, linkedSignal } from "@angular/core";
import type { Brought } from "@iron/core";
import { TickBox } from "../shared/tick-box";

/** What is taken along on a round, ticked as it is laid ready; another day is another list. */
@Component({
  selector: "ip-bring-list",
  imports: [TickBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (things().length) {
      <h2>{{ left() ? "To bring" : "All is laid ready" }}</h2>
      @for (one of things(); track one.what) {
        <ip-tick-box [checked]="ready().has(one.what)" (ticked)="tick(one.what, $event)"
          >{{ one.what }}{{ one.amount ? ": " + one.amount : "" }}</ip-tick-box
        >
      }
    }
  `,
})
export class BringList {
  readonly things = input.required<readonly Brought[]>();
  readonly date = input.required<string>();
  protected readonly ready = linkedSignal<string, ReadonlySet<string>>({
    source: this.date,
    computation: () => new Set(),
  });
  protected readonly left = computed(() => this.things().filter((t) => !this.ready().has(t.what)).length);

  protected tick(what: string, on: boolean): void {
    this.ready.update((all) => {
      const next = new Set(all);
      if (on) next.add(what);
      else next.delete(what);
      return next;
    });
  }
}
