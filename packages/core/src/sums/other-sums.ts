import {
  shimStack,
  SHIM_STOCK_MM,
  SHIMMED,
  SHIMMED_WORDS,
  tram,
  tramBolts,
  tramShims,
  TRAM_DATUMS,
  TRAM_LIMIT,
} from "../alignment";
import { pricesOf, travelPerTurnMm } from "../axis";
import { greaseFill } from "../bearing";
import { SISTER_TERMS, sistersToo } from "../diagnosis";
import { markerPlace } from "../home";
import { gibClearance, gibTurns } from "../preload";
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

export const OTHER_SUMS: readonly Sum[] = [
  {
    id: "screw-line",
    name: "Screw alignment from two readings",
    group: "Alignment",
    drawing: "screw",
    asks: "Which support moves by how much?",
    formula: "move = −(Δreading / distance read over) · distance of the supports",
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
    formula: "fewest pieces within ± half the smallest shim",
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
    formula: "slope = Δreading/span; shims from turning what is shimmed as one rigid body",
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
        choices: SHIMMED.map((s) => SHIMMED_WORDS[s].name),
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
          `Under ${SHIMMED_WORDS[shimmed].name}:`,
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
    formula: "clearance = turns · pitch · taper",
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
  {
    id: "home-marker",
    name: "Home marker",
    group: "Home",
    drawing: "marker",
    asks: "Is the marker far enough from the switch?",
    formula: "fraction = distance / travel for a turn; half a turn is best",
    source: `${COMMON}: within a fifth of either end home can jump a turn`,
    fields: [
      {
        id: "distance",
        label: "Switch trip to marker, as it searches",
        quantity: "length",
        value: 9.3,
        min: 0,
        max: 1000,
      },
      {
        id: "turn",
        label: "Travel for a turn",
        quantity: "length",
        value: 10,
        min: 0,
        above: true,
        max: 1000,
        of: travelPerTurnMm,
      },
    ],
    compute: (v, system) => {
      const at = markerPlace(v["distance"], v["turn"]);
      const by = formatQuantity("length", Math.abs(at.laterMm), system);
      const way =
        at.laterMm > 0
          ? `${by} later in the search, nearer to the marker: move the switch along with the search`
          : `${by} earlier in the search, further from the marker: move the switch against the search`;
      return {
        lines: [
          { label: "Fraction of a turn", quantity: "turns", value: at.fraction },
          {
            label: at.laterMm < 0 ? "Trip earlier by" : "Trip later by",
            quantity: "length",
            value: Math.abs(at.laterMm),
          },
        ],
        says: at.safe
          ? ["Safe: home does not jump."]
          : [
              `Too near: home can jump by ${formatQuantity("length", v["turn"], system)}. Let it trip ${way}. A dog that rides on the moving member goes the other way.`,
              "Isolated while hands are at the switch. The same marker stays home; home again, and check the over-travel switches and a known place before work.",
            ],
        state: at.safe ? "sound" : "act",
      };
    },
  },
  {
    id: "while-open",
    name: "While it is open",
    group: "Costs",
    drawing: "costs",
    asks: "Renew a sister axis or the other end now, or later?",
    formula: "later = P(goes within the horizon) · whole job unplanned; life as a Weibull",
    source: `${COMMON}: shape 2.5, 63 % gone at 14 years`,
    fields: [
      { id: "age", label: "Age, years", quantity: "number", value: 10, min: 0, max: 80 },
      {
        id: "set",
        label: "Bearing set, money",
        quantity: "number",
        value: 350,
        min: 0,
        max: 1e6,
        of: (a) => pricesOf(a).bearingSet,
      },
      {
        id: "hour",
        label: "An hour of standing, money",
        quantity: "number",
        value: 80,
        min: 0,
        max: 1e5,
        of: (a) => a.costs.downtimePerHour,
      },
      {
        id: "job",
        label: "Whole job, minutes",
        quantity: "number",
        value: SISTER_TERMS.jobMinutes,
        min: 1,
        max: 10_000,
      },
      {
        id: "shared",
        label: "Shared with the job at hand, minutes",
        quantity: "number",
        value: SISTER_TERMS.sharedMinutes,
        min: 0,
        max: 10_000,
      },
      {
        id: "unplanned",
        label: "Standing before help comes, minutes",
        quantity: "number",
        value: SISTER_TERMS.unplannedMinutes,
        min: 0,
        max: 100_000,
      },
      {
        id: "horizon",
        label: "Horizon, years",
        quantity: "number",
        value: SISTER_TERMS.horizonYears,
        min: 0,
        above: true,
        max: 30,
      },
      {
        id: "scale",
        label: "63 % gone after, years",
        quantity: "number",
        value: SISTER_TERMS.scaleYears,
        min: 0,
        above: true,
        max: 100,
      },
      { id: "shape", label: "Weibull shape", quantity: "number", value: SISTER_TERMS.shape, min: 0.5, max: 10 },
    ],
    compute: (v) => {
      const terms = {
        jobMinutes: v["job"],
        sharedMinutes: Math.min(v["shared"], v["job"]),
        unplannedMinutes: v["unplanned"],
        horizonYears: v["horizon"],
        shape: v["shape"],
        scaleYears: v["scale"],
      };
      const [advice] = sistersToo(
        [
          {
            letter: "it",
            ageYears: v["age"],
            loss: null,
            limits: { leaveMm: 0.01, repairMm: 0.025 },
            bearingSet: v["set"],
            downtimePerHour: v["hour"],
          },
        ],
        terms,
      );
      return {
        lines: [
          { label: "Now, money", quantity: "number", value: advice.nowCost },
          { label: "Later, expected money", quantity: "number", value: advice.laterCost },
          { label: "Chance that it goes", quantity: "percent", value: advice.goes },
        ],
        says: [advice.worth ? "Cheaper now, in the same stop." : "Leave it: later is expected to be cheaper."],
        state: null,
      };
    },
  },
  {
    id: "grease",
    name: "Grease fill and strokes",
    group: "Lubrication",
    drawing: "grease",
    asks: "How much grease, in grams and in strokes of this gun?",
    formula: "G = 0.005 · D · B; gun: weigh ten strokes",
    source: "bearing handbooks; 3–5 strokes a carriage, 1–2 a ball nut: common practice, no source",
    fields: [
      { id: "outside", label: "Bearing outside D", quantity: "length", value: 62, min: 0, above: true, max: 1000 },
      { id: "width", label: "Bearing width B", quantity: "length", value: 15, min: 0, above: true, max: 300 },
      { id: "ten", label: "Ten strokes weigh", quantity: "mass", value: 8, min: 0, above: true, max: 200 },
    ],
    compute: (v) => {
      const fill = greaseFill(v["outside"], v["width"]);
      return {
        lines: [
          { label: "Fill", quantity: "mass", value: fill },
          { label: "Strokes of this gun", quantity: "number", value: fill / (v["ten"] / 10) },
        ],
        says: ["No more than that: a full bearing churns and gets hot."],
        state: null,
      };
    },
  },
];
