import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  untracked,
} from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import {
  deviationUnit,
  formatWithU,
  fromShown,
  judgeRetest,
  refuseSign,
  stepBlocked,
  stepIn,
  toMm,
  typedExpanded,
  unitOf,
  UNIT_WORD,
  type CircleFigure,
  type JobFigure,
  type JobProgress,
  type PlannedStep,
  type SignedStep,
} from "@iron/core";
import { parseDecimal, type Job } from "@iron/contract";
import { Preferences } from "../data/preferences";
import { momentText } from "../shared/times.text";
import { CircleRetest } from "./circle-retest";
import { beforeFigure, stepLinks } from "./job.view";
import { VouchField } from "./vouch-field";
import { JobStore } from "./job-store";
import { ChoiceField, choicesOf, TextField } from "../shared/fields";
import { ChoicesPipe } from "../shared/choices.pipe";
import { OneOf } from "../shared/one-of";
import { byCheck, gate, valueOf } from "../shared/schema-form";
import { PhotoField } from "../shared/photo-field";
import { StepFacts } from "./step-facts";
import { May } from "../shared/may";
import { Single } from "../shared/single";

const TEXT = { nonNullable: true } as const;

interface Typed {
  readonly found: string | null;
  readonly kept: SignedStep["kept"];
  readonly change: string;
  readonly holdBy: string;
  readonly reason: string;
  readonly words: string;
  readonly reading: string;
  readonly loss: string;
  readonly measuredWith: number | "";
  readonly runs: string;
}

