import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import {
  commandedAs,
  programMoves,
  axisWords,
  gcodeProgram,
  isGravityAxis,
  needsLift,
  BoundError,
  PROGRAM_ARGUMENTS,
  fromMm,
  toMm,
  type AxisConfig,
  type CommandedAs,
  type TipLift,
  type UnitSystem,
  type DwellWord,
} from "@iron/core";
import { parseDecimal, type Run } from "@iron/contract";
import { Dialog } from "primeng/dialog";
import { Preferences } from "../../data/preferences";
import { saveFile } from "../../data/save-file";
import { ChartView, type DrawChart } from "../../shared/chart";
import { AxisContext } from "../../machine/axis/axis-context";
import { DWELL_WORDS } from "./dwell-words";
import { pathChart, pathPoints } from "./path-chart";
import { type Choice, ChoiceField, choicesOf, TextField } from "../../shared/fields";
import { ChoicesPipe } from "../../shared/choices.pipe";
import { FirstFocus } from "../../shared/first-focus";
import { May } from "../../shared/may";

interface ProgramTexts {
  readonly feed: string;
  readonly dwell: string;
  readonly clear: string;
  readonly read: string;
}

function inUnits(
  mm: Record<"feed" | "clear" | "read", number>,
  { dwell, system, before }: { readonly dwell: string; readonly system: UnitSystem; readonly before?: ProgramTexts },
): ProgramTexts {
  const unit = system === "metric" ? "mm" : "in";
  const shown = (field: "feed" | "clear" | "read"): string =>
    Number.isNaN(mm[field]) ? (before?.[field] ?? "") : String(Number(fromMm(mm[field], unit).toFixed(3)));
  return {
    feed: shown("feed"),
    dwell,
    clear: shown("clear"),
    read: shown("read"),
  };
}

/** What to begin with, a round figure in either unit. */
const START: Record<UnitSystem, ProgramTexts> = {
  metric: { feed: "1000", dwell: "4", clear: "20", read: "5" },
  inch: { feed: "40", dwell: "4", clear: "0.75", read: "0.2" },
};

/** The field that a refused program is refused for, where it is one that is typed. */
const FIELD_OF: Readonly<Partial<Record<string, keyof ProgramTexts>>> = {
  [PROGRAM_ARGUMENTS.feed]: "feed",
  [PROGRAM_ARGUMENTS.dwell]: "dwell",
  [PROGRAM_ARGUMENTS.clear]: "clear",
  [PROGRAM_ARGUMENTS.clearance]: "clear",
  [PROGRAM_ARGUMENTS.read]: "read",
};

