import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import {
  DATUMS,
  formatDeviation,
  formatPosition,
  formatQuantity,
  quantityWithU,
  fromShown,
  gibChoice,
  handTestOpen,
  handTestResult,
  USUAL_GIB_THREAD,
  HAND_TEST_TEXT,
  toShown,
  type Datum,
  type MoveWay,
} from "@iron/core";
import { parseDecimal, type HandTest } from "@iron/contract";
import { Onward } from "../../data/onward";
import { Preferences } from "../../data/preferences";
import { ChartView, type DrawChart } from "../../shared/chart";
import { ChoiceField, NumberField, TextField } from "../../shared/fields";
import { momentText } from "../../shared/times.text";
import { AxisContext } from "../../machine/axis/axis-context";
import { CaseStore } from "../../diagnosis/case-store";
import { handTestChart, handTestDrawn } from "./hand-test-chart";
import { handTestAsResult, handTestSays, handTestValues, shimStack } from "./hand-test.view";
import { TramShims } from "./tram-shims";

const DATUM_TEXT: Record<Datum, string> = {
  fixed: "fixed end",
  far: "far end",
  bracket: "nut bracket",
};

/** What a row of readings says, what to set by it, and the way into the open case. */
@Component({
  selector: "ip-hand-test-says",
  imports: [TramShims, ButtonDirective, RouterLink, ChartView, ChoiceField, TextField, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./hand-test-says.html",
  styleUrl: "./set.css",
})
export class HandTestSays {
  readonly handTest = input.required<HandTest>();
  /** The same measurement the time before, finished. */
  readonly before = input<HandTest | null>(null);
  protected readonly context = inject(AxisContext);
  protected readonly cases = inject(CaseStore);
  protected readonly preferences = inject(Preferences);
  private readonly onward = inject(Onward);
  protected readonly datum = signal<Datum>("bracket");
  protected readonly datums = DATUMS.map((id) => ({ id, label: DATUM_TEXT[id] }));
  /** Shims in stock, as typed in the reader’s units; empty for the usual set. */
  protected readonly stockText = linkedSignal<string>(() => {
    const system = this.preferences.system();
    return (untracked(() => this.stock()) ?? [])
      .map((mm) => String(Number(toShown("length", mm, system).toPrecision(6))))
      .join("; ");
  });
  protected readonly stockError = signal("");
  protected readonly stock = signal<readonly number[] | undefined>(undefined);
  protected readonly pitch = signal(USUAL_GIB_THREAD.pitchMm);
  protected readonly taper = signal(1 / USUAL_GIB_THREAD.taper);
  /** The usual pull of this axis, N; null where nobody typed it. */
  protected readonly usual = signal<number | null>(null);
  private readonly config = computed(() => this.context.axis()?.config ?? null);
  protected readonly text = computed(() => HAND_TEST_TEXT[this.handTest().plan.kind]);
  private readonly values = computed(() => handTestValues(this.handTest()));
  protected readonly open = computed(() => handTestOpen(this.handTest().plan, this.values()).length);
  protected readonly done = computed(() => this.values().filter((v) => v !== null).length);
  private readonly thread = computed(() => ({ pitchMm: this.pitch(), taper: 1 / this.taper() }));
  /** The usual pull: typed, or what it was the time before. */
  protected readonly usualN = computed<number | null>(() => {
    const typed = this.usual();
    if (typed !== null) return typed;
    const before = this.before();
    const config = this.config();
    if (!before || !config) return null;
    const result = handTestResult(config, before.plan, { values: handTestValues(before) });
    return result?.kind === "hand-push" ? (result.hand.figures[0]?.value ?? null) : null;
  });
  protected readonly result = computed(() => {
    const config = this.config();
    return config
      ? handTestResult(config, this.handTest().plan, {
          values: this.values(),
          datum: this.datum(),
          stockMm: this.stock(),
          usualN: this.usualN(),
        })
      : null;
  });
  protected readonly says = computed(() => {
    const result = this.result();
    const config = this.config();
    return result && config
      ? handTestSays(result, { config, system: this.preferences.system(), thread: this.thread() })
      : [];
  });
  protected readonly figures = computed(() => {
    const result = this.result();
    const system = this.preferences.system();
    if (!result || !("hand" in result)) return [];
    return result.hand.figures.map((f) => {
      const [value, u] =
        f.expanded === null
          ? [formatQuantity(f.quantity, f.value, system), ""]
          : quantityWithU(f.quantity, { value: f.value, expanded: f.expanded }, system);
      const at = f.atMm === undefined ? "" : ` ${formatPosition(f.atMm, { system })}`;
      return { name: `${f.name}${at}`, value, u };
    });
  });
  protected readonly moves = computed(() => {
    const result = this.result();
    const system = this.preferences.system();
    if (result?.kind !== "crest-run") return [];
    return result.alignment.moves.map((m) => ({
      support: DATUM_TEXT[m.support],
      plane: m.plane,
      move: formatDeviation(m.moveMm, {
        system,
        expandedMm: m.expandedMm,
        signed: true,
      }),
      u: formatDeviation(m.expandedMm, { system, expandedMm: m.expandedMm }),
      how: this.howText(m.way),
    }));
  });
  /** The datum from which every support only rises; empty when this one is it. */
  protected readonly raiseFrom = computed(() => {
    const result = this.result();
    if (result?.kind !== "crest-run" || !result.alignment.raiseFrom) return "";
    return `Shims only lift a housing off its casting. Let the ${DATUM_TEXT[result.alignment.raiseFrom]} stay where it is, and the others only rise; or take shims out where there are any.`;
  });
  /** The sweep, where it is worth shimming. */
  protected readonly outOfSquare = computed(() => {
    const result = this.result();
    return result?.kind === "tram" && result.tram.code !== "square" ? result.tram : null;
  });

  private howText(way: MoveWay): string {
    switch (way.code) {
      case "stays":
        return "near enough: leave it";
      case "raise":
        return `shim under it: ${shimStack(way.shims.pieces, this.preferences.system())}`;
      case "lower":
        return "would have to go nearer its casting";
      case "shift":
        return "shift it in its bolt holes, an indicator on it";
    }
  }
  protected readonly gib = computed(() => {
    const result = this.result();
    if (result?.kind !== "gib-curve") return null;
    const { setTurns } = gibChoice(result.gib, { thread: this.thread(), system: this.preferences.system() });
    return setTurns === null ? null : `Set the adjuster at ${setTurns.toFixed(2)} turns in.`;
  });
  protected readonly chart = computed<DrawChart | null>(() => {
    const handTest = this.handTest();
    const result = this.result();
    const system = this.preferences.system();
    if (this.done() === 0 || !handTestDrawn(handTest.plan)) return null;
    return (ink) => handTestChart(handTest, { result, system, ink });
  });
  protected readonly beforeSays = computed(() => {
    const before = this.before();
    const config = this.config();
    if (!before || !config) return "";
    const result = handTestResult(config, before.plan, { values: handTestValues(before), datum: this.datum() });
    return result
      ? `${momentText(before.startedAt)}, ${before.by}: ${handTestSays(result, { config, system: this.preferences.system() })[0]}`
      : "";
  });
  /** What can be kept in the open case of the axis. */
  protected readonly forCase = computed(() => {
    const result = this.result();
    return result ? handTestAsResult(this.handTest(), result) : null;
  });

  protected setStock(text: string): void {
    this.stockText.set(text);
    const sizes = text
      .split(/[;\s]+/)
      .filter(Boolean)
      .map((t) => parseDecimal(t));
    const system = this.preferences.system();
    const mm = sizes.map((s) => (s === undefined ? NaN : fromShown("length", s, system)));
    const at = mm.findIndex((s) => !(s > 0 && s <= 10));
    this.stockError.set(
      at >= 0
        ? `“${text.split(/[;\s]+/).filter(Boolean)[at]}” is no shim: sizes are above 0 and up to ${formatQuantity("length", 10, system)}.`
        : "",
    );
    if (at < 0) this.stock.set(mm.length ? mm : undefined);
  }

  protected keepInCase(): void {
    const kept = this.forCase();
    if (!kept) return;
    const [onward, base] = [this.onward.fromHere(), this.context.base()];
    this.cases.addResult(kept.test, kept.answers, {
      note: "",
      data: kept.data,
      then: () => onward(`${base}/locate`),
    });
  }
}
