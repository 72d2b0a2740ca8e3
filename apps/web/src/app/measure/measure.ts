import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { CHAIN_TEST_KINDS, formatWithU, stepsOf, TEST_TEXT } from "@iron/core";
import type { Run } from "@iron/contract";
import { Api } from "../data/api";
import { Preferences } from "../data/preferences";
import { saidIn } from "../data/problems";
import { momentText } from "../shared/times.text";
import { AxisContext } from "../machine/axis/axis-context";
import { ResultPanel } from "./run/result-panel";
import { LoadingLines } from "../shared/loading";
import { May } from "../shared/may";
import { NotYours } from "../shared/not-yours";

/** Station Measure: the tests, what is unfinished, and what the last one said. */
@Component({
  selector: "ip-measure",
  imports: [NotYours, May, LoadingLines, ButtonDirective, RouterLink, ResultPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./measure.html",
  styleUrl: "./measure.css",
})
export class MeasureStation {
  protected readonly context = inject(AxisContext);
  protected readonly preferences = inject(Preferences);
  private readonly api = inject(Api);
  protected readonly tests = CHAIN_TEST_KINDS.map((kind) => ({
    kind,
    ...TEST_TEXT[kind],
  }));
  protected readonly lastRun = signal<Run | null>(null);
  protected readonly error = signal("");
  protected readonly lastWhen = computed(() => {
    const last = this.context.last();
    return last ? `${TEST_TEXT[last.kind].name}, ${momentText(last.at)}, ${last.by}` : "";
  });
  /** The last value where it was typed in a job and has no readings here. */
  protected readonly typed = computed(() => {
    const last = this.context.last();
    if (!last || last.jobId === null || last.reversalValueMm === null) return null;
    const loss = formatWithU(last.reversalValueMm, last.expandedMm, {
      system: this.preferences.system(),
    });
    return { jobId: last.jobId, loss };
  });
  protected readonly open = computed(() =>
    this.context.open().map((run) => ({
      id: run.id,
      message: `${TEST_TEXT[run.kind].name} begun ${momentText(run.at)} by ${run.by}: ${run.readings} readings taken so far.`,
    })),
  );

  constructor() {
    effect((onCleanup) => {
      const last = this.context.last();
      this.lastRun.set(null);
      if (!last || last.runId === null) return;
      const loading = this.api.call("run", { params: { id: last.runId } }).subscribe({
        next: (run) => this.lastRun.set(run),
        error: saidIn(this.error),
      });
      onCleanup(() => loading.unsubscribe());
    });
  }

  protected count(run: Run): number {
    return stepsOf(run.plan).length;
  }
}
