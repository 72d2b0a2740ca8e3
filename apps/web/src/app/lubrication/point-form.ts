import { TickBox } from "../shared/tick-box";
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  output,
  signal,
  viewChildren,
} from "@angular/core";
import { ButtonDirective } from "primeng/button";
import {
  DOSE_UNITS,
  FACTOR_IDS,
  FACTORS,
  LINK_IDS,
  LUBE_WAYS,
  mixingAdvice,
  type FactorId,
  type LubePoint,
} from "@iron/core";
import { lubePointEditSchema, type LubePointRecord, type LubricantRecord } from "@iron/contract";
import { BothVersions, differing, type SaidField } from "../shared/both-versions";
import { anyWrong, ChoiceField, choicesOf, NumberField, TextField, type Choice } from "../shared/fields";
import type { z } from "zod";
import { Opens } from "../shared/opens";

const WEIGHTS: readonly Choice[] = [
  { id: "1", words: "little harm" },
  { id: "2", words: "wear" },
  { id: "3", words: "a part is lost" },
];
const yesNo = (on: boolean | undefined): string => (on ? "yes" : "no");
const SAID: readonly SaidField<LubePoint>[] = [
  { label: "Place", words: (p) => p.place },
  { label: "Axis", words: (p) => p.letter ?? "none" },
  { label: "On which link", words: (p) => p.link ?? "none" },
  { label: "Way in", words: (p) => p.way },
  { label: "Lubricant", words: (p) => p.lubricant },
  { label: "Dose", words: (p) => `${p.dose} ${p.doseUnit}` },
  { label: "Minutes", words: (p) => String(p.minutes) },
  { label: "Before it can be reached", words: (p) => p.access },
  { label: "Every so many days", words: (p) => String(p.rule.days ?? "not") },
  { label: "Running hours", words: (p) => String(p.rule.hours ?? "not") },
  { label: "km travelled", words: (p) => String(p.rule.km ?? "not") },
  { label: "Never under, days", words: (p) => String(p.rule.leastDays) },
  { label: "Never over, days", words: (p) => String(p.rule.mostDays) },
  {
    label: "When it is forgotten",
    words: (p) => WEIGHTS.find((w) => w.id === String(p.weight))?.words ?? "",
  },
  { label: "Look at", words: (p) => p.checks.join("; ") },
  { label: "Outlets", words: (p) => (p.outlets ?? []).join("; ") },
  { label: "Machine off and locked", words: (p) => yesNo(p.machineOff) },
  { label: "Only for people trained", words: (p) => yesNo(p.qualified) },
  { label: "The nut is parted", words: (p) => yesNo(p.partsNut) },
  {
    label: "What scales the interval",
    words: (p) =>
      p.factors
        .map((f) => FACTORS[f].words)
        .sort()
        .join("; "),
  },
];
type RuleField = "days" | "hours" | "km" | "leastDays" | "mostDays";
export type LubePointEdit = z.input<typeof lubePointEditSchema>;

/** Everything of a lubrication point that can be changed, checked before it goes out. */
@Component({
  selector: "ip-point-form",
  imports: [ButtonDirective, TickBox, BothVersions, ChoiceField, NumberField, TextField, Opens],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  templateUrl: "./point-form.html",
})
export class PointForm {
  readonly start = input.required<LubePoint>();
  readonly lubricants = input<readonly LubricantRecord[]>([]);
  /** Lubricant that is in the place now. */
  readonly inThere = input("");
  /** What the server would not have, in its words. */
  readonly refused = input("");
  /** What somebody else has kept meanwhile. */
  readonly theirs = input<LubePointRecord | null>(null);
  readonly kept = output<LubePointEdit>();
  /** Theirs is as it shall be. */
  readonly taken = output();
  readonly left = output();
  protected readonly ways = choicesOf(LUBE_WAYS);
  protected readonly units = choicesOf(DOSE_UNITS);
  protected readonly links = choicesOf(LINK_IDS);
  protected readonly weights = WEIGHTS;
  protected readonly factors = FACTOR_IDS.map((id) => ({ id, ...FACTORS[id] }));
  protected readonly rules: readonly { readonly id: RuleField; readonly label: string; readonly none: boolean }[] = [
    { id: "days", label: "Every so many days, empty for not", none: true },
    { id: "hours", label: "or running hours, empty for not", none: true },
    { id: "km", label: "or km travelled, empty for not", none: true },
    { id: "leastDays", label: "Never under, days", none: false },
    { id: "mostDays", label: "Never over, days", none: false },
  ];
  private readonly numbers = viewChildren(NumberField);
  protected readonly formWrong = signal("");
  /** Begins from the point as it was; a visit taken meanwhile makes it anew but empties nothing. */
  protected readonly draft = linkedSignal<LubePoint, LubePoint>({
    source: this.start,
    computation: (start, before) => before?.value ?? start,
  });
  protected readonly checks = computed(() => this.draft().checks.join("\n"));
  protected readonly outlets = computed(() => (this.draft().outlets ?? []).join("\n"));
  protected readonly conflicts = computed(() => {
    const theirs = this.theirs();
    return theirs ? differing<LubePoint>(this.draft(), theirs, SAID) : [];
  });
  /** What it means to put another lubricant where one is. */
  protected readonly mixing = computed(() => {
    const find = (name: string) => this.lubricants().find((l) => l.name === name);
    const [old, next] = [find(this.inThere()), find(this.draft().lubricant)];
    return old && next && old.id !== next.id ? mixingAdvice(old, next) : null;
  });

  protected set(part: Partial<LubePoint>): void {
    this.draft.update((d) => ({ ...d, ...part }));
  }

  protected lines(which: "checks" | "outlets", text: string): void {
    this.set({
      [which]: text
        .split("\n")
        .map((l) => l.trim())
        .filter(Boolean),
    });
  }

  protected rule(which: RuleField, value: number | null): void {
    this.set({ rule: { ...this.draft().rule, [which]: value } });
  }

  protected factor(id: FactorId, on: boolean): void {
    const others = this.draft().factors.filter((f) => f !== id);
    this.set({ factors: on ? [...others, id] : others });
  }

  protected keep(): void {
    if (anyWrong(this.numbers)) return;
    this.formWrong.set("");
    const draft = this.draft();
    const body = {
      ...draft,
      checks: [...draft.checks],
      factors: [...draft.factors],
      outlets: [...(draft.outlets ?? [])],
    };
    const checked = lubePointEditSchema.safeParse(body);
    if (checked.success) this.kept.emit(body);
    else this.formWrong.set(checked.error.issues[0].message);
  }
}