/** The test as a program: options, preview of the text and the path, download, and a run of it here. */
@Component({
  selector: "ip-program-panel",
  imports: [May, ButtonDirective, Dialog, ChartView, ChoiceField, FirstFocus, TextField, ChoicesPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./program-panel.html",
  styles: `
    .fields {
      margin-bottom: var(--space-3);
    }
    pre {
      font:
        13px/1.5 "B612 Mono",
        monospace;
      border: 1px solid var(--rule);
      background: var(--paper);
      padding: var(--space-3);
      max-height: 220px;
      overflow: auto;
      margin: var(--space-3) 0;
      min-height: 220px;
    }

    /* Path and text keep their room while a figure is being mended. */
    .none {
      min-height: calc(170px + 220px + 2 * var(--space-3));
    }
  `,
})
export class ProgramPanel {
  readonly run = input.required<Run>();
  readonly config = input.required<AxisConfig>();
  readonly canRun = input.required<boolean>();
  readonly closed = output();
  /** The program is taken along: in these units and decimals it commands the places. */
  readonly noted = output<CommandedAs>();
  readonly runHere = output<{ feedMmMin: number; dwellS: number }>();
  protected readonly dwellWords = DWELL_WORDS;
  protected readonly programUnits: readonly Choice<UnitSystem>[] = [
    { id: "metric", label: "millimetres, G21" },
    { id: "inch", label: "inches, G20" },
  ];
  protected readonly zeroWays: readonly Choice<"stop" | "dwell">[] = [
    { id: "stop", label: "stops, M0" },
    { id: "dwell", label: "dwells" },
  ];
  protected readonly inchPlaces: readonly Choice<4 | 5>[] = [
    { id: 4, label: "four" },
    { id: 5, label: "five, where the control takes them" },
  ];
  protected readonly liftChoices = computed<readonly Choice[]>(() => [
    ...choicesOf(this.clearLetters()),
    { id: "by-hand", label: "the hand: the program stops" },
    ...(this.lifts() ? [] : [{ id: "none", label: "nothing: it rides along" }]),
  ]);
  protected readonly dwellWord = signal<DwellWord>("P-seconds");
  protected readonly system = signal<UnitSystem>(inject(Preferences).system());
  private readonly axisContext = inject(AxisContext, { optional: true });
  protected readonly zeroBy = signal<"stop" | "dwell">("stop");
  protected readonly inchDecimals = signal<4 | 5>(4);
  protected readonly lifts = computed(() => needsLift(this.run().plan));
  /** An axis letter, "by-hand" or "none"; lifted by another axis unless somebody chooses. */
  private readonly chosenLift = signal<string | null>(null);
  protected readonly lift = computed(
    () => this.chosenLift() ?? (this.lifts() ? (this.clearLetters().at(0) ?? "by-hand") : "none"),
  );
  /** The axis that lifts; null where none does. */
  protected readonly lifter = computed(() => this.others().find((c) => c.letter === this.lift()) ?? null);
  protected readonly clearLetter = computed(() => this.lifter()?.letter ?? "");
  /** How the control writes an axis with a digit, by its name; as Z2= until somebody says otherwise. */
  private readonly axisWords = signal<Readonly<Record<string, string>>>({});
  /** Axes whose name has a digit, and how they may be written. */
  protected readonly digits = computed(() =>
    [this.config(), ...(this.lifter() ? [this.lifter()] : [])].flatMap((c) =>
      c && c.letter.length > 1
        ? [
            {
              axis: c.letter,
              word: this.wordOf(c.letter),
              words: this.axisWordsOf(c.letter),
            },
          ]
        : [],
    ),
  );
  private readonly others = computed(() => {
    const own = this.config().letter;
    return (this.axisContext?.axes() ?? []).map((a) => a.config).filter((c) => c.letter !== own);
  });
  /** Other axes of the machine, the one that goes up and down first. */
  protected readonly clearLetters = computed(() => {
    const sorted = [...this.others()].sort((a, b) => Number(isGravityAxis(b)) - Number(isGravityAxis(a)));
    return sorted.map((c) => c.letter);
  });
  protected readonly unit = computed<"mm" | "in">(() => (this.system() === "metric" ? "mm" : "in"));

  /** As typed, in the units that the program is written in. */
  protected readonly texts = signal<ProgramTexts>(START[this.system()]);
  private readonly feed = computed(() => this.lengthOf(this.texts().feed));
  private readonly dwell = computed(() => parseDecimal(this.texts().dwell) ?? NaN);
  private readonly clearMm = computed(() => this.lengthOf(this.texts().clear));
  private readonly readMm = computed(() => this.lengthOf(this.texts().read));
  private readonly options = computed(() => ({
    letter: this.wordOf(this.config().letter),
    feedMmMin: this.feed(),
    dwellS: this.dwell(),
    lift: this.liftOption(),
    zeroBy: this.zeroBy(),
    inchDecimals: this.inchDecimals(),
    system: this.system(),
    dwellWord: this.dwellWord(),
    title: `Test ${this.run().id}, axis ${this.config().letter}: ${this.run().plan.kind}`,
    travelMm: this.config().travelMm,
    rapidMmMin: this.config().rapidMmMin,
  }));
  protected readonly program = computed<{ text: string; error: string; of: keyof ProgramTexts | null }>(() => {
    try {
      return { text: gcodeProgram(this.run().plan, this.options()), error: "", of: null };
    } catch (error) {
      if (!(error instanceof BoundError)) throw error;
      const length = this.system() === "inch" && error.argument !== PROGRAM_ARGUMENTS.dwell;
      const message = Number.isNaN(error.value) ? `not a number; it must be ${error.bound}` : error.message;
      return {
        text: "",
        error: `${message}${length ? " (that is in millimetres)" : ""}.`,
        of: FIELD_OF[error.argument] ?? null,
      };
    }
  });
  protected readonly draw = computed<DrawChart>(() => {
    const points = pathPoints(programMoves(this.run().plan, this.options()), this.config().rapidMmMin, this.feed());
    const shown = points.map((p) => ({
      x: p.x,
      y: fromMm(p.y, this.unit()),
    }));
    return (ink) => pathChart(shown, `${this.config().letter}, ${this.unit()}`, ink);
  });

  /** Why there is no program, where that field is why. */
  protected errorOf(field: keyof ProgramTexts): string {
    const { error, of } = this.program();
    return of === field ? error.charAt(0).toUpperCase() + error.slice(1) : "";
  }

  private liftOption(): TipLift {
    const lifter = this.lifter();
    if (lifter)
      return {
        way: "axis",
        letter: this.wordOf(lifter.letter),
        travelMm: lifter.travelMm,
        clearMm: this.clearMm(),
        readMm: this.readMm(),
      };
    return { way: this.lift() === "by-hand" ? "by-hand" : "none" };
  }

  private axisWordsOf(axis: string): readonly string[] {
    const all = [this.config(), ...this.others()].map((c) => c.letter);
    return axisWords(
      axis,
      all.filter((a) => a !== axis),
    );
  }

  private wordOf(axis: string): string {
    return this.axisWords()[axis] ?? this.axisWordsOf(axis)[0];
  }

  protected write(axis: string, word: string): void {
    this.axisWords.update((chosen) => ({ ...chosen, [axis]: word }));
  }

  protected useLift(way: string): void {
    this.chosenLift.set(way);
  }

  protected type(field: keyof ProgramTexts, text: string): void {
    this.texts.update((texts) => ({ ...texts, [field]: text }));
  }

  /** The same lengths in the other units; what is no number stays as typed, what was proposed stays round. */
  protected useUnits(system: UnitSystem): void {
    const [feed, clear, read] = [this.feed(), this.clearMm(), this.readMm()];
    const untouched = this.texts() === START[this.system()];
    this.system.set(system);
    if (untouched) {
      this.texts.set(START[system]);
      return;
    }
    this.texts.set(inUnits({ feed, clear, read }, { dwell: this.texts().dwell, system, before: this.texts() }));
  }

  protected runIt(): void {
    this.runHere.emit({ feedMmMin: this.feed(), dwellS: this.dwell() });
  }

  private lengthOf(text: string): number {
    const value = parseDecimal(text);
    return value === undefined ? NaN : toMm(value, this.unit());
  }

  protected download(): void {
    if (this.run().state === "running") this.noted.emit(commandedAs(this.options()));
    const file = new Blob([this.program().text], { type: "text/plain" });
    saveFile(file, `test-${this.run().id}-${this.config().letter}.nc`);
  }
}
