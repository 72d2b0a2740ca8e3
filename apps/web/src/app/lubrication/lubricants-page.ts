import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { TableModule } from "primeng/table";
import { dayOf, formatNumber, mixingAdvice } from "@iron/core";
import { parseDecimal, type LubricantRecord } from "@iron/contract";
import { newKey } from "../data/new-key";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { Loaded } from "../data/loaded";
import { ChoiceField } from "../shared/fields";
import { RowOf } from "../shared/row-of";
import { RowsPipe } from "../shared/rows.pipe";
import { StockMoveField, type StockMove } from "../shared/stock-move";
import { LubricantForm } from "./lubricant-form";
import { dayText } from "../shared/times.text";
import { RoundsNav } from "./rounds-nav";
import { Trouble } from "../shared/trouble";
import { LoadingLines } from "../shared/loading";
import { May } from "../shared/may";

/** Lubricants: what they are, what is there and when to order, and whether two of them may meet. */
@Component({
  selector: "ip-lubricants",
  imports: [
    May,
    LoadingLines,
    ButtonDirective,
    ChoiceField,
    LubricantForm,
    RoundsNav,
    RowOf,
    RowsPipe,
    StockMoveField,
    TableModule,
    Trouble,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  templateUrl: "./lubricants-page.html",
})
export class LubricantsPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly loaded = Loaded.now(() => this.api.call("lubricants")).alive("lubricants", "lube-points");
  protected readonly moves = [
    { kind: "count", label: "Counted" },
    { kind: "in", label: "Come in" },
  ] as const;
  protected readonly list = this.loaded.value;
  protected readonly message = this.loaded.message;
  /** The one that is changed, null for a new one, undefined while none is. */
  protected readonly editing = signal<LubricantRecord | null | undefined>(undefined);
  protected readonly old = signal<number | null>(null);
  protected readonly next = signal<number | null>(null);
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
      order: l.orderBy === null || (l.daysLeft ?? 0) > 730 ? "" : dayText(`${l.orderBy}T12:00:00`),
      now: l.orderBy !== null && l.orderBy <= dayOf(new Date()),
    })),
  );
  protected readonly names = computed(() => this.rows().map((l) => ({ id: String(l.id), label: l.name })));
  protected readonly mixing = computed(() => {
    const find = (id: number | null) => this.list()?.find((l) => l.id === id);
    const [old, next] = [find(this.old()), find(this.next())];
    return old && next ? mixingAdvice(old, next) : null;
  });

  protected load(): void {
    this.loaded.again();
  }

  protected begin(one: LubricantRecord | null): void {
    this.editing.set(one);
  }

  protected kept(list: readonly LubricantRecord[]): void {
    this.list.set([...list]);
    this.editing.set(undefined);
  }

  protected takeTheirs(): void {
    this.editing.set(undefined);
    this.load();
  }

  protected move(one: LubricantRecord, { kind, field }: StockMove<"count" | "in">): void {
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
      error: this.notices.error,
    });
  }
}
