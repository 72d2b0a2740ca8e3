import { ChangeDetectionStrategy, Component, computed, effect, inject, input, linkedSignal, signal, untracked } from "@angular/core"; // prettier-ignore
import { RouterLink } from "@angular/router";
import { formatQuantity, startValues, sumById, SUMS, type Sum } from "@iron/core"; // prettier-ignore
import type { Axis } from "@iron/contract";
import { InputText } from "primeng/inputtext";
import { Api } from "../../data/api";
import { Preferences } from "../../data/preferences";
import { ChartView, type DrawChart } from "../../shared/chart";
import { StateMark } from "../../shared/state-mark";
import { sumDrawing } from "./drawings";
import { answerOf, readInputs, shownField, sumChart, sumGroups, unitWords } from "./sums.view"; // prettier-ignore

type Typed = Readonly<Record<string, string>>;

/** Every sum with its formula, source, drawing and units; a second set of inputs stands beside it. */
@Component({
  selector: "ip-sums",
  imports: [RouterLink, InputText, ChartView, StateMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./sums-place.html",
  styleUrl: "./sums.css",
})
export class SumsPlace {
  readonly sumId = input<string>("");
  /** Axis whose figures the sum begins with. */
  readonly axis = input<string>("");
  protected readonly preferences = inject(Preferences);
  private readonly api = inject(Api);
  protected readonly query = signal("");
  protected readonly groups = computed(() => sumGroups(this.query()));
  protected readonly sum = computed<Sum | null>(() => sumById(this.sumId() || SUMS[0].id) ?? null); // prettier-ignore
  protected readonly from = signal<Axis | null>(null);
  protected readonly compare = signal(false);
  private readonly source = computed(() => ({ sum: this.sum(), axis: this.from(), system: this.preferences.system() })); // prettier-ignore
  protected readonly base = computed(() => {
    const sum = this.sum();
    return sum ? startValues(sum, this.from()?.config ?? null) : {};
  });
  /** What was typed; kept over a change of units by its core value. */
  protected readonly present = linkedSignal<unknown, Typed>({ source: this.source, computation: (_, before) => this.carry(before?.value ?? {}) }); // prettier-ignore
  protected readonly proposed = linkedSignal<unknown, Typed>({ source: this.source, computation: (_, before) => this.carry(before?.value ?? {}) }); // prettier-ignore
  private before: { sum: Sum | null; system: "metric" | "inch" } | null = null;
  protected readonly columns = computed(() => {
    const sum = this.sum();
    const system = this.preferences.system();
    if (!sum) return [];
    const sets = this.compare() ? [this.present(), this.proposed()] : [this.present()]; // prettier-ignore
    return sets.map((typed, i) => {
      const inputs = readInputs(sum, this.base(), typed, system);
      return {
        name: i === 0 ? "present" : "proposed",
        fields: sum.fields.map((f) => ({
          field: f,
          label: f.label + (f.choices ? "" : unitWords(f.quantity, system)),
          text: (typed[f.id] as string | undefined) ?? shownField(f.quantity, inputs.values[f.id], system), // prettier-ignore
          choice: inputs.values[f.id],
          wrong: (inputs.wrong[f.id] as string | undefined) ?? "",
        })),
        values: inputs.values,
        ...answerOf(sum, inputs, system),
      };
    });
  });
  protected readonly rows = computed(() => {
    const system = this.preferences.system();
    const columns = this.columns();
    const first = columns[0]?.answer;
    return (first?.lines ?? []).map((line, i) => ({
      label: line.label,
      values: columns.map((c) => {
        const l = c.answer?.lines[i];
        return l ? formatQuantity(l.quantity, l.value, system, l.signed) : "–";
      }),
    }));
  });
  protected readonly chart = computed<DrawChart | null>(() => {
    const curves = this.columns().flatMap((c) => c.answer?.curve ?? []);
    const system = this.preferences.system();
    return curves.length ? (ink) => sumChart(curves, system, ink) : null;
  });
  protected readonly drawing = computed(() => {
    const sum = this.sum();
    return sum ? sumDrawing(sum.drawing, this.columns()[0]?.values ?? {}) : null; // prettier-ignore
  });

  constructor() {
    effect(() => {
      const id = Number(this.axis());
      untracked(() => {
        if (!id) this.from.set(null);
        else
          this.api.get("axis", `/axes/${id}`).subscribe({
            next: (axis) => this.from.set(axis),
            error: () => this.from.set(null),
          });
      });
    });
  }

  private carry(typed: Typed): Typed {
    const sum = this.sum();
    const system = this.preferences.system();
    const { before } = this;
    const same = before?.sum === sum;
    const carried: Record<string, string> = {};
    if (same && sum && before && before.system !== system)
      for (const field of sum.fields) {
        const text = typed[field.id] as string | undefined;
        if (text === undefined) continue;
        const { values, wrong } = readInputs(sum, {}, { [field.id]: text }, before.system); // prettier-ignore
        carried[field.id] = field.choices || wrong[field.id] ? text : shownField(field.quantity, values[field.id], system); // prettier-ignore
      }
    else if (same) Object.assign(carried, typed);
    queueMicrotask(() => (this.before = { sum, system }));
    return carried;
  }

  protected type(column: number, id: string, text: string): void {
    const set = column === 0 ? this.present : this.proposed;
    this.before = { sum: this.sum(), system: this.preferences.system() };
    set.update((t) => ({ ...t, [id]: text }));
  }

  protected startAgain(): void {
    this.present.set({});
    this.proposed.set({});
  }
}
