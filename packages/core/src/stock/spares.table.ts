import type { AxisConfig, Prices } from "../machine/axis";
import type { PartLife } from "./life";

/** A spare part that a shop may have on its shelf. */
export interface SpareKind {
  readonly id: string;
  readonly name: string;
  readonly fits: (axis: AxisConfig) => boolean;
  /** How many an axis has that wear each by itself, and are bought one by one. */
  readonly count: number;
  /** What must be the same for two axes to share it, in words; empty where one fits all. */
  readonly size: (axis: AxisConfig) => string;
  readonly price: (prices: Prices) => number;
  readonly life: PartLife;
  /** Days until an order comes, and days the machine waits where none is there: an express is sent for the small ones. */
  readonly leadDays: number;
  readonly waitDays: number;
  /** Kinds of job that put a new one in. */
  readonly jobs: readonly string[];
}

/**
 * Lives, lead times and prices: common practice, no source; a shop puts its own in their place. A screw announces itself
 * by what it loses and is ordered while it still runs: only a crash waits the whole time.
 */
export const SPARE_PROVENANCE = "common practice, no source";

const BALL: readonly AxisConfig["transmission"][] = ["direct", "belt", "rotating-nut"];
const turning = (a: AxisConfig): boolean => a.transmission === "direct" || a.transmission === "belt";
const screwSize = (a: AxisConfig): string => `screw ${a.screw.nominalMm} × ${a.screw.leadMm}`;
const wholeScrew = (a: AxisConfig): string =>
  `${a.screw.nominalMm} × ${a.screw.leadMm}, ${a.screw.freeLengthMm} mm long, ${a.screw.make}`;
const wheels = (a: AxisConfig): boolean => a.guideway === "v-wheel";

// prettier-ignore
export const SPARES: readonly SpareKind[] = [
  { id: "bearing-set", name: "end-bearing set", fits: turning, count: 1, size: (a) => `${a.bearings.replace(/-/g, " ")}, ${screwSize(a)}`, price: (p) => p.bearingSet, life: { medianHours: 25_000, shape: 1.6 }, leadDays: 10, waitDays: 3, jobs: ["fixed-bearings"] },
  { id: "nut-bearing-set", name: "nut bearing set", fits: (a) => a.transmission === "rotating-nut", count: 1, size: screwSize, price: (p) => p.bearingSet, life: { medianHours: 25_000, shape: 1.6 }, leadDays: 14, waitDays: 5, jobs: ["nut-bearing"] },
  { id: "far-bearing", name: "support bearing", fits: (a) => a.transmission !== "rack" && a.screw.fixings === "fixed-supported", count: 1, size: screwSize, price: () => 25, life: { medianHours: 25_000, shape: 1.5 }, leadDays: 5, waitDays: 2, jobs: ["support-bearing"] },
  { id: "tab-washer", name: "tab washer", fits: (a) => turning(a) && a.lockNut === "double-nut-tab", count: 1, size: screwSize, price: () => 4, life: { medianHours: 12_000, shape: 1 }, leadDays: 5, waitDays: 1, jobs: ["fixed-bearings", "bearing-preload"] },
  { id: "insert", name: "coupling insert", fits: (a) => a.transmission === "direct" && a.coupling === "insert", count: 1, size: screwSize, price: () => 18, life: { medianHours: 12_000, shape: 2 }, leadDays: 5, waitDays: 2, jobs: ["coupling"] },
  { id: "belt", name: "drive belt", fits: (a) => a.transmission === "belt" || a.transmission === "rotating-nut", count: 1, size: (a) => `ratio ${a.ratio}, ${screwSize(a)}`, price: () => 35, life: { medianHours: 15_000, shape: 2.5 }, leadDays: 7, waitDays: 2, jobs: ["belt"] },
  { id: "carriage", name: "rail carriage", fits: (a) => a.guideway === "rail", count: 4, size: (a) => `rails of the ${a.member}, ${a.transmission === "rack" ? "rack" : screwSize(a)}`, price: (p) => Math.max(45, 0.4 * p.bearingSet), life: { medianHours: 40_000, shape: 2 }, leadDays: 14, waitDays: 4, jobs: ["carriages"] },
  { id: "v-wheel", name: "V-wheel with bearings", fits: wheels, count: 4, size: () => "", price: () => 8, life: { medianHours: 6000, shape: 1.5 }, leadDays: 5, waitDays: 2, jobs: [] },
  { id: "wipers", name: "wipers", fits: (a) => BALL.includes(a.transmission), count: 2, size: screwSize, price: () => 12, life: { medianHours: 12_000, shape: 2 }, leadDays: 7, waitDays: 0.5, jobs: ["ball-nut"] },
  { id: "pinion", name: "pinion", fits: (a) => a.transmission === "rack", count: 1, size: (a) => `pitch ${a.pinionDiameterMm} mm`, price: () => 60, life: { medianHours: 15_000, shape: 2 }, leadDays: 10, waitDays: 3, jobs: ["pinion"] },
  { id: "lead-nut", name: "anti-backlash nut", fits: (a) => a.transmission === "plain-screw" && a.nut === "anti-backlash", count: 1, size: screwSize, price: () => 25, life: { medianHours: 5000, shape: 2 }, leadDays: 7, waitDays: 2, jobs: [] },
  { id: "screw", name: "screw with nut", fits: (a) => a.transmission !== "rack", count: 1, size: wholeScrew, price: (p) => p.screw, life: { medianHours: 60_000, shape: 2.2 }, leadDays: 42, waitDays: 7, jobs: ["screw"] },
];
