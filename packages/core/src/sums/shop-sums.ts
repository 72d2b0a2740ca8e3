import { pricesOf, travelPerTurnMm } from "../machine/axis";
import { greaseFill } from "./bearing";
import { SISTER_TERMS, sistersToo } from "./sisters";
import { markerPlace } from "./home";
import { formatQuantity } from "../quantity";
import type { Sum } from "./types";

const COMMON = "common practice, no source";

/** Sums of homing, of what to renew while a machine is open, and of grease. */
export const SHOP_SUMS: readonly Sum[] = [
  {
    id: "home-marker",
    name: "Home marker",
    group: "Home",
    drawing: "marker",
    asks: "Is the marker far enough from the switch?",
    formula: String.raw`\text{fraction} = \dfrac{\text{distance}}{\text{travel for a turn}}; \text{ half a turn is best}`,
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
    formula: String.raw`\text{later} = P(\text{goes within the horizon}) \cdot \text{whole job unplanned}; \text{ life as a Weibull}`,
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
    formula: String.raw`G = 0.005\, D\, B; \text{ gun: weigh ten strokes}`,
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
