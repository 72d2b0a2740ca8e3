import { ChangeDetectionStrategy, Component, computed, inject, input } from "@angular/core";
import { formatNumber, formatPosition } from "@iron/core";
import { Preferences } from "../../data/preferences";
import { HOLD_MS, RunStore } from "./run-store";
import { liveText } from "./run.view";

/** What the indicator shows now, how long it has stood still, and where the axis is. */
@Component({
  selector: "ip-live-reading",
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./run.css",
  template: `
    <div class="reading" [attr.data-sample]="store.snapshot()?.sequence">
      <span class="figure" [class.none]="store.snapshot()?.displayMm === null">{{ live() }}</span>
      <span class="unit">{{ preferences.system() === "metric" ? "mm" : "in" }}</span>
      <span class="beside">
        @if (store.link() === "waiting") {
          <span class="wrong">waiting for the server…</span>
        } @else {
          <span class="quiet">{{ store.counted() === null ? stillText() : store.counted() + " steps so far" }}</span>
        }
        @if (store.snapshot(); as now) {
          <span
            >{{ letter() }} at <b>{{ position(now.commandMm) }}</b><span class="quiet"
              >, drive load {{ load(now.loadPercent) }}</span
            >
          </span>
        }
        <span class="simulated">simulated machine and indicator</span>
      </span>
    </div>
  `,
})
export class LiveReading {
  readonly letter = input.required<string>();
  protected readonly store = inject(RunStore);
  protected readonly preferences = inject(Preferences);
  protected readonly live = computed(() => {
    const snapshot = this.store.snapshot();
    const resolution = this.store.run()?.setup.indicator.resolutionMm ?? snapshot?.resolutionMm ?? 0.001;
    return liveText(snapshot?.displayMm ?? null, resolution, this.preferences.system());
  });
  protected readonly stillText = computed(() => {
    if (this.store.snapshot()?.moving) return "moving";
    const seconds = Math.min(this.store.stillMs(), HOLD_MS) / 1000;
    return `still for ${seconds.toFixed(1)} s of ${(HOLD_MS / 1000).toFixed(1)}`;
  });
  protected position(mm: number): string {
    return formatPosition(mm, { system: this.preferences.system() });
  }

  protected load(percent: number): string {
    return `${formatNumber(percent, 0, true)} %`;
  }
}
