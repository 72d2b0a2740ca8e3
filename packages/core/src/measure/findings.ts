import { FINDING_ROWS } from "./findings.table";
/**
 * What can be noticed or found on an axis, each a yes-or-no question. `leak` is how often it is so
 * with none of the known causes at work (common practice, no source).
 */
export interface Finding {
  readonly id: string;
  /** Said of the axis when it is so. */
  readonly text: string;
  readonly group: FindingGroup;
  /** Can be noticed without a test, so station Ask asks for it. */
  readonly asked: boolean;
  readonly leak: number;
  /** So plain that nobody imagines it. */
  readonly plain: boolean;
}

export const FINDING_GROUPS = ["noise", "binding", "position", "surface", "home", "control", "heat", "test"] as const;
export type FindingGroup = (typeof FINDING_GROUPS)[number];

export type FindingId = (typeof FINDING_ROWS)[number][0];

const PLAIN: readonly FindingId[] = [
  "no-motion",
  "stops-in-program",
  "override-zero",
  "listed-interlock",
  "listed-waiting",
  "short-travel",
  "display-dead",
  "carriage-click",
  "carriage-broken",
  "nut-gritty",
  "balls-out",
  "insert-broken",
  "belt-frayed",
  "click-descent",
  "grind-still",
  "home-turn",
];

/** A screw was found turning: whatever else is wrong, that much is certain and mended on the spot. */
const LOOSE: readonly FindingId[] = [
  "retainer-turns",
  "housing-turns",
  "bracket-turns",
  "coupling-turns",
  "pinion-turns",
  "flange-turns",
  "clamp-turns",
];

/**
 * Is a finding a fastener that gave way?
 * @param id - the finding
 * @returns whether it is
 * @example isLooseFastener("lost-motion") // false
 */
export function isLooseFastener(id: FindingId): boolean {
  return LOOSE.includes(id);
}

export const FINDINGS: readonly (Finding & { readonly id: FindingId })[] = FINDING_ROWS.map(
  ([id, text, group, asked, leak]) => ({
    id,
    text,
    group,
    asked,
    leak,
    plain: PLAIN.includes(id),
  }),
);

const BY_ID = new Map(FINDINGS.map((f) => [f.id, f]));
/**
 * A finding of the catalogue by its id.
 * @param id - as in the table of findings
 * @returns the finding
 * @example finding("lost-motion").id // "lost-motion"
 */
export function finding(id: FindingId): Finding & { readonly id: FindingId } {
  return BY_ID.get(id) as Finding & { readonly id: FindingId };
}
export const FINDING_IDS = FINDINGS.map((f) => f.id) as unknown as readonly [FindingId, ...FindingId[]];
