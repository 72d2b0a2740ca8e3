import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from "@angular/core";
import { Router, RouterLink } from "@angular/router";
import {
  DATUMS,
  formatQuantity,
  fromShown,
  gibSetting,
  seriesInstruction,
  seriesQuantity,
  seriesResult,
  seriesSetup,
  SERIES_WORDS,
  unitOf,
  type Datum,
} from "@iron/core";
import { parseDecimal, type Series } from "@iron/contract";
import { InputText } from "primeng/inputtext";
import type { Observable } from "rxjs";
import { Api } from "../../data/api";
import { Notices } from "../../data/notices";
import { Preferences } from "../../data/preferences";
import { problemFrom } from "../../data/problems";
import { ChartView, type DrawChart } from "../../shared/chart";
import { Keys } from "../../shared/keys";
import { momentWords } from "../../shared/words";
import { AxisContext } from "../axis/axis-context";
import { CaseStore } from "../case/case-store";
import {
  nextSeriesStep,
  seriesAsResult,
  seriesChart,
  seriesRows,
  seriesSays,
  seriesValues,
} from "./series.view";

const DATUM_WORDS: Record<Datum, string> = {
  fixed: "fixed end",
  far: "far end",
  bracket: "nut bracket",
};

/** A row of readings taken one by one: crest run, gib curve, tram, home test. */
@Component({
  selector: "ip-series",
  imports: [RouterLink, InputText, ChartView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./series-place.html",
  styleUrl: "./set.css",
})
export class SeriesPlace {
  readonly seriesId = input.required<string>();
  protected readonly context = inject(AxisContext);
  protected readonly cases = inject(CaseStore);
  protected readonly preferences = inject(Preferences);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  private readonly field = viewChild<ElementRef<HTMLInputElement>>("field");
  protected readonly series = signal<Series | null>(null);
  private readonly before = signal<Series | null>(null);
  protected readonly wrong = signal("");
  protected readonly entryWrong = signal("");
  protected readonly text = signal("");
  protected readonly busy = signal(false);
  protected readonly datum = signal<Datum>("bracket");
  protected readonly datums = DATUMS.map((id) => ({
    id,
    words: DATUM_WORDS[id],
  }));
  /** Shims in stock, as typed in the reader’s units; empty for the usual set. */
  protected readonly stockText = signal("");
  protected readonly stockWrong = signal("");
  private readonly stock = signal<readonly number[] | undefined>(undefined);
  protected readonly pitch = signal(1.5);
  protected readonly taper = signal(60);
  protected readonly config = computed(
    () => this.context.axis()?.config ?? null,
  );
  protected readonly words = computed(() => {
    const series = this.series();
    return series ? SERIES_WORDS[series.plan.kind] : null;
  });
  protected readonly step = computed(() => {
    const series = this.series();
    return series ? nextSeriesStep(series) : null;
  });
  protected readonly instruction = computed(() => {
    const series = this.series();
    const step = this.step();
    return series && step
      ? seriesInstruction(series.plan, step, this.preferences.system())
      : "";
  });
  protected readonly setup = computed(() => {
    const config = this.config();
    const series = this.series();
    return config && series ? seriesSetup(config, series.plan) : [];
  });
  protected readonly rows = computed(() => {
    const series = this.series();
    return series ? seriesRows(series, this.preferences.system()) : [];
  });
  protected readonly done = computed(
    () => this.rows().filter((r) => r.value).length,
  );
  protected readonly unit = computed(() => {
    const series = this.series();
    return series
      ? unitOf(seriesQuantity(series.plan), this.preferences.system())
      : "";
  });
  protected readonly result = computed(() => {
    const series = this.series();
    const config = this.config();
    if (!series || !config) return null;
    return seriesResult(config, series.plan, seriesValues(series), {
      datum: this.datum(),
      stockMm: this.stock(),
    });
  });
  protected readonly says = computed(() => {
    const result = this.result();
    const config = this.config();
    return result && config
      ? seriesSays(result, config, this.preferences.system())
      : [];
  });
  protected readonly moves = computed(() => {
    const result = this.result();
    const system = this.preferences.system();
    if (result?.kind !== "crest-run") return [];
    return result.alignment.moves.map((m) => ({
      support: DATUM_WORDS[m.support],
      plane: m.plane,
      move: formatQuantity("deviation", m.moveMm, system, true),
      u: formatQuantity("deviation", m.expandedMm, system),
      shims: m.shims.pieces.length
        ? m.shims.pieces
            .map((p) => formatQuantity("length", p, system))
            .join(" + ")
        : "none",
    }));
  });
  protected readonly bolts = computed(() => {
    const result = this.result();
    const system = this.preferences.system();
    if (result?.kind !== "tram" || result.tram.within) return [];
    return result.tram.bolts.map((b) => ({
      name: b.name,
      lift: formatQuantity("deviation", b.liftMm, system),
      shims: b.shims.pieces.length
        ? b.shims.pieces
            .map((p) => formatQuantity("length", p, system))
            .join(" + ")
        : "none",
    }));
  });
  protected readonly gib = computed(() => {
    const result = this.result();
    if (result?.kind !== "gib-curve" || !result.knee.reached) return "";
    const set = gibSetting(result.knee, {
      pitchMm: this.pitch(),
      taper: 1 / this.taper(),
    });
    return `Set the adjuster at ${set.setTurns.toFixed(2)} turns in: ${formatQuantity("deviation", set.backMm, this.preferences.system())} back from the knee.`;
  });
  protected readonly chart = computed<DrawChart | null>(() => {
    const series = this.series();
    const result = this.result();
    const system = this.preferences.system();
    if (!series || this.done() === 0) return null;
    if (series.plan.kind !== "crest-run" && series.plan.kind !== "gib-curve")
      return null;
    return (ink) => seriesChart(series, result, system, ink) as never;
  });
  /** What the same measurement said the time before. */
  protected readonly beforeSays = computed(() => {
    const before = this.before();
    const config = this.config();
    if (!before || !config) return "";
    const result = seriesResult(config, before.plan, seriesValues(before), { datum: this.datum() }); // prettier-ignore
    return result
      ? `${momentWords(before.startedAt)}, ${before.by}: ${seriesSays(result, config, this.preferences.system())[0]}`
      : "";
  });
  /** What can be kept in the open case of the axis. */
  protected readonly forCase = computed(() => {
    const series = this.series();
    const result = this.result();
    return series && result
      ? seriesAsResult(series.plan, seriesValues(series), result)
      : null;
  });

  constructor() {
    effect(() => {
      const id = this.seriesId();
      untracked(() => this.load(id));
    });
    inject(Keys).use(
      {
        key: " ",
        shown: "Space",
        does: "Read this step on the simulated machine",
        act: () => this.readDevice(),
      },
      {
        key: "Backspace",
        shown: "⌫",
        does: "Take the last reading back",
        act: () => this.takeBack(),
      },
    );
  }

  protected load(id = this.seriesId()): void {
    this.wrong.set("");
    this.api.get("series", `/series/${id}`).subscribe({
      next: (series) => {
        this.series.set(series);
        this.findBefore(series);
      },
      error: (error: unknown) => this.wrong.set(problemFrom(error).detail),
    });
  }

  private findBefore(series: Series): void {
    this.api.get("axisSeries", `/axes/${series.axisId}/series`).subscribe({
      next: (list) => this.before.set(list.find((s) => s.id < series.id && s.plan.kind === series.plan.kind && s.state === "finished") ?? null), // prettier-ignore
      error: () => this.before.set(null),
    });
  }

  protected readDevice(): void {
    const step = this.step();
    if (!step || this.busy() || this.context.device() !== "simulated") return;
    this.follow(
      this.api.post("readSeriesStep", `/series/${this.seriesId()}/device`, {
        step: step.index,
      }),
    );
  }

  protected enter(): void {
    const step = this.step();
    const series = this.series();
    if (!step || !series || this.busy()) return;
    const shown = parseDecimal(this.text());
    if (shown === undefined) {
      this.entryWrong.set(
        `“${this.text().trim()}” is not a number. Type the reading in ${this.unit()}, with a point or comma.`,
      );
      return;
    }
    this.entryWrong.set("");
    this.keep(
      step.index,
      fromShown(seriesQuantity(series.plan), shown, this.preferences.system()),
      this.text().trim(),
    );
  }

  protected takeBack(): void {
    const last = this.rows()
      .filter((r) => r.value)
      .at(-1);
    if (last && !this.busy()) this.keep(last.step, null, "taken back");
  }

  private keep(step: number, value: number | null, entered: string): void {
    this.follow(
      this.api.post("addSeriesPoint", `/series/${this.seriesId()}/points`, {
        key: crypto.randomUUID(),
        step,
        value,
        entered,
      }),
    );
  }

  private follow(answer: Observable<Series>): void {
    this.busy.set(true);
    answer.subscribe({
      next: (series) => {
        this.series.set(series);
        this.busy.set(false);
        this.text.set("");
        setTimeout(() => this.field()?.nativeElement.focus());
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.notices.wrong(error);
      },
    });
  }

  protected setStock(text: string): void {
    this.stockText.set(text);
    const sizes = text.split(/[;\s]+/).filter(Boolean).map((t) => parseDecimal(t)); // prettier-ignore
    const system = this.preferences.system();
    const mm = sizes.map((s) => (s === undefined ? NaN : fromShown("length", s, system))); // prettier-ignore
    const wrong = mm.findIndex((s) => !(s > 0 && s <= 10));
    this.stockWrong.set(wrong >= 0 ? `“${text.split(/[;\s]+/).filter(Boolean)[wrong]}” is no shim: sizes are above 0 and up to ${formatQuantity("length", 10, system)}.` : ""); // prettier-ignore
    if (wrong < 0) this.stock.set(mm.length ? mm : undefined);
  }

  protected setNumber(which: "pitch" | "taper", text: string): void {
    const value = parseDecimal(text);
    if (value === undefined || value <= 0) return;
    this[which].set(value);
  }

  protected keepInCase(): void {
    const kept = this.forCase();
    if (!kept) return;
    this.cases.addResult(
      kept.test,
      kept.answers,
      "",
      kept.data,
      () =>
        // prettier-ignore
        void this.router.navigateByUrl(`${this.context.base()}/locate`),
    );
  }
}
