import type { AxisConfig } from "../axis";
import { jointsOf, type JointId } from "./joints";
import { FASTENER_ROWS } from "./fasteners.table";
import { TORQUES_NM } from "./torques.table";

/** One set of screws that does one thing: what it is, where, how many, how tight, by whose word. */
export interface Fastener {
  readonly joint: JointId;
  readonly name: string;
  readonly thread: string;
  readonly grade: string;
  readonly count: number;
  readonly place: string;
  /** Everything that must be in before it is tightened. */
  readonly locates: readonly JointId[];
  /** N·m; null where there is none to give: the book’s, or snug. */
  readonly torqueNm: number | null;
  readonly source: "book" | "table" | "snug" | "book-only";
}

/** What screws on a drive of this size are likely to be (common practice, no source). */
function usualThread(axis: AxisConfig, step = 0): string {
  const sizes = ["M3", "M4", "M5", "M6", "M8", "M10", "M12"];
  const d = axis.transmission === "rack" ? 32 : axis.screw.nominalMm;
  const bounds = [10, 12, 20, 25, 40, 55];
  const at = bounds.filter((b) => d > b).length;
  return sizes[Math.max(0, Math.min(sizes.length - 1, at + step))];
}

/** Profiles and plates of aluminium, printed or plastic parts: a table for steel strips them. */
function isSoft(axis: AxisConfig): boolean {
  return axis.guideway === "v-wheel" || axis.mechanics.fixedEnd === "pillow-block";
}

/**
 * Every fastener of an axis as an individual: what was noted on this axis first, then a table by
 * thread and class, then “snug”. Never one figure for all.
 * @param axis - the axis’ configuration
 * @returns each with its joint and torque, N·m
 * @example fastenersOf(defaultAxis("vertical-centre", "X")).some((f) => f.joint === "housing") // true
 */
export function fastenersOf(axis: AxisConfig): readonly Fastener[] {
  const known = FASTENERS.get(axis);
  if (known) return known;
  const fasteners = fastenersFor(axis);
  FASTENERS.set(axis, fasteners);
  return fasteners;
}

/** Asked for at every step of every sheet. */
const FASTENERS = new WeakMap<AxisConfig, readonly Fastener[]>();

function usualSource(row: (typeof FASTENER_ROWS)[number], soft: boolean): Fastener["source"] {
  if (row.bookOnly) return "book-only";
  return row.snug || soft ? "snug" : "table";
}

function fastenersFor(axis: AxisConfig): readonly Fastener[] {
  const joints = new Set(jointsOf(axis));
  const soft = isSoft(axis);
  return FASTENER_ROWS.filter((r) => joints.has(r.joint)).map((row): Fastener => {
    const own = axis.mechanics.fasteners[row.joint];
    const thread = own ? own.thread : usualThread(axis, row.step);
    const table = usualSource(row, soft) === "table" ? (TORQUES_NM[thread]?.["8.8"] ?? null) : null;
    return {
      joint: row.joint,
      name: row.name,
      place: row.place,
      locates: row.locates.filter((j) => joints.has(j)),
      thread,
      grade: own ? own.grade : "8.8",
      count: own ? own.count : row.count,
      torqueNm: own ? own.torqueNm : table,
      source: own ? own.source : usualSource(row, soft),
    };
  });
}
