import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output, signal, viewChildren } from "@angular/core"; // prettier-ignore
import { DOSE_UNITS, FACTOR_IDS, FACTORS, LINK_IDS, LUBE_WAYS, mixingAdvice, type FactorId, type LubePoint } from "@iron/core"; // prettier-ignore
import { lubePointEditSchema, type LubricantRecord } from "@iron/contract"; // prettier-ignore
import { anyWrong, ChoiceField, choicesOf, NumberField, TextField, type Choice } from "../../shared/fields"; // prettier-ignore
import type { z } from "zod";

const WEIGHTS: readonly Choice[] = [
  { id: "1", words: "little harm" },
  { id: "2", words: "wear" },
  { id: "3", words: "a part is lost" },
];
type RuleField = "days" | "hours" | "km" | "leastDays" | "mostDays";
export type LubePointEdit = z.input<typeof lubePointEditSchema>;

/** Everything of a lubrication point that can be changed, checked before it goes out. */
@Component({
  selector: "ip-point-form",
  imports: [ChoiceField, NumberField, TextField],
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
  readonly kept = output<LubePointEdit>();
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
  ]; // prettier-ignore
  private readonly numbers = viewChildren(NumberField);
  protected readonly formWrong = signal("");
  /** Begins from the point as it was; a visit taken meanwhile makes it anew but empties nothing. */
  protected readonly draft = linkedSignal<LubePoint, LubePoint>({
    source: this.start,
    computation: (start, before) => before?.value ?? start,
  });
  protected readonly checks = computed(() => this.draft().checks.join("\n"));
  protected readonly outlets = computed(() => (this.draft().outlets ?? []).join("\n")); // prettier-ignore
  /** What it means to put another lubricant where one is. */
  protected readonly mixing = computed(() => {
    const find = (name: string) => this.lubricants().find((l) => l.name === name); // prettier-ignore
    const [old, next] = [find(this.inThere()), find(this.draft().lubricant)]; // prettier-ignore
    return old && next && old.id !== next.id ? mixingAdvice(old, next) : null;
  });

  protected set(part: Partial<LubePoint>): void {
    this.draft.update((d) => ({ ...d, ...part }));
  }

  protected lines(which: "checks" | "outlets", text: string): void {
    this.set({ [which]: text.split("\n").map((l) => l.trim()).filter(Boolean) }); // prettier-ignore
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
    const body = { ...draft, checks: [...draft.checks], factors: [...draft.factors], outlets: [...(draft.outlets ?? [])] }; // prettier-ignore
    const checked = lubePointEditSchema.safeParse(body);
    if (checked.success) this.kept.emit(body);
    else this.formWrong.set(checked.error.issues[0].message);
  }
}
