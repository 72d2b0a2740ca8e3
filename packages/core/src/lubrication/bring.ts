import { doseGrams } from "./lubricants";
import type { LubricationPoint } from "./types";
import { isBrought } from "./visit.text";

/** Something that is taken along on a round. */
export interface Brought {
  readonly what: string;
  /** How much of it; empty where it is a tool. */
  readonly amount: string;
}

const TOOL: Partial<Record<LubricationPoint["way"], string>> = {
  nipple: "grease gun",
  "needle hole": "gun with a needle",
  bead: "gun for a bead",
  wipe: "cloth for",
  drip: "can",
  bath: "can",
  "central line": "can",
};
const HOLDS: Partial<Record<NonNullable<LubricationPoint["heldBy"]>, string>> = {
  block: "block to lay under what can fall",
  pinned: "block to lay under what can fall, pins for its balance",
};

type Point = Pick<LubricationPoint, "way" | "dose" | "doseUnit" | "lubricant" | "link" | "partsNut"> &
  Partial<Pick<LubricationPoint, "heldBy">>;

/** What is filled before one sets out; a tank or a bowl takes what it takes, and a pump’s strokes are not the gun’s. */
function amountOf(all: readonly Point[], gramsPerStroke: number): string {
  const points = all.filter((p) => p.way !== "bath" && p.way !== "central line");
  const sum = (unit: LubricationPoint["doseUnit"]): number =>
    points.reduce((s, p) => s + (p.doseUnit === unit ? p.dose : 0), 0);
  const strokes = sum("strokes");
  const grams = points.reduce((s, p) => s + doseGrams(p.dose, p.doseUnit, gramsPerStroke), 0);
  const wipes = points.filter((p) => p.doseUnit === "wipe").length;
  const parts = [
    strokes ? `${strokes} strokes` : "",
    sum("drops") ? `${sum("drops")} drops` : "",
    wipes ? (wipes === 1 ? "one wipe" : `${wipes} wipes`) : "",
  ].filter(Boolean);
  // Below a gram nobody fills anything for it, and a cloth is not weighed.
  const weighed = grams >= 1 && !wipes ? `about ${Math.ceil(grams)} g` : "";
  const topped = all.length > points.length ? (points.length ? "and to top up" : "to top up") : "";
  return [[...parts, weighed].filter(Boolean).join(", "), topped].filter(Boolean).join(" ");
}

/**
 * What is taken along on a round: each tool with its lubricant once, with how much of it all points together take, so
 * that it is filled before one sets out; then what holds what can fall, and cloth.
 * Source: common practice, no source.
 * @param points - of the round; those that are jobs have kit lists of their own
 * @param gramsPerStroke - what the shop’s gun gives, g
 * @returns tools with what to fill
 * @example
 * const nut = { way: "nipple", dose: 2, doseUnit: "strokes", lubricant: "grease", link: "nut", partsNut: false };
 * bringList([nut, nut], 0.8)[0] // { what: "grease gun, grease", amount: "4 strokes, about 4 g" }
 */
export function bringList(points: readonly Point[], gramsPerStroke: number): readonly Brought[] {
  const visits = points.filter((p) => !p.partsNut);
  const kinds = new Map<string, Point[]>();
  for (const point of visits.filter(isBrought)) {
    const tool = TOOL[point.way] ?? "";
    const what = tool.endsWith(" for")
      ? `${tool} ${point.lubricant}`
      : [tool, point.lubricant].filter(Boolean).join(", ");
    kinds.set(what, [...(kinds.get(what) ?? []), point]);
  }
  const holds = new Set(visits.flatMap((p) => (p.heldBy ? (HOLDS[p.heldBy] ?? []) : [])));
  return [
    ...[...kinds].map(([what, own]) => ({ what, amount: amountOf(own, gramsPerStroke) })),
    ...[...holds].map((what) => ({ what, amount: "" })),
    ...(visits.length ? [{ what: "lock and tag, clean cloths, lamp", amount: "" }] : []),
  ];
}

/**
 * Bays in the order of the walk: those that the shop has named as it walks, then the others by their numbers.
 * @param order - bays as feet go: one side of an aisle up, the other back
 * @returns compares two bays
 * @example ["10", "2", "7"].sort(walkOrder(["7"])) // ["7", "2", "10"]
 */
export function walkOrder(order: readonly string[]): (a: string, b: string) => number {
  const places = new Map(order.map((bay, i) => [bay.trim().toLowerCase(), i]));
  const place = (bay: string): number => places.get(bay.trim().toLowerCase()) ?? order.length;
  const numbers = new Intl.Collator("en", { numeric: true });
  return (a, b) => place(a) - place(b) || numbers.compare(a, b);
}
