import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from "@angular/core";
import type { FindingId } from "@iron/core";
import { AxisContext } from "../machine/axis/axis-context";
import { TickBox } from "../shared/tick-box";
import { asToggles } from "./case.view";
import { CaseStore } from "./case-store";
import { Triple } from "./triple";

/** Which axis is it? Each is run by itself, and what it then does is its own. */
@Component({
  selector: "ip-which-axis",
  imports: [TickBox, Triple],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    @let file = store.open();
    @if (file) {
      <p class="also">
        @for (other of others(); track other.id) {
          <ip-tick-box [checked]="file.axisIds.includes(other.id)" (ticked)="also(other.id, $event)"
            >It may be {{ other.config.letter }}</ip-tick-box
          >
        }
      </p>
      @if (file.axisIds.length > 1) {
        <p>
          Run one axis at a time at the same feed, the others still, hands out, and say of each whether it does it. What
          is said here counts for that axis alone.
        </p>
        @for (one of noticed(); track one.id) {
          <h3>{{ one.label }}</h3>
          <ul class="questions bare">
            @for (axis of axes(); track axis.id) {
              <li>
                <span class="words">{{ axis.config.letter }} alone</span>
                <ip-triple
                  [label]="axis.config.letter + ': ' + one.label"
                  [value]="store.toldOf(axis.id).answers[one.id] ?? null"
                  (picked)="store.answer(one.id, $event, axis.id)"
                />
              </li>
            }
          </ul>
        } @empty {
          <p class="quiet">Say first what is noticed.</p>
        }
      }
    }
  `,
})
export class WhichAxis {
  private readonly context = inject(AxisContext);
  protected readonly store = inject(CaseStore);
  protected readonly others = computed(() => this.context.axes().filter((a) => a.id !== this.context.axis()?.id));
  protected readonly axes = computed(() => {
    const ids = this.store.current()?.axisIds ?? [];
    return this.context.axes().filter((a) => ids.includes(a.id));
  });
  /** Said of several axes, or to be so of one. */
  private readonly told = computed<readonly FindingId[]>(() => {
    const times = new Map<FindingId, number>();
    for (const { answers } of Object.values(this.store.current()?.told ?? {}))
      for (const [id, present] of Object.entries(answers)) {
        const key = id as FindingId;
        times.set(key, (times.get(key) ?? 0) + (present ? 2 : 1));
      }
    return [...times].filter(([, n]) => n > 1).map(([id]) => id);
  });
  /** What has stood here once stays: the axis it was said of first may turn out not to be it. */
  private readonly stood = linkedSignal<readonly FindingId[], readonly FindingId[]>({
    source: this.told,
    computation: (now, before) => [...new Set([...(before?.value ?? []), ...now])],
  });
  protected readonly noticed = computed(() => asToggles(this.stood()));

  protected also(id: number, on: boolean): void {
    const now = this.store.current()?.axisIds ?? [];
    this.store.setAxes(on ? [...now, id] : now.filter((one) => one !== id));
  }
}
