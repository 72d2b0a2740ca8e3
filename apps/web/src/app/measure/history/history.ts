import { AddressPipe } from "../../data/address.pipe";
import type { Address } from "../../data/api";
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, untracked } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { TEST_KINDS, TEST_TEXT, type TestKind } from "@iron/core";
import { Preferences } from "../../data/preferences";
import { ChartView, type DrawChart } from "../../shared/chart";
import { momentText } from "../../shared/times.text";
import { AxisContext } from "../../machine/axis/axis-context";
import { historyChart } from "./history-chart";
import { comparisonSentence, historyChartData, historyRows, measuredOf, trendSentence } from "./history.view";
import { type Choice, ChoiceField } from "../../shared/fields";
import { ChoicesPipe } from "../../shared/choices.pipe";
import { LoadingLines } from "../../shared/loading";
import { EventForm } from "./event-form";
import { May } from "../../shared/may";

@Component({
  selector: "ip-history",
  imports: [
    May,
    EventForm,
    LoadingLines,
    ButtonDirective,
    AddressPipe,
    RouterLink,
    ChartView,
    ChoiceField,
    ChoicesPipe,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./history.html",
  styleUrl: "../measure.css",
})
export class HistoryPlace {
  protected readonly context = inject(AxisContext);
  protected readonly preferences = inject(Preferences);
  /** The kind with the most measurements, until another is chosen. */
  protected readonly kind = linkedSignal<number | undefined, TestKind | "all">({
    // A history read anew is the same axis’: what was chosen stays.
    source: () => (this.context.history() ? this.context.axis()?.id : undefined),
    computation: (axisId, before) => {
      const history = untracked(() => this.context.history());
      if (!history) return "all";
      if (before && before.source === axisId) return before.value;
      const counted = TEST_KINDS.map((k) => ({ k, n: measuredOf(history, k).length })).sort((a, b) => b.n - a.n);
      return counted[0].n > 0 ? counted[0].k : "all";
    },
  });
  protected readonly kinds: readonly Choice<TestKind | "all">[] = [
    { id: "all", label: "all tests" },
    ...TEST_KINDS.map((id) => ({ id, label: TEST_TEXT[id].name })),
  ];
  protected readonly view = computed(() => {
    const history = this.context.history();
    const axis = this.context.axis();
    if (!history || !axis) return null;
    const system = this.preferences.system();
    const kind = this.kind();
    return {
      rows: historyRows(history, kind, system),
      trend: trendSentence(history, { kind, config: axis.config, system }),
      measured: measuredOf(history, kind).map((r) => ({
        key: r.key,
        label: `${momentText(r.at)}, ${TEST_TEXT[r.kind].name}`,
      })),
      data: historyChartData(history, { kind, config: axis.config, system }),
      events: history.events.map((e) => ({ ...e, when: momentText(e.at) })).reverse(),
      any: history.runs.length + history.typed.length > 0,
    };
  });
  protected readonly draw = computed<DrawChart | null>(() => {
    const view = this.view();
    if (!view || view.data.points.length === 0) return null;
    const unit = this.preferences.system() === "metric" ? "µm" : "tenths";
    return (ink) => historyChart(view.data, unit, ink);
  });
  private readonly measuredKeys = computed(() => (this.view()?.measured ?? []).map((m) => m.key));
  /** The two that are compared: the last ones, until others are chosen that are still shown. */
  protected readonly first = linkedSignal<readonly string[], string>({
    source: this.measuredKeys,
    computation: (ids, before) => stays(ids, before?.value) ?? ids.at(-2) ?? "",
  });
  protected readonly second = linkedSignal<readonly string[], string>({
    source: this.measuredKeys,
    computation: (ids, before) => stays(ids, before?.value) ?? ids.at(-1) ?? "",
  });
  protected readonly comparison = computed(() => {
    const history = this.context.history();
    return history
      ? comparisonSentence(history, {
          firstKey: this.first(),
          secondKey: this.second(),
          system: this.preferences.system(),
        })
      : "";
  });
  protected exportOf(format: "csv" | "json"): Address<"exportHistory"> {
    return { params: { id: this.context.axis()?.id ?? 0 }, query: { format, system: this.preferences.system() } };
  }
}

const stays = (keys: readonly string[], key: string | undefined): string | undefined =>
  key !== undefined && keys.includes(key) ? key : undefined;
