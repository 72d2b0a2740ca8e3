import { TickBox } from "../shared/tick-box";
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import { Router, RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import {
  availability,
  COUNTS_TOWARDS,
  isSplitTest,
  locateTest,
  setupSentences,
  TEST_KINDS,
  TEST_WORDS,
  tipAngleFactor,
  type TestKind,
  type UnitSystem,
} from "@iron/core";
import type { Axis, IndicatorRecord, RunSetup } from "@iron/contract";
import { catchError, of } from "rxjs";
import { Api } from "../data/api";
import { Preferences } from "../data/preferences";
import { problemFrom } from "../data/problems";
import { AxisContext } from "../machine/axis/axis-context";
import { checkSetUp, inOtherUnits, usualSetUp, type SetUpDraft } from "./set-up.view";
import { type Choice, ChoiceField, TextField } from "../shared/fields";
import { ChoicesPipe } from "../shared/choices.pipe";
import { LoadingLines } from "../shared/loading";

interface DraftSource {
  readonly axis: Axis;
  readonly kind: TestKind;
  readonly system: UnitSystem;
}

function usualSurface(kind: TestKind | null, keepsZero: boolean, marked: boolean): RunSetup["surface"] {
  if (keepsZero) return "reference scale";
  if (kind === "end-float") return marked ? "flat screw end" : "ball in the centre hole";
  if (kind === "nut-flank") return "thread flank";
  return kind && isSplitTest(kind) ? "part of the drive" : "gauge block";
}

@Component({
  selector: "ip-set-up",
  imports: [LoadingLines, ButtonDirective, TickBox, RouterLink, ChoiceField, TextField, ChoicesPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./set-up.html",
  styleUrl: "./measure.css",
})
export class SetUpTest {
  readonly kind = input.required<string>();
  /** Place asked for by address, mm. */
  readonly at = input<string>();
  protected readonly context = inject(AxisContext);
  protected readonly preferences = inject(Preferences);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly indicators = toSignal(this.api.call("indicators").pipe(catchError(() => of([]))), {
    initialValue: null,
  });
  protected readonly usable = computed(() => (this.indicators() ?? []).filter((i) => !i.retiredAt));
  protected readonly test = computed<TestKind | null>(() => TEST_KINDS.find((k) => k === this.kind()) ?? null);
  protected readonly words = computed(() => {
    const kind = this.test();
    return kind ? TEST_WORDS[kind] : null;
  });
  private readonly chosen = signal<number | null>(null);
  protected readonly indicator = computed<IndicatorRecord | null>(() => {
    const all = this.usable();
    const reaching =
      this.test() === "travel-profile"
        ? all.find((i) => i.rangeMm / 2 >= (this.context.axis()?.config.travelMm ?? Infinity))
        : undefined;
    return all.find((i) => i.id === this.chosen()) ?? reaching ?? all[0] ?? null;
  });
  /** What is typed is kept when the units change: it is only said in the others. */
  protected readonly draft = linkedSignal<DraftSource | null, SetUpDraft | null>({
    source: () => {
      const axis = this.context.axis();
      const kind = this.test();
      if (!axis || !kind || this.indicators() === null) return null;
      return { axis, kind, system: this.preferences.system() };
    },
    computation: (source, previous) => {
      if (!source) return null;
      const { axis, kind, system } = source;
      const before = previous?.source;
      if (previous?.value && before && before.kind === kind && before.axis.id === axis.id)
        return inOtherUnits(previous.value, before.system, system);
      const indicator = untracked(() => this.indicator());
      const at = untracked(() => this.at());
      const atMm = at ? Number(at) : NaN;
      const inside = atMm >= 0 && atMm <= axis.config.travelMm;
      return usualSetUp(kind, { axis: axis.config, indicator, system, atMm: inside ? atMm : null });
    },
  });
  protected readonly check = computed(() => {
    const draft = this.draft();
    const axis = this.context.axis();
    const kind = this.test();
    return draft && axis && kind
      ? checkSetUp(draft, {
          kind,
          axis: axis.config,
          indicator: this.indicator(),
          system: this.preferences.system(),
          more: {
            markedTurns: kind === "end-float" && this.marked(),
            lastMm: this.context.last()?.lostMm ?? null,
          },
        })
      : null;
  });
  protected readonly sense = signal<1 | -1>(1);
  /** How the sense is asked: for a part of the drive by what that part does. */
  protected readonly senseAsk = computed(() => {
    const kind = this.test();
    if (!kind || !isSplitTest(kind))
      return {
        label: "When the axis goes to plus, the needle",
        one: "rises",
        other: "falls",
      };
    const { part, counts } = COUNTS_TOWARDS[kind];
    const other = counts === "plus" ? "minus" : "plus";
    return {
      label: `The needle rises when ${part} moves towards`,
      one: counts,
      other,
    };
  });
  protected readonly senses = computed<readonly Choice<1 | -1>[]>(() => [
    { id: 1, words: this.senseAsk().one },
    { id: -1, words: this.senseAsk().other },
  ]);
  /** End float without a ball: whole turns to a mark. */
  protected readonly marked = signal(false);
  /** Why this test cannot be done on this axis; empty when it can. */
  protected readonly impossible = computed(() => {
    const axis = this.context.axis();
    const kind = this.test();
    const test = kind && isSplitTest(kind) ? locateTest(kind) : undefined;
    if (!axis || !test) return "";
    const there = availability(axis.config, test);
    return there.possible ? "" : there.say;
  });
  protected readonly surface = linkedSignal<RunSetup["surface"]>(() =>
    usualSurface(this.test(), this.check()?.plan?.keepsZero ?? false, this.marked()),
  );
  protected readonly note = signal("");
  protected readonly starting = signal(false);
  protected readonly wrong = signal("");
  protected readonly surfaces = [
    "gauge block",
    "ground face",
    "milled face",
    "square",
    "reference scale",
    "ball in the centre hole",
    "flat screw end",
    "thread flank",
    "part of the drive",
  ] as const;
  protected readonly sentences = computed(() => {
    const axis = this.context.axis();
    const kind = this.test();
    return axis && kind
      ? setupSentences(
          axis.config,
          {
            kind,
            keepsZero: this.check()?.plan?.keepsZero ?? false,
            markedTurns: this.marked(),
          },
          this.preferences.system(),
        )
      : [];
  });
  protected readonly factor = computed(() => {
    const angle = this.check()?.tipAngleDeg ?? 0;
    return angle > 0 && angle < 80 ? `readings × ${tipAngleFactor(angle).toFixed(3)}` : "no correction";
  });
  protected readonly unit = computed(() => (this.preferences.system() === "metric" ? "mm" : "in"));

  constructor() {
    effect(() => {
      const indicator = this.indicator();
      if (indicator) untracked(() => this.edit("tipAngle", String(indicator.tipAngleDeg)));
    });
  }

  protected edit(field: keyof SetUpDraft, value: string): void {
    this.draft.update((d) => (d ? { ...d, [field]: value } : d));
  }

  protected choose(id: number): void {
    this.chosen.set(id);
  }

  protected start(): void {
    const check = this.check();
    const indicator = this.indicator();
    const axis = this.context.axis();
    if (!check?.plan || !indicator || !axis || this.starting()) return;
    const { name, kind, resolutionMm, unit, tipAngleDeg, rangeMm } = indicator;
    const { hysteresisMm, calibrationMm } = indicator;
    const setup: RunSetup = {
      indicator: {
        name,
        kind,
        resolutionMm,
        unit,
        tipAngleDeg,
        rangeMm,
        hysteresisMm,
        calibrationMm,
      },
      tipAngleDeg: check.tipAngleDeg,
      sense: this.sense(),
      surface: this.surface(),
      temperatureC: check.temperatureC,
      note: this.note(),
    };
    this.starting.set(true);
    this.api.call("startRun", { params: { id: axis.id }, body: { plan: check.plan, setup } }).subscribe({
      next: (run) => void this.router.navigateByUrl(`${this.context.base()}/runs/${run.id}`),
      error: (error: unknown) => {
        this.starting.set(false);
        this.wrong.set(problemFrom(error).detail);
      },
    });
  }
}
