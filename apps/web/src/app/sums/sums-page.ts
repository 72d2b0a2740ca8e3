import { TickBox } from "../shared/tick-box";
import { Formula } from "./formula";
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
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { formatQuantity, signedQuantity, startValues, sumById, SUMS, type Sum, type UnitSystem } from "@iron/core";
import type { Axis } from "@iron/contract";
import { InputText } from "primeng/inputtext";
import { Api } from "../data/api";
import { Preferences } from "../data/preferences";
import { ChartView, type DrawChart } from "../shared/chart";
import { StateMark } from "../shared/state-mark";
import { sumDrawing } from "./drawings";
import { answerOf, readInputs, shownField, sumChart, sumGroups, unitText } from "./sums.view";
import { type Choice, ChoiceField, TextField } from "../shared/fields";

type Typed = Readonly<Record<string, string>>;

/** What typed values belong to. */
interface Source {
  readonly sum: Sum | null;
  readonly axis: Axis | null;
  readonly system: UnitSystem;
}

/** What was typed stays with its sum, said in the other units after they were changed. */
function carry(now: Source, before?: { readonly source: Source; readonly value: Typed }): Typed {
  if (!before || !now.sum || before.source.sum !== now.sum) return {};
  if (before.source.system === now.system) return before.value;
  const carried: Record<string, string> = {};
  for (const field of now.sum.fields) {
    const text = before.value[field.id] as string | undefined;
    if (text === undefined) continue;
    const { values, errors } = readInputs(now.sum, {
      base: {},
      typed: { [field.id]: text },
      system: before.source.system,
    });
    carried[field.id] =
      field.choices || errors[field.id] ? text : shownField(field.quantity, values[field.id], now.system);
  }
  return carried;
}

/** Every sum with its formula, source, drawing and units; a second set of inputs stands beside it. */
@Component({
  selector: "ip-sums",
  imports: [ButtonDirective, TickBox, Formula, RouterLink, InputText, ChartView, StateMark, ChoiceField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./sums-page.html",
  styleUrl: "./sums.css",
})
export class SumsPage {
  readonly sumId = input<string>("");
  /** Axis whose figures the sum begins with. */
  readonly axis = input<string>("");
  protected readonly preferences = inject(Preferences);
  private readonly api = inject(Api);
  protected readonly query = signal("");
  protected readonly groups = computed(() => sumGroups(this.query()));
  protected readonly sum = computed<Sum | null>(() => sumById(this.sumId() || SUMS[0].id) ?? null);
  protected readonly from = signal<Axis | null>(null);
  protected readonly compare = signal(false);
  private readonly source = computed<Source>(() => ({
    sum: this.sum(),
    axis: this.from(),
    system: this.preferences.system(),
  }));
  protected readonly base = computed(() => {
    const sum = this.sum();
    return sum ? startValues(sum, this.from()?.config ?? null) : {};
  });
  /** What was typed; kept over a change of units by its core value. */
  protected readonly present = linkedSignal<Source, Typed>({ source: this.source, computation: carry });
  protected readonly proposed = linkedSignal<Source, Typed>({ source: this.source, computation: carry });
  protected readonly numbered = (choices: readonly string[]): readonly Choice<number>[] =>
    choices.map((label, id) => ({ id, label }));
  protected readonly columns = computed(() => {
    const sum = this.sum();
    const system = this.preferences.system();
    if (!sum) return [];
    const sets = this.compare() ? [this.present(), this.proposed()] : [this.present()];
    return sets.map((typed, i) => {
      const inputs = readInputs(sum, { base: this.base(), typed, system });
      return {
        name: i === 0 ? "present" : "proposed",
        fields: sum.fields.map((f) => ({
          field: f,
          label: f.label + (f.choices ? "" : unitText(f.quantity, system)),
          text:
            (typed[f.id] as string | undefined) ?? (f.asked ? "" : shownField(f.quantity, inputs.values[f.id], system)),
          choice: inputs.values[f.id],
          error: (inputs.errors[f.id] as string | undefined) ?? "",
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
        return l ? (l.signed ? signedQuantity : formatQuantity)(l.quantity, l.value, system) : "–";
      }),
    }));
  });
  protected readonly chart = computed<DrawChart | null>(() => {
    const curves = this.columns().flatMap((c) => c.answer?.curve ?? []);
    const system = this.preferences.system();
    return curves.length ? (ink) => sumChart(curves, system, ink) : null;
  });
  /** Does the sum take anything from the axis, so that its figures can be said to be the axis’ own? */
  protected readonly takesFromAxis = computed(() => this.sum()?.fields.some((f) => f.of) ?? false);
  protected readonly drawing = computed(() => {
    const sum = this.sum();
    return sum ? sumDrawing(sum.drawing, this.columns()[0]?.values ?? {}) : null;
  });

  constructor() {
    effect(() => {
      const id = Number(this.axis());
      untracked(() => {
        if (!id) this.from.set(null);
        else
          this.api.call("axis", { params: { id } }).subscribe({
            next: (axis) => this.from.set(axis),
            error: () => this.from.set(null),
          });
      });
    });
  }

  protected type(column: number, id: string, text: string): void {
    const set = column === 0 ? this.present : this.proposed;
    set.update((t) => ({ ...t, [id]: text }));
  }

  protected startAgain(): void {
    this.present.set({});
    this.proposed.set({});
  }
}