/** One step, large: what, why, with what, what good looks like; what was found, and the signature. */
@Component({
  selector: "ip-step-card",
  imports: [
    May,
    Single,
    ButtonDirective,
    ChoiceField,
    ChoicesPipe,
    CircleRetest,
    OneOf,
    PhotoField,
    ReactiveFormsModule,
    RouterLink,
    StepFacts,
    TextField,
    VouchField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./step-card.html",
  styleUrl: "./job.css",
})
export class StepCard {
  readonly step = input.required<PlannedStep>();
  readonly job = input.required<Job>();
  readonly progress = input.required<JobProgress>();
  readonly signed = output<SignedStep>();
  protected readonly store = inject(JobStore);
  protected readonly preferences = inject(Preferences);
  protected readonly keptStates = choicesOf(["as it was", "changed"]);
  protected readonly shown = computed(() => stepIn(this.step(), this.preferences.system()));
  /** What is signed, as it is typed; only another step empties it. */
  protected readonly form = new FormGroup(
    {
      found: new FormControl<string | null>(null),
      kept: new FormControl<SignedStep["kept"]>(null),
      change: new FormControl("", TEXT),
      holdBy: new FormControl("", TEXT),
      reason: new FormControl("", TEXT),
      words: new FormControl("", TEXT),
      reading: new FormControl("", TEXT),
      loss: new FormControl("", TEXT),
      /** With what a typed loss was measured: an indicator of the shop, or “” while nobody says. */
      measuredWith: new FormControl<number | "">("", TEXT),
      runs: new FormControl("5", TEXT),
    },
    { validators: byCheck<Typed>((value) => untracked(() => this.unreadable(value))) },
  );
  protected readonly typed = valueOf<Typed>(() => this.form);
  private readonly maySend = gate();
  /** Each answer of the server makes the same step anew. */
  private readonly stepId = computed(() => this.step().id);
  /** Taken over from a test, instead of typed. */
  protected readonly figure = linkedSignal<string, JobFigure | null>({ source: this.stepId, computation: () => null });
  protected readonly takenReading = linkedSignal<string, number | null>({
    source: this.stepId,
    computation: () => null,
  });
  protected readonly circle = linkedSignal<string, CircleFigure | null>({
    source: this.stepId,
    computation: () => null,
  });
  protected readonly error = linkedSignal<string, string>({ source: this.stepId, computation: () => "" });
  protected readonly askReason = linkedSignal<string, boolean>({ source: this.stepId, computation: () => false });
  protected readonly blocked = computed(() => stepBlocked(this.progress(), this.step()));
  protected readonly people = computed(() => (this.store.axes().length >= 0 ? this.preferences.who() : ""));
  protected readonly unit = computed(() => {
    const reading = this.step().reading;
    return reading ? unitOf(reading.quantity, this.preferences.system()) : "";
  });
  protected readonly lossUnit = computed(() => UNIT_WORD[deviationUnit(this.preferences.system())]);
  protected readonly says = computed(() => {
    const { found } = this.typed();
    return this.step().finds.find((f) => f.id === found) ?? null;
  });
  /** Tests taken on this axis since the job was opened, to take over as the retest. */
  protected readonly tests = computed(() => {
    const all: Partial<
      Record<
        string,
        readonly {
          id: number;
          at: string;
          reversalValueMm: number | null;
          expandedMm: number | null;
          placeMm: number | null;
        }[]
      >
    > = this.store.runs();
    const list = all[this.step().axis ?? ""] ?? [];
    const place = this.job().axes.find((a) => a.letter === this.step().axis)?.before?.placeMm ?? null;
    const elsewhere = (at: number | null): string =>
      place !== null && at !== null && Math.abs(at - place) > 1 ? " (another place)" : "";
    return list.slice(0, 3).map((run) => ({
      run,
      label: `${momentText(run.at)}: ${this.loss(run.reversalValueMm ?? 0, run.expandedMm)}${elsewhere(run.placeMm)}`,
    }));
  });
  protected readonly before = computed(() => beforeFigure(this.job(), this.progress(), this.step().axis ?? ""));
  protected readonly judged = computed(() => {
    const figure = this.figureOf(this.typed());
    const axis = this.job().axes.find((a) => a.letter === this.step().axis);
    return figure && axis
      ? judgeRetest(this.before(), figure, { limits: axis, system: this.preferences.system() })
      : null;
  });
  protected readonly measureLink = computed(() => {
    const axis = this.job().axes.find((a) => a.letter === this.step().axis);
    return axis ? `/machines/${this.job().machineId}/axes/${axis.axisId}/measure/new/two-sided` : "";
  });
  /** The place of the test before: the retest begins there. */
  protected readonly place = computed(() => {
    const axis = this.job().axes.find((a) => a.letter === this.step().axis);
    return axis?.before?.placeMm ?? null;
  });
  protected readonly links = computed(() => stepLinks(this.job(), this.step()));
  protected readonly lastKnown = computed(() => {
    const axis = this.job().axes.find((a) => a.letter === this.step().axis);
    return this.step().kind === "measure-before" ? (axis?.before ?? null) : null;
  });

  protected loss(mm: number, u: number | null): string {
    return formatWithU(mm, u, { system: this.preferences.system() });
  }

  constructor() {
    effect(() => {
      this.stepId();
      untracked(() => this.form.reset());
    });
    this.form.valueChanges.subscribe(() => this.error.set(""));
  }

  protected takeBefore(figure: JobFigure): void {
    this.form.controls.reading.setValue("");
    this.figure.set(figure);
    this.takenReading.set(figure.reversalValueMm);
  }

  protected takeRun(run: { id: number; reversalValueMm: number | null; expandedMm: number | null }): void {
    this.figure.set({ reversalValueMm: run.reversalValueMm ?? 0, expandedMm: run.expandedMm, runId: run.id });
    this.error.set("");
  }

  /** What of the typed figures cannot be read, by field. */
  private unreadable({ reading, loss, measuredWith, runs }: Typed): ReadonlyMap<string, string> {
    const said = new Map<string, string>();
    if (!reading.trim() && !loss.trim()) return said;
    const { reading: asked, retest } = this.step();
    if (asked && reading.trim() && parseDecimal(reading) === undefined)
      said.set(
        "reading",
        `“${reading.trim()}” is not a number: ${asked.label} is typed in ${this.unit() || "plain figures"}.`,
      );
    if (retest !== "chain" || !loss.trim()) return said;
    if (parseDecimal(loss) === undefined)
      said.set("loss", `“${loss.trim()}” is not a number: the loss is typed in ${this.lossUnit()}.`);
    const n = parseDecimal(runs);
    if (measuredWith !== "" && (n === undefined || !Number.isInteger(n) || n < 1 || n > 50))
      said.set("runs", `Runs ${runs.trim() || "nothing"} cannot be: a whole number from 1 to 50.`);
    return said;
  }

  /** A loss as typed, with U by what it was measured with, or as it was taken over; null while there is neither. */
  private figureOf({ loss, measuredWith, runs }: Typed): JobFigure | null {
    const lost = loss.trim() ? parseDecimal(loss) : undefined;
    if (this.step().retest !== "chain" || lost === undefined) return this.figure();
    const reversalValueMm = toMm(lost, deviationUnit(this.preferences.system()));
    const indicator = this.store.indicators().find((i) => i.id === measuredWith);
    const n = parseDecimal(runs);
    if (!indicator || n === undefined || !Number.isInteger(n) || n < 1 || n > 50)
      return { reversalValueMm, expandedMm: null, runId: null };
    const { resolutionMm, hysteresisMm, calibrationMm } = indicator;
    const own = { resolutionMm, hysteresisMm: hysteresisMm ?? 0, calibrationMm: calibrationMm ?? 0 };
    return { reversalValueMm, expandedMm: typedExpanded(own, n), runId: null };
  }

  private signOf(value: Typed): SignedStep {
    const { found, kept, change, holdBy, reason, words } = value;
    const asked = this.step().reading;
    const shown = asked && value.reading.trim() ? parseDecimal(value.reading) : undefined;
    const reading =
      shown === undefined
        ? this.takenReading()
        : fromShown(asked?.quantity ?? "number", shown, this.preferences.system());
    const said = { step: this.step().id, found, words, reading, reason, kept, change, holdBy };
    return { ...said, figure: this.figureOf(value), circle: this.circle() };
  }

  protected sign(): void {
    this.form.updateValueAndValidity();
    if (!this.maySend(this.form)) return;
    const job = this.job();
    const signed = this.signOf(this.form.getRawValue());
    const refusal = refuseSign(this.progress(), signed, {
      before: (letter) => beforeFigure(job, this.progress(), letter),
      limits: (letter) => job.axes.find((a) => a.letter === letter) ?? null,
      system: this.preferences.system(),
    });
    this.error.set(refusal?.message ?? "");
    if (refusal) {
      this.askReason.set(refusal.asksReason);
      return;
    }
    this.signed.emit(signed);
  }

  protected pick(file: File): void {
    this.store.photo(this.step().id, file, this.step().photo || this.step().title);
  }

  protected photosHere(): number {
    return this.job().photos.filter((p) => p.step === this.step().id).length;
  }

  protected photosWaiting(): number {
    return this.store.photosWaiting().filter((p) => p.step === this.step().id).length;
  }
}
