import { TickBox } from "../shared/tick-box";
import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal } from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { ButtonDirective } from "primeng/button";
import {
  DOSE_UNITS,
  FACTOR_IDS,
  FACTORS,
  LINK_IDS,
  LUBE_WAYS,
  mixingAdvice,
  USUAL_PRIMING,
  type FactorId,
  type LubricationPoint,
} from "@iron/core";
import { lubricationPointEditSchema, type LubricationPointRecord, type LubricantRecord } from "@iron/contract";
import { BothVersions, differing, type SaidField } from "../shared/both-versions";
import { type Choice, ChoiceField, choicesOf, NumberField, TextField } from "../shared/fields";
import { map } from "rxjs";
import type * as z from "zod";
import { bySchema, gate, unplaced } from "../shared/schema-form";
import { Opens } from "../shared/opens";

const WEIGHTS: readonly Choice<LubricationPoint["weight"]>[] = [
  { id: 1, label: "little harm" },
  { id: 2, label: "wear" },
  { id: 3, label: "a part is lost" },
];
const yesNo = (on: boolean | undefined): string => (on ? "yes" : "no");
const SAID: readonly SaidField<LubricationPoint>[] = [
  { label: "Place", value: (p) => p.place },
  { label: "Axis", value: (p) => p.letter ?? "none" },
  { label: "On which link", value: (p) => p.link ?? "none" },
  { label: "Way in", value: (p) => p.way },
  { label: "Lubricant", value: (p) => p.lubricant },
  { label: "Dose", value: (p) => `${p.dose} ${p.doseUnit}` },
  { label: "Minutes", value: (p) => String(p.minutes) },
  { label: "Before it can be reached", value: (p) => p.access },
  { label: "Every so many days", value: (p) => String(p.rule.days ?? "not") },
  { label: "Running hours", value: (p) => String(p.rule.hours ?? "not") },
  { label: "km travelled", value: (p) => String(p.rule.km ?? "not") },
  { label: "Never under, days", value: (p) => String(p.rule.leastDays) },
  { label: "Never over, days", value: (p) => String(p.rule.mostDays) },
  {
    label: "When it is forgotten",
    value: (p) => WEIGHTS.find((w) => w.id === p.weight)?.label ?? "",
  },
  { label: "Look at", value: (p) => p.checks.join("; ") },
  { label: "Outlets or places", value: (p) => (p.outlets ?? []).join("; ") },
  { label: "Priming strokes", value: (p) => String(p.priming ?? USUAL_PRIMING) },
  { label: "Machine off and locked", value: (p) => yesNo(p.machineOff) },
  { label: "Only for people trained", value: (p) => yesNo(p.qualified) },
  { label: "The nut is parted", value: (p) => yesNo(p.partsNut) },
  {
    label: "What scales the interval",
    value: (p) =>
      p.factors
        .map((f) => FACTORS[f].text)
        .sort()
        .join("; "),
  },
];
export type LubricationPointEdit = z.input<typeof lubricationPointEditSchema>;
const of = <T>(value: T): FormControl<T> => new FormControl(value, { nonNullable: true });

/** As typed: nothing chosen is an empty text, lists are lines, and each factor is a tick of its own. */
function pointForm() {
  const rule = new FormGroup({
    days: of<number | null>(null),
    hours: of<number | null>(null),
    km: of<number | null>(null),
    leastDays: of<number | null>(null),
    mostDays: of<number | null>(null),
  });
  return new FormGroup({
    place: of(""),
    letter: of(""),
    link: of<LubricationPoint["link"] | "">(""),
    way: of<LubricationPoint["way"]>("nipple"),
    lubricant: of(""),
    dose: of<number | null>(null),
    doseUnit: of<LubricationPoint["doseUnit"]>("strokes"),
    minutes: of<number | null>(null),
    access: of(""),
    rule,
    weight: of<LubricationPoint["weight"]>(2),
    checks: of(""),
    outlets: of(""),
    priming: of<number | null>(null),
    machineOff: of(false),
    qualified: of(false),
    partsNut: of(false),
    factors: of<readonly FactorId[]>([]),
  });
}
type Typed = ReturnType<ReturnType<typeof pointForm>["getRawValue"]>;

