import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { takeUntilDestroyed } from "@angular/core/rxjs-interop";
import { parseDecimal, type OrderState, type PartOrder, type PartRecord, type Parts } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { TableModule } from "primeng/table";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { newKey } from "../data/new-key";
import { Notices } from "../data/notices";
import { RoundsNav } from "../lubrication/rounds-nav";
import { LoadingLines } from "../shared/loading";
import { RowOf } from "../shared/row-of";
import { RowsPipe } from "../shared/rows.pipe";
import { dayText } from "../shared/times.text";
import { StockMoveField, type StockMove } from "../shared/stock-move";
import { Trouble } from "../shared/trouble";
import { OrderForm } from "./order-form";
import { PartOrders } from "./part-orders";
import { PartTermsForm } from "./part-terms";
import { May } from "../shared/may";

const SAID: Readonly<Record<OrderState, string>> = {
  wanted: "To be ordered since",
  ordered: "Ordered",
  came: "Came",
  dropped: "Not wanted since",
};
const ACTS: Readonly<Record<OrderState, readonly { readonly state: OrderState; readonly label: string }[]>> = {
  wanted: [
    { state: "ordered", label: "Ordered" },
    { state: "came", label: "Has come" },
    { state: "dropped", label: "Not wanted" },
  ],
  ordered: [
    { state: "came", label: "Has come" },
    { state: "dropped", label: "Not coming" },
  ],
  came: [{ state: "ordered", label: "It has not come" }],
  dropped: [{ state: "wanted", label: "Wanted after all" }],
};

function orderView(one: PartOrder) {
  return {
    id: one.id,
    count: one.count,
    part: one.part,
    for: [one.nickname && `for ${one.nickname}`, one.why].filter(Boolean).join(": "),
    told: `${SAID[one.state]} ${dayText(one.movedAt)}, ${one.movedBy}.`,
    past: one.state === "came" || one.state === "dropped",
    acts: ACTS[one.state],
  };
}

/** Axes are named while they are few. */
const NAMED = 3;

/** Spare parts: how many to hold, what is there, what to order and what is on its way. */
@Component({
  selector: "ip-parts",
  imports: [
    May,
    ButtonDirective,
    LoadingLines,
    OrderForm,
    PartTermsForm,
    RoundsNav,
    RowOf,
    RowsPipe,
    StockMoveField,
    TableModule,
    Trouble,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrls: ["../lubrication/rounds.css", "./parts.css"],
  templateUrl: "./parts-page.html",
})
export class PartsPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly partOrders = inject(PartOrders);
  protected readonly loaded = Loaded.now(() => this.api.call("parts")).alive("parts", "part-orders", "jobs");
  protected readonly moves = [
    { kind: "count", label: "Counted" },
    { kind: "out", label: "Taken out" },
  ] as const;
  protected readonly all = this.loaded.value;
  protected readonly orders = computed(() => (this.all()?.orders ?? []).map(orderView));
  protected readonly ordering = signal<{ part: string; count: number; why: string } | null>(null);
  /** The part whose figures are open. */
  protected readonly editing = signal<string | null>(null);
  protected readonly edited = computed(() => this.all()?.parts.find((p) => p.part === this.editing()) ?? null);
  protected readonly rows = computed(() =>
    (this.all()?.parts ?? []).map((p) => ({
      ...p,
      on:
        p.axes.length > NAMED
          ? `${p.axes.length} axes${p.built > p.axes.length ? `, ${p.built} of them` : ""}`
          : p.axes.join(", ") || "no axis here",
      there: p.countedAt === null && p.stock === 0 ? "not counted" : String(p.stock),
    })),
  );

  constructor() {
    this.partOrders.changed.pipe(takeUntilDestroyed()).subscribe((parts) => this.all.set(parts));
  }

  protected took(parts: Parts): void {
    this.all.set(parts);
    this.editing.set(null);
  }

  protected takeTheirs(): void {
    this.editing.set(null);
    this.loaded.again();
  }

  protected wish({ part, order }: Pick<PartRecord, "part" | "order">): void {
    this.ordering.set({ part, count: order, why: "for the shelf" });
  }

  protected count(part: string, { kind, field }: StockMove<"count" | "out">): void {
    const count = parseDecimal(field.value);
    if (count === undefined || !Number.isInteger(count) || count < 0) {
      this.notices.say(`“${field.value.trim()}” is not a whole number of pieces; nothing was kept.`);
      return;
    }
    this.api.call("countPart", { body: { key: newKey(), part, kind, count } }).subscribe({
      next: (parts) => {
        this.all.set(parts);
        field.value = "";
      },
      error: this.notices.error,
    });
  }
}
