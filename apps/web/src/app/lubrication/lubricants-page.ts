import { ChangeDetectionStrategy, Component, computed, inject, signal, viewChildren } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { dayOf, BASE_OILS, formatNumber, LUBRICANT_KINDS, mixingAdvice, THICKENERS } from "@iron/core";
import { lubricantEditSchema, parseDecimal, type LubricantEdit, type LubricantRecord } from "@iron/contract";
import { newKey } from "../data/new-key";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { problemFrom } from "../data/problems";
import { BothVersions, differing, type SaidField } from "../shared/both-versions";
import { anyWrong, ChoiceField, choicesOf, NumberField, TextField } from "../shared/fields";
import { dayWords } from "../shared/words";
import { RoundsNav } from "./rounds-nav";
import { Trouble } from "../shared/trouble";
import { Opens } from "../shared/opens";

const EMPTY: LubricantEdit = {
  name: "",
  kind: "grease",
  thickener: null,
  base: "mineral",
  nlgi: 2,
  viscosity: null,
  containerG: 400,
  leadDays: 7,
  reserveG: 100,
};
const SAID: readonly SaidField<LubricantEdit>[] = [
  { label: "Name", words: (l) => l.name },
  { label: "Kind", words: (l) => l.kind },
  { label: "Thickener of a grease", words: (l) => l.thickener ?? "not known" },
  { label: "Base oil", words: (l) => l.base ?? "not known" },
  { label: "NLGI of a grease", words: (l) => String(l.nlgi ?? "") },
  { label: "ISO VG of an oil", words: (l) => String(l.viscosity ?? "") },
  { label: "A container holds, g", words: (l) => String(l.containerG) },
  { label: "Days to arrive", words: (l) => String(l.leadDays) },
  { label: "Reserve, g", words: (l) => String(l.reserveG) },
];
type Theirs = LubricantEdit & Pick<LubricantRecord, "version">;
type Figure = "nlgi" | "viscosity" | "containerG" | "leadDays" | "reserveG";