function typedOf(point: LubricationPoint): Typed {
  return {
    ...point,
    letter: point.letter ?? "",
    link: point.link ?? "",
    checks: point.checks.join("\n"),
    outlets: (point.outlets ?? []).join("\n"),
    priming: point.priming ?? USUAL_PRIMING,
    qualified: point.qualified ?? false,
  };
}

const linesOf = (text: string): string[] =>
  text
    .split("\n")
    .map((l) => l.trim())
    .filter(Boolean);

/** What would be sent; NaN stands where a number is missing. */
function editOf(typed: Typed, provenance: string): LubricationPointEdit {
  const { rule } = typed;
  return {
    ...typed,
    letter: typed.letter.trim() || null,
    link: typed.link || null,
    dose: typed.dose ?? NaN,
    minutes: typed.minutes ?? NaN,
    rule: { ...rule, leastDays: rule.leastDays ?? NaN, mostDays: rule.mostDays ?? NaN },
    checks: linesOf(typed.checks),
    outlets: linesOf(typed.outlets),
    // Asked of a central system only: elsewhere nobody can mend what stands there.
    priming: typed.priming ?? (typed.way === "central line" ? NaN : USUAL_PRIMING),
    factors: [...typed.factors],
    provenance,
  };
}

/** Everything of a lubrication point that can be changed, checked before it goes out. */
@Component({
  selector: "ip-point-form",
  imports: [ButtonDirective, TickBox, BothVersions, ChoiceField, NumberField, ReactiveFormsModule, TextField, Opens],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  templateUrl: "./point-form.html",
})
export class PointForm {
  readonly start = input.required<LubricationPoint>();
  readonly lubricants = input<readonly LubricantRecord[]>([]);
  /** Lubricant that is in the place now. */
  readonly inThere = input("");
  /** What the server would not have, in its words. */
  readonly refused = input("");
  /** What somebody else has kept meanwhile. */
  readonly theirs = input<LubricationPointRecord | null>(null);
  readonly kept = output<LubricationPointEdit>();
  /** Theirs is as it shall be. */
  readonly taken = output();
  readonly left = output();
  private readonly maySend = gate();
  protected readonly ways = choicesOf(LUBE_WAYS);
  protected readonly units = choicesOf(DOSE_UNITS);
  protected readonly links = choicesOf(LINK_IDS);
  protected readonly weights = WEIGHTS;
  protected readonly factors = FACTOR_IDS.map((id) => ({ id, ...FACTORS[id] }));
  protected readonly form = pointForm();
  private readonly typed = toSignal(this.form.valueChanges.pipe(map(() => this.form.getRawValue())), {
    initialValue: this.form.getRawValue(),
  });
  protected readonly central = computed(() => this.typed().way === "central line");
  /** What the form as a whole has against it, once one tried to keep it. */
  protected readonly formError = signal("");
  private begun = false;
  protected readonly conflicts = computed(() => {
    const theirs = this.theirs();
    return theirs
      ? differing<LubricationPoint>(editOf(this.typed(), theirs.provenance) as LubricationPoint, theirs, SAID)
      : [];
  });
  /** What it means to put another lubricant where one is. */
  protected readonly mixing = computed(() => {
    const find = (name: string) => this.lubricants().find((l) => l.name === name);
    const [old, next] = [find(this.inThere()), find(this.typed().lubricant)];
    return old && next && old.id !== next.id ? mixingAdvice(old, next) : null;
  });

  constructor() {
    this.form.addValidators(
      bySchema(lubricationPointEditSchema, (typed: Typed) => editOf(typed, this.start().provenance)),
    );
    effect(() => {
      const start = this.start();
      // Begins from the point as it was; a visit taken meanwhile makes it anew but empties nothing.
      if (this.begun) return;
      this.begun = true;
      this.form.reset(typedOf(start));
    });
  }

  protected pickFactor(id: FactorId, on: boolean): void {
    const { factors } = this.form.controls;
    const others = factors.value.filter((f) => f !== id);
    factors.setValue(on ? [...others, id] : others);
  }

  protected keep(): void {
    const may = this.maySend(this.form);
    this.formError.set(unplaced(this.form));
    if (may) this.kept.emit(editOf(this.form.getRawValue(), this.start().provenance));
  }
}
