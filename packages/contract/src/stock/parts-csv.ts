import { writeTable } from "../wire/csv-table";
import type { Parts } from "./parts";

/** Spare parts, one row each: what is there, what is held, what to order. */
export function writePartsCsv({ parts, currency }: Pick<Parts, "parts" | "currency">): string {
  return writeTable(
    [
      "part",
      "axes",
      "built_in",
      "wanted_a_year",
      "hold",
      "stock",
      "on_order",
      "order",
      "price",
      "currency",
      "lead_days",
    ],
    parts.map((p) => [
      p.part,
      p.axes.join(" | "),
      p.built,
      Number(p.perYear.toFixed(2)),
      p.hold,
      p.stock,
      p.onOrder,
      p.order,
      p.terms.price,
      currency,
      p.terms.leadDays,
    ]),
  );
}
