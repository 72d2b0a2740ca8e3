import { defaultAxis, type AxisConfig } from "../machine/axis";
import { found, magnitude, says } from "./evidence.testing";
import type { FindingId } from "../measure/findings";
import { infer } from "./infer";
import type { Evidence } from "./evidence";
import { isSure } from "./next-test";
import { caseVerdict } from "./verdict";

type Size = Parameters<typeof magnitude>;
interface Set {
  readonly name: string;
  readonly sizes: readonly Size[];
  readonly both?: readonly FindingId[];
}

/** Sets of readings that cannot all be right, each for a reason of its own (common practice, no source). */
const SETS: readonly Set[] = [
  {
    name: "housing moves more than the screw end it holds",
    sizes: [
      ["housing-shift", 30],
      ["end-float", 5],
    ],
  },
  { name: "a part gains", sizes: [["end-float", -20]] },
  {
    name: "the nut gains",
    sizes: [
      ["nut-flank", -25],
      ["whole-chain", 12],
    ],
  },
  {
    name: "all readings gain",
    sizes: [
      ["whole-chain", -30],
      ["end-float", -25],
    ],
  },
  {
    name: "one part is more than the whole",
    sizes: [
      ["whole-chain", 9],
      ["end-float", 40],
    ],
  },
  {
    name: "the coupling alone is more than the whole",
    sizes: [
      ["whole-chain", 6],
      ["coupling-slip", 60],
    ],
  },
  {
    name: "the parts together are more than the whole",
    sizes: [
      ["whole-chain", 30],
      ["end-float", 26],
      ["nut-flank", 28],
    ],
  },
  {
    name: "the bracket moves more than the lever on it sees",
    sizes: [
      ["bracket-shift", 45],
      ["nut-flank", 4],
    ],
  },
  {
    name: "much is lost and every part stands still",
    sizes: [
      ["whole-chain", 90],
      ["end-float", 0.5],
      ["nut-flank", 0.7],
      ["coupling-slip", 0.3],
      ["housing-shift", 0.1],
      ["bracket-shift", 0.2],
    ],
    both: ["comp-differs"],
  },
  { name: "a whole that no part of an axis loses", sizes: [["whole-chain", 900]] },
];
const AXES: readonly (readonly [string, AxisConfig])[] = [
  ["centre X", defaultAxis("vertical-centre", "X")],
  ["centre Z", defaultAxis("vertical-centre", "Z")],
  ["lathe X", defaultAxis("lathe", "X")],
  ["bench mill Y", defaultAxis("bench-mill", "Y")],
];

describe("contradictory sets of readings", () => {
  it("there are forty of them", () => {
    expect(SETS.length * AXES.length).toBe(40);
  });

  it.each(SETS.flatMap((set) => AXES.map(([name, axis]) => [`${set.name}, ${name}`, set, axis] as const)))(
    "%s: the verdict steps back, nothing is sure, proven or nearly certain",
    (_, set, axis) => {
      // Told as it is told, fasteners tried, everything looked at that costs nothing.
      const still = (["retainer", "housing", "bracket", "coupling"] as const).map((f) => found(`${f}-turns`, false));
      const both = (set.both ?? []).flatMap((id) => [found(id), found(id, false)]);
      const evidence: Evidence = {
        axis,
        allTold: true,
        reports: [says("lost-motion"), ...still, found("dry", false), ...both],
        magnitudes: set.sizes.map(([kind, um]) => magnitude(kind, um)),
      };
      const posterior = infer(evidence);
      expect(isSure(posterior)).toBe(false);
      const { headline, sure, fits, proven } = caseVerdict(posterior, { done: new Set() });
      expect([sure, fits, proven]).toEqual([false, false, []]);
      expect(headline).not.toContain("nearly certain");
    },
  );
});
