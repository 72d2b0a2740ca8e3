import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from "@angular/core";
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
  type JobFigure,
  type JobProgress,
  type PlannedStep,
  type SignedStep,
} from "@iron/core";
import { parseDecimal, type Job } from "@iron/contract";
import { Preferences } from "../data/preferences";
import { momentWords } from "../shared/words";
import { beforeFigure, newSign, stepLinks } from "./job.view";
import { JobStore } from "./job-store";
import { ChoiceField, choicesOf, TextField } from "../shared/fields";
import { ChoicesPipe } from "../shared/choices.pipe";
import { OneOf } from "../shared/one-of";
import { PhotoField } from "../shared/photo-field";
import { StepFacts } from "./step-facts";

/** One step, large: what, why, with what, what good looks like; what was found, and the signature. */
@Component({
  selector: "ip-step-card",
  imports: [OneOf, PhotoField, StepFacts, ButtonDirective, RouterLink, ChoiceField, TextField, ChoicesPipe],
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
  protected readonly draft = linkedSignal<PlannedStep, SignedStep>({
    source: this.step,
    computation: (step, before) => (before && before.source.id === step.id ? before.value : newSign(step)),
  });
  /** Only another step empties what is typed: each answer of the server makes the same step anew. */
  private readonly stepId = computed(() => this.step().id);
  protected readonly readingText = linkedSignal<string, string>({ source: this.stepId, computation: () => "" });
  protected readonly lossText = linkedSignal<string, string>({ source: this.stepId, computation: () => "" });
  /** With what a typed loss was measured: an indicator of the shop, or “” while nobody says. */
  protected readonly typedWith = linkedSignal<string, number | "">({
    source: this.stepId,
    computation: () => "",
  });
  protected readonly typedRuns = linkedSignal<string, string>({
    source: this.stepId,
    computation: () => "5",
  });
  protected readonly wrong = linkedSignal<string, string>({ source: this.stepId, computation: () => "" });
  protected readonly askReason = linkedSignal<string, boolean>({ source: this.stepId, computation: () => false });
  protected readonly blocked = computed(() => stepBlocked(this.progress(), this.step()));
  protected readonly people = computed(() => (this.store.axes().length >= 0 ? this.preferences.who() : ""));
  protected readonly unit = computed(() => {
    const reading = this.step().reading;
    return reading ? unitOf(reading.quantity, this.preferences.system()) : "";
  });
  protected readonly lossUnit = computed(() => UNIT_WORD[deviationUnit(this.preferences.system())]);
  protected readonly says = computed(() => {
    const { found } = this.draft();
    return this.step().finds.find((f) => f.id === found) ?? null;
  });
  /** Tests taken on this axis since the job was opened, to take over as the retest. */
  protected readonly tests = computed(() => {
    const all: Partial<
      Record<
        string,
        readonly { id: number; at: string; lostMm: number | null; expandedMm: number | null; placeMm: number | null }[]
      >
    > = this.store.runs();
    const list = all[this.step().axis ?? ""] ?? [];
    const place = this.job().axes.find((a) => a.letter === this.step().axis)?.before?.placeMm ?? null;
    const elsewhere = (at: number | null): string =>
      place !== null && at !== null && Math.abs(at - place) > 1 ? " (another place)" : "";
    return list.slice(0, 3).map((run) => ({
      run,
      words: `${momentWords(run.at)}: ${this.loss(run.lostMm ?? 0, run.expandedMm)}${elsewhere(run.placeMm)}`,
    }));
  });
  protected readonly before = computed(() => beforeFigure(this.job(), this.progress(), this.step().axis ?? ""));
  protected readonly judged = computed(() => {
    const typed = this.lossText().trim() ? this.typedFigure() : null;
    const figure = typed && typeof typed !== "string" ? typed : this.draft().figure;
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

  protected set(over: Partial<SignedStep>): void {
    this.draft.update((d) => ({ ...d, ...over }));
    this.wrong.set("");
  }

  protected takeBefore(figure: JobFigure): void {
    this.set({ figure, reading: figure.lostMm });
    this.readingText.set("");
  }

  protected takeRun(run: { id: number; lostMm: number | null; expandedMm: number | null }): void {
    this.set({ figure: { lostMm: run.lostMm ?? 0, expandedMm: run.expandedMm, runId: run.id } });
  }

  /** Puts what was typed into the draft; false when it cannot be read. */
  private readTyped(): boolean {
    const step = this.step();
    const system = this.preferences.system();
    if (step.reading && this.readingText().trim()) {
      const shown = parseDecimal(this.readingText());
      if (shown === undefined) {
        this.wrong.set(
          `“${this.readingText().trim()}” is not a number: ${step.reading.label} is typed in ${this.unit() || "plain figures"}.`,
        );
        return false;
      }
      this.draft.update((d) => ({ ...d, reading: fromShown(step.reading?.quantity ?? "number", shown, system) }));
    }
    if (step.retest === "chain" && this.lossText().trim()) {
      const figure = this.typedFigure();
      if (typeof figure === "string") {
        this.wrong.set(figure);
        return false;
      }
      this.draft.update((d) => ({ ...d, figure }));
    }
    return true;
  }

  /** A loss as typed, with U by what it was measured with; words where it cannot be read. */
  private typedFigure(): JobFigure | string {
    const lost = parseDecimal(this.lossText());
    if (lost === undefined)
      return `“${this.lossText().trim()}” is not a number: the loss is typed in ${this.lossUnit()}.`;
    const lostMm = toMm(lost, deviationUnit(this.preferences.system()));
    const indicator = this.store.indicators().find((i) => i.id === this.typedWith());
    if (!indicator) return { lostMm, expandedMm: null, runId: null };
    const runs = parseDecimal(this.typedRuns());
    if (runs === undefined || !Number.isInteger(runs) || runs < 1 || runs > 50)
      return `Runs ${this.typedRuns().trim() || "nothing"} cannot be: a whole number from 1 to 50.`;
    const { resolutionMm, hysteresisMm, calibrationMm } = indicator;
    const own = {
      resolutionMm,
      hysteresisMm: hysteresisMm ?? 0,
      calibrationMm: calibrationMm ?? 0,
    };
    return { lostMm, expandedMm: typedExpanded(own, runs), runId: null };
  }

  protected sign(): void {
    if (!this.readTyped()) return;
    const job = this.job();
    const refusal = refuseSign(this.progress(), this.draft(), {
      before: (letter) => beforeFigure(job, this.progress(), letter),
      limits: (letter) => job.axes.find((a) => a.letter === letter) ?? null,
      system: this.preferences.system(),
    });
    this.wrong.set(refusal?.message ?? "");
    if (refusal) {
      this.askReason.set(refusal.asksReason);
      return;
    }
    this.signed.emit(this.draft());
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
