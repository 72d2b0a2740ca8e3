import {
  shimStack,
  SHIM_STOCK_MM,
  SHIMMED,
  SHIMMED_TEXT,
  tram,
  tramBolts,
  tramShims,
  TRAM_DATUMS,
  TRAM_LIMIT,
} from "./alignment";
import { gibClearance, gibTurns } from "./preload";
import { formatQuantity, type UnitSystem } from "../quantity";
import type { Sum, SumField } from "./types";

const pieces = (list: readonly number[], system: UnitSystem): string =>
  list.length ? list.map((p) => formatQuantity("length", p, system)).join(" + ") : "no shim";
const reading = (id: string, label: string): SumField => ({
  id,
  label,
  quantity: "deviation",
  value: 0,
  min: -10,
  max: 10,
  asked: true,
});
const distance = (id: string, label: string): SumField => ({
  id,
  label,
  quantity: "length",
  value: 0,
  min: 0,
  above: true,
  max: 10_000,
  asked: true,
});
const COMMON = "common practice, no source";

/** Sums of straightening, squaring and setting. */
export const ALIGNMENT_SUMS: readonly Sum[] = [
  {
    id: "screw-line",
    name: "Screw alignment from two readings",
    group: "Alignment",
    drawing: "screw",
    asks: "Which support moves by how much?",
    formula: String.raw`\text{move} = -\dfrac{\Delta\,\text{reading}}{\text{distance read over}} \cdot \text{distance of the supports}`,
    source: "similar triangles; crest runs in two planes are at station Set",
    fields: [
      reading("a", "Read near the datum end"),
      reading("b", "Read near the other end"),
      distance("over", "Distance read over"),
      distance("span", "Distance of the supports"),
      {
        id: "plane",
        label: "Read",
        quantity: "number",
        value: 0,
        min: 0,
        max: 1,
        choices: ["above the screw", "beside the screw"],
      },
    ],
    compute: (v, system) => {
      const move = (-(v["b"] - v["a"]) / v["over"]) * v["span"];
      const way = `${move < 0 ? "Away from" : "Towards"} the tip by ${formatQuantity("deviation", Math.abs(move), system)}`;
      const upright = v["plane"] === 0;
      const raised = upright && move > 0;
      const shims = shimStack(raised ? Math.min(10, move) : 0, SHIM_STOCK_MM);
      const how = !upright
        ? "shift it in its bolt holes"
        : move > 0
          ? `shim under it: ${pieces(shims.pieces, system)}`
          : "it would have to come down, and nothing can be shimmed downwards: take shims out under it, or raise the datum end and the bracket instead";
      return {
        lines: [
          { label: "Move of the other support", quantity: "deviation", value: move, signed: true },
          ...(raised
            ? [{ label: "Left after shims", quantity: "deviation" as const, value: shims.errorMm, signed: true }]
            : []),
        ],
        says: [Math.abs(move) < 0.0125 ? "Near enough: leave it." : `${way}: ${how}.`],
        state: Math.abs(move) > 0.03 ? "watch" : "sound",
      };
    },
  },
  {
    id: "shims",
    name: "Shim stack from stock",
    group: "Alignment",
    drawing: "shim",
    asks: "Which shims make a thickness?",
    formula: String.raw`\text{fewest pieces within } \pm\tfrac12 \text{ of the smallest shim}`,
    source: "search over all stacks up to six pieces",
    fields: [{ id: "want", label: "Thickness", quantity: "length", value: 0.38, min: 0, max: 10 }],
    compute: (v, system) => {
      const stack = shimStack(v["want"]);
      return {
        lines: [
          { label: "Stack", quantity: "length", value: stack.sumMm },
          { label: "Off by", quantity: "deviation", value: stack.errorMm, signed: true },
        ],
        says: [`${pieces(stack.pieces, system)}.`],
        state: null,
      };
    },
  },
  {
    id: "tram",
    name: "Tram and plumb",
    group: "Alignment",
    drawing: "tram",
    asks: "How square is it, and what goes under which bolt?",
    formula: String.raw`\text{slope} = \dfrac{\Delta\,\text{reading}}{\text{span}}; \text{ shims from turning what is shimmed as one rigid body}`,
    source: `${COMMON}: 0.050 mm over 300 mm (0.001 in over 6 in) is fine`,
    fields: [
      reading("left", "Left"),
      reading("right", "Right"),
      reading("far", "Far"),
      reading("near", "Near"),
      distance("span", "Swept across"),
      distance("depth", "Swept in depth"),
      distance("bx", "Bolts apart across"),
      distance("by", "Bolt rows apart"),
      {
        id: "shimmed",
        label: "What is shimmed",
        quantity: "number",
        value: 0,
        min: 0,
        max: SHIMMED.length - 1,
        choices: SHIMMED.map((s) => SHIMMED_TEXT[s].name),
      },
      { id: "step", label: "Step of the indicator", quantity: "deviation", value: 0.01, min: 0, above: true, max: 1 },
      {
        id: "way",
        label: "Indicators",
        quantity: "number",
        value: 0,
        min: 0,
        max: 1,
        choices: ["one, swept", "two on a bar, zeroed on one spot"],
      },
      { id: "datum", label: "Datum", quantity: "number", value: 0, min: 0, max: 1, choices: TRAM_DATUMS },
    ],
    compute: (v, system) => {
      const shimmed = SHIMMED[v["shimmed"]];
      const result = tram({
        leftMm: v["left"],
        rightMm: v["right"],
        farMm: v["far"],
        nearMm: v["near"],
        spanMm: v["span"],
        depthMm: v["depth"],
        resolutionMm: v["step"],
      });
      const shims = tramShims(result.slopes, { shimmed, supports: tramBolts(shimmed, v["bx"], v["by"]) });
      const turn = (shims.turnRad * 180) / Math.PI;
      return {
        lines: [
          ...result.slopes.map((s) => ({
            label: `Over 300 mm, ${s.direction}`,
            quantity: "deviation" as const,
            value: s.per300Mm,
            signed: true,
          })),
          ...result.slopes.map((s) => ({
            label: `Over 6 in, ${s.direction}`,
            quantity: "deviation" as const,
            value: s.per6InMm,
            signed: true,
          })),
          ...shims.bolts.map((b) => ({
            label: `Shim at ${b.name}`,
            quantity: "deviation" as const,
            value: b.wantedMm,
          })),
          ...shims.predicted.map((p) => ({
            label: `Then over the span, ${p.direction}`,
            quantity: "deviation" as const,
            value: p.perSpanMm,
            signed: true,
          })),
        ],
        says: [
          {
            square: "Square within 0.050 mm over 300 mm.",
            out: "Out of square.",
            "cannot-tell": "Cannot tell: the limit lies inside the ± of these readings.",
          }[result.code],
          `Under ${SHIMMED_TEXT[shimmed].name}:`,
          ...shims.bolts.map((b) => `${b.name}: ${pieces(b.shims.pieces, system)}.`),
          Math.abs(shims.turnRad) > TRAM_LIMIT / 4
            ? `Sideways nothing can be shimmed there: turn it on its face by ${Math.abs(turn).toFixed(3)}°, its ${shims.turnRad > 0 ? "right" : "left"} side up.`
            : "",
          `Datum: ${TRAM_DATUMS[v["datum"]]}. Write it down: the other one gives another answer.`,
          v["way"] === 1
            ? "Two indicators: zero both on the same spot, one after the other, before they are set on left and right."
            : "",
        ].filter(Boolean),
        state: { square: "sound", out: "act", "cannot-tell": "unknown" }[result.code] as "sound" | "act" | "unknown",
      };
    },
  },
  {
    id: "gib",
    name: "Gib turns and clearance",
    group: "Alignment",
    drawing: "gib",
    asks: "What clearance does a turn of the adjuster make?",
    formula: String.raw`\text{clearance} = \text{turns} \cdot \text{pitch} \cdot \text{taper}`,
    source: "geometry of a taper gib; set-back 5 µm common practice, no source",
    fields: [
      { id: "turns", label: "Turns", quantity: "turns", value: 0.25, min: 0, max: 20 },
      { id: "pitch", label: "Pitch of the adjuster", quantity: "length", value: 1.5, min: 0, above: true, max: 10 },
      { id: "taper", label: "Taper, 1 in", quantity: "number", value: 60, min: 6, max: 200 },
      { id: "back", label: "Wanted clearance", quantity: "deviation", value: 0.005, min: 0, max: 1 },
    ],
    compute: (v, system) => ({
      lines: [
        {
          label: "These turns make",
          quantity: "deviation",
          value: gibClearance(v["turns"], v["pitch"], 1 / v["taper"]),
        },
        {
          label: "Turns for the wanted clearance",
          quantity: "turns",
          value: gibTurns(v["back"], v["pitch"], 1 / v["taper"]),
        },
      ],
      says: [
        `Set back ${formatQuantity("turns", gibTurns(v["back"], v["pitch"], 1 / v["taper"]), system)} from the knee. The friction curve at station Set finds the knee.`,
      ],
      state: null,
    }),
  },
];