/** Lubricants: what they are, what is there and when to order, and whether two of them may meet. */
@Component({
  selector: "ip-lubricants",
  imports: [ButtonDirective, BothVersions, ChoiceField, NumberField, RoundsNav, TextField, Trouble, Opens],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  templateUrl: "./lubricants-page.html",
})
export class LubricantsPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly kinds = choicesOf(LUBRICANT_KINDS);
  protected readonly thickeners = choicesOf(THICKENERS);
  protected readonly bases = choicesOf(BASE_OILS);
  private readonly fields = viewChildren(NumberField);
  protected readonly list = signal<readonly LubricantRecord[] | null>(null);
  protected readonly wrong = signal("");
  protected readonly formWrong = signal("");
  protected readonly editing = signal<number | "new" | null>(null);
  protected readonly draft = signal<LubricantEdit>(EMPTY);
  private version = 0;
  protected readonly theirs = signal<Theirs | null>(null);
  protected readonly conflicts = computed(() => {
    const theirs = this.theirs();
    return theirs ? differing<LubricantEdit>(this.draft(), theirs, SAID) : [];
  });
  protected readonly old = signal<number | null>(null);
  protected readonly next = signal<number | null>(null);
  protected readonly numbers: readonly {
    readonly id: Figure;
    readonly label: string;
    readonly none: boolean;
    readonly least: number;
    readonly most: number;
  }[] = [
    { id: "nlgi", label: "NLGI of a grease", none: true, least: 0, most: 6 },
    { id: "viscosity", label: "ISO VG of an oil", none: true, least: 1, most: 5000 },
    { id: "containerG", label: "A container holds, g", none: false, least: 1, most: 1_000_000 },
    { id: "leadDays", label: "Days to arrive", none: false, least: 0, most: 365 },
    { id: "reserveG", label: "Reserve, g", none: false, least: 0, most: 1_000_000 },
  ];
  protected readonly rows = computed(() =>
    (this.list() ?? []).map((l) => ({
      ...l,
      what: [
        l.kind,
        l.thickener,
        l.base,
        l.nlgi === null ? "" : `NLGI ${l.nlgi}`,
        l.viscosity === null ? "" : `ISO VG ${l.viscosity}`,
      ]
        .filter(Boolean)
        .join(", "),
      stock: `${formatNumber(l.stockG, 0)} g (${formatNumber(l.stockG / l.containerG, 1)} of ${formatNumber(l.containerG, 0)} g)`,
      uses:
        l.gramsPerDay > 0
          ? `${formatNumber(30 * l.gramsPerDay, 0)} g a month at ${l.points} ${l.points === 1 ? "point" : "points"}`
          : "nothing uses it",
      left: l.daysLeft === null ? "" : l.daysLeft > 730 ? "over 2 years" : `${Math.floor(l.daysLeft)} days`,
      order: l.orderBy === null || (l.daysLeft ?? 0) > 730 ? "" : dayWords(`${l.orderBy}T12:00:00`),
      now: l.orderBy !== null && l.orderBy <= dayOf(new Date()),
    })),
  );
  protected readonly names = computed(() => this.rows().map((l) => ({ id: String(l.id), words: l.name })));
  protected readonly mixing = computed(() => {
    const find = (id: number | null) => this.list()?.find((l) => l.id === id);
    const [old, next] = [find(this.old()), find(this.next())];
    return old && next ? mixingAdvice(old, next) : null;
  });

  constructor() {
    this.load();
  }

  protected load(): void {
    this.wrong.set("");
    this.api.call("lubricants").subscribe({
      next: (list) => this.list.set(list),
      error: (error: unknown) => this.wrong.set(problemFrom(error).detail),
    });
  }

  protected begin(one: LubricantRecord | null): void {
    this.formWrong.set("");
    for (const field of this.fields()) field.reset();
    this.theirs.set(null);
    this.version = one?.version ?? 0;
    this.editing.set(one?.id ?? "new");
    if (!one) {
      this.draft.set(EMPTY);
      return;
    }
    const { name, kind, thickener, base, nlgi, viscosity, containerG, leadDays, reserveG } = one;
    this.draft.set({ name, kind, thickener, base, nlgi, viscosity, containerG, leadDays, reserveG });
  }

  protected set(part: Partial<LubricantEdit>): void {
    this.draft.update((d) => ({ ...d, ...part }));
  }

  protected figure(id: Figure, value: number | null): void {
    this.set({ [id]: value });
  }

  protected keep(): void {
    if (anyWrong(this.fields)) return;
    const id = this.editing();
    const checked = lubricantEditSchema.safeParse(this.draft());
    if (!checked.success) {
      this.formWrong.set(checked.error.issues[0].message);
      return;
    }
    const answer =
      id === "new" || id === null
        ? this.api.call("createLubricant", { body: this.draft() })
        : this.api.call("updateLubricant", {
            params: { id },
            body: {
              ...this.draft(),
              version: this.version,
            },
          });
    answer.subscribe({
      next: (list) => {
        this.list.set(list);
        this.leave();
      },
      error: (error: unknown) => {
        const problem = problemFrom(error);
        this.formWrong.set(problem.detail);
        if (problem.status !== 409 || !problem.current) return;
        const theirs = problem.current as Theirs;
        this.theirs.set(theirs);
        this.version = theirs.version;
      },
    });
  }

  protected leave(): void {
    this.theirs.set(null);
    this.editing.set(null);
  }

  protected takeTheirs(): void {
    this.leave();
    this.load();
  }

  protected move(one: LubricantRecord, kind: "count" | "in", field: HTMLInputElement): void {
    const grams = parseDecimal(field.value);
    if (grams === undefined) {
      this.notices.say(`“${field.value.trim()}” is not a number of grams; nothing was kept.`);
      return;
    }
    this.api.call("moveStock", { params: { id: one.id }, body: { key: newKey(), kind, grams } }).subscribe({
      next: (list) => {
        this.list.set(list);
        field.value = "";
      },
      error: (error: unknown) => this.notices.wrong(error),
    });
  }
}
