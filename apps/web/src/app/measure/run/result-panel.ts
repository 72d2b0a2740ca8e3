import { ChangeDetectionStrategy, Component, computed, input, output } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { isSplitTest, TEST_TEXT, type AxisConfig, type UnitSystem } from "@iron/core";
import type { Run } from "@iron/contract";
import { ChartView, type DrawChart } from "../../shared/chart";
import { StateMark } from "../../shared/state-mark";
import { profileChart } from "./profile-chart";
import { profileSeries, resultView } from "./result.view";
import { May } from "../../shared/may";

@Component({
  selector: "ip-result-panel",
  imports: [May, ButtonDirective, ChartView, StateMark, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./result-panel.html",
  styleUrls: ["../../shared/folds.css", "./result-panel.css"],
})
export class ResultPanel {
  readonly run = input.required<Run>();
  readonly config = input.required<AxisConfig>();
  readonly system = input.required<UnitSystem>();
  /** Address of the axis, for what comes next. */
  readonly base = input.required<string>();
  /** The needle counted the other way: readings stay, the result turns. */
  readonly turnSense = output<1 | -1>();
  protected readonly view = computed(() => resultView(this.run(), this.config(), this.system()));
  protected readonly split = computed(() => isSplitTest(this.run().plan.kind));
  protected readonly draw = computed<DrawChart | null>(() => {
    const view = this.view();
    if (!view || view.result.places[0].up.length === 0) return null;
    const series = profileSeries(view.result, this.config(), this.system());
    return (ink) => profileChart(series, ink);
  });
  protected readonly nextName = computed(() => {
    const next = this.view()?.verdict.nextTest;
    return next ? TEST_TEXT[next].name : "";
  });
}
