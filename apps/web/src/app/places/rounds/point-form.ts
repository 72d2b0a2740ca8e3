import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output, signal } from "@angular/core"; // prettier-ignore
import { DOSE_UNITS, FACTOR_IDS, FACTORS, LINK_IDS, LUBE_WAYS, mixingAdvice, type FactorId, type LubePoint } from "@iron/core"; // prettier-ignore
import { lubePointEditSchema, parseDecimal, type LubricantRecord } from "@iron/contract"; // prettier-ignore
import type { z } from "zod";

type RuleField = "days" | "hours" | "km" | "leastDays" | "mostDays";
export type LubePointEdit = z.input<typeof lubePointEditSchema>;

/** Everything of a lubrication point that can be changed, checked before it goes out. */
@Component({
  selector: "ip-point-form",
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
  protected readonly ways = LUBE_WAYS;
  protected readonly units = DOSE_UNITS;
  protected readonly links = LINK_IDS;
  protected readonly factors = FACTOR_IDS.map((id) => ({ id, ...FACTORS[id] }));
  protected readonly rules: readonly { readonly id: RuleField; readonly label: string; readonly none: boolean }[] = [
    { id: "days", label: "Every so many days", none: true },
    { id: "hours", label: "or running hours", none: true },
    { id: "km", label: "or km travelled", none: true },
    { id: "leastDays", label: "Never under, days", none: false },
    { id: "mostDays", label: "Never over, days", none: false },
  ]; // prettier-ignore
  /** Numbers that cannot be read, by their label; nothing is kept while there is one. */
  private readonly unread = signal<ReadonlyMap<string, string>>(new Map());
  protected readonly numberWrong = computed(() => [...this.unread()].map(([label, text]) => `${label}: “${text}” is not a number.`).join(" ")); // prettier-ignore
  protected readonly formWrong = signal("");
  /** Begins from the point as it was; a visit taken meanwhile makes it anew but empties nothing. */
  protected readonly draft = linkedSignal<LubePoint, LubePoint>({
    source: this.start,
    computation: (start, before) => before?.value ?? start,
  });
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

  protected number(which: "dose" | "minutes", label: string, text: string): void {
    const value = this.read(label, text);
    if (value !== undefined) this.set({ [which]: value });
  } // prettier-ignore

  protected rule(which: RuleField, label: string, text: string): void {
    const empty = text.trim() === "" && !which.endsWith("Days");
    const value = this.read(label, empty ? "0" : text);
    if (value !== undefined) this.set({ rule: { ...this.draft().rule, [which]: empty ? null : value } }); // prettier-ignore
  }

  private read(label: string, text: string): number | undefined {
    const value = parseDecimal(text);
    this.unread.update((all) => {
      const next = new Map(all);
      if (value === undefined) next.set(label, text.trim());
      else next.delete(label);
      return next;
    });
    return value;
  }

  protected factor(id: FactorId, on: boolean): void {
    const others = this.draft().factors.filter((f) => f !== id);
    this.set({ factors: on ? [...others, id] : others });
  }

  protected keep(): void {
    if (this.numberWrong()) return;
    this.formWrong.set("");
    const draft = this.draft();
    const body = { ...draft, checks: [...draft.checks], factors: [...draft.factors], outlets: [...(draft.outlets ?? [])] }; // prettier-ignore
    const checked = lubePointEditSchema.safeParse(body);
    if (checked.success) this.kept.emit(body);
    else this.formWrong.set(checked.error.issues[0].message);
  }
}
