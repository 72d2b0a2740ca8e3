import { FIXINGS } from "../machine/axis";
import { formatQuantity } from "../quantity";
import {
  backDriveTorque,
  bucklingLoad,
  criticalSpeed,
  DN_LIMIT,
  dnValue,
  driveTorque,
  inSeries,
  pretension,
  screwLife,
  screwStiffness,
  thermalGrowth,
} from "./screw";
import type { Sum, SumField } from "./types";

const CATALOGUE = "Euler–Bernoulli beam with the margins of ball-screw catalogues";
export const FIXING_TEXT = [
  "one end free",
  "both ends supported",
  "one end fixed, one supported",
  "both ends fixed",
] as const;

const root: SumField = {
  id: "root",
  label: "Root diameter",
  quantity: "length",
  value: 28,
  min: 0,
  above: true,
  max: 200,
  of: (a) => a.screw.rootMm,
};
const nominal: SumField = {
  id: "nominal",
  label: "Nominal diameter",
  quantity: "length",
  value: 32,
  min: 0,
  above: true,
  max: 200,
  of: (a) => a.screw.nominalMm,
};
const lead: SumField = {
  id: "lead",
  label: "Lead",
  quantity: "length",
  value: 10,
  min: 0,
  above: true,
  max: 200,
  of: (a) => a.screw.leadMm,
};
const free: SumField = {
  id: "free",
  label: "Free length",
  quantity: "length",
  value: 750,
  min: 0,
  above: true,
  max: 30_000,
  of: (a) => a.screw.freeLengthMm,
};
const ends: SumField = {
  id: "ends",
  label: "Ends",
  quantity: "number",
  value: 2,
  min: 0,
  max: 3,
  choices: FIXING_TEXT,
  of: (a) => FIXINGS.indexOf(a.screw.fixings),
};
const force: SumField = { id: "force", label: "Axial force", quantity: "force", value: 5000, min: 0, max: 1e6 };

export const SCREW_SUMS: readonly Sum[] = [
  {
    id: "critical-speed",
    name: "Critical speed",
    group: "Screw",
    drawing: "screw",
    asks: "Does the screw whirl at rapid, and may its free end stay unsupported?",
    formula: String.raw`n = \dfrac{f\, d}{L^2} \cdot 10^7, \quad f = 3.4,\ 9.7,\ 15.1,\ 21.9; \quad DN = d_0\, n`,
    source: CATALOGUE,
    fields: [
      root,
      nominal,
      lead,
      free,
      ends,
      {
        id: "rapid",
        label: "Rapid",
        quantity: "feed",
        value: 20_000,
        min: 0,
        above: true,
        max: 200_000,
        of: (a) => a.rapidMmMin,
      },
    ],
    compute: (v, system) => {
      const of = (fixings: (typeof FIXINGS)[number]): number =>
        criticalSpeed({ rootMm: v["root"], freeLengthMm: v["free"], fixings });
      const limit = of(FIXINGS[v["ends"]]);
      const speed = v["rapid"] / v["lead"];
      const dn = dnValue(v["nominal"], speed);
      const least = FIXINGS.filter((f) => of(f) >= speed);
      const open = of("fixed-free") >= speed;
      return {
        lines: [
          { label: "Screw speed at rapid", quantity: "speed", value: speed },
          { label: "Highest speed before it whirls", quantity: "speed", value: limit },
          { label: "Highest feed of this screw", quantity: "feed", value: limit * v["lead"] },
          { label: "DN at rapid", quantity: "number", value: dn },
        ],
        says: [
          speed <= limit
            ? `It does not whirl: rapid uses ${Math.round((100 * speed) / limit)} % of what it may.`
            : `It whirls: rapid asks for ${Math.round((100 * speed) / limit)} % of what it may. Slow rapid to ${formatQuantity("feed", limit * v["lead"], system)}, or hold it better.`,
          open
            ? "The free end may stay unsupported at this rapid."
            : least.length
              ? `The free end may not stay unsupported; ${FIXING_TEXT[FIXINGS.indexOf(least[0])]} is enough.`
              : "No way of holding its ends is enough for this rapid.",
          dn > DN_LIMIT ? `DN is above ${DN_LIMIT} (common limit, from memory): ask the nut’s maker.` : "",
        ].filter(Boolean),
        state: speed > limit ? "act" : speed > 0.85 * limit || dn > DN_LIMIT ? "watch" : "sound",
      };
    },
  },
  {
    id: "buckling",
    name: "Buckling",
    group: "Screw",
    drawing: "screw",
    asks: "How hard may the screw be pushed before it bends out?",
    formula: String.raw`F = 0.5\, n\, \dfrac{\pi^2 E I}{L^2}, \quad n = \tfrac14,\ 1,\ 2.05,\ 4`,
    source: "Euler, with the margin of ball-screw catalogues",
    fields: [root, free, ends, { ...force, label: "Push" }],
    compute: (v) => {
      const limit = bucklingLoad({ rootMm: v["root"], freeLengthMm: v["free"], fixings: FIXINGS[v["ends"]] });
      return {
        lines: [{ label: "Highest push", quantity: "force", value: limit }],
        says: [
          v["force"] <= limit
            ? `It holds: ${Math.round((100 * v["force"]) / limit)} % of what it may.`
            : `It buckles: ${Math.round((100 * v["force"]) / limit)} % of what it may.`,
        ],
        state: v["force"] > limit ? "act" : v["force"] > 0.8 * limit ? "watch" : "sound",
      };
    },
  },
  {
    id: "life",
    name: "Life over a duty",
    group: "Screw",
    drawing: "screw",
    asks: "How long does the screw last at what it does?",
    formula: String.raw`F_\mathrm{m}^3 = \dfrac{\sum F^3 n\, t}{\sum n\, t}, \quad L_{10} = \left(\dfrac{C}{F_\mathrm{m}}\right)^3 \cdot 10^6 \text{ rev}`,
    source: "ISO 3408-5",
    fields: [
      { id: "rating", label: "Dynamic rating C", quantity: "force", value: 25_000, min: 0, above: true, max: 1e7 },
      ...[
        [3000, 400, 30],
        [1500, 1000, 50],
        [500, 2000, 20],
      ].flatMap(([f, n, t], i): SumField[] => [
        { id: `f${i}`, label: `Force ${i + 1}`, quantity: "force", value: f, min: 0, max: 1e6 },
        { id: `n${i}`, label: `Speed ${i + 1}`, quantity: "speed", value: n, min: 0, max: 20_000 },
        { id: `t${i}`, label: `Share ${i + 1}`, quantity: "load", value: t, min: 0, max: 100 },
      ]),
      { id: "hours", label: "Working hours a year", quantity: "hours", value: 3500, min: 1, max: 8784 },
    ],
    compute: (v, system) => {
      const duty = [0, 1, 2].map((i) => ({ forceN: v[`f${i}`], speedPerMin: v[`n${i}`], share: v[`t${i}`] }));
      const life = screwLife(v["rating"], duty);
      const years = life.hours / v["hours"];
      const total = duty.reduce((s, d) => s + d.share, 0);
      return {
        lines: [
          { label: "Cubic mean force", quantity: "force", value: life.meanForceN },
          { label: "Mean speed", quantity: "speed", value: life.meanSpeedPerMin },
          { label: "Life L₁₀", quantity: "hours", value: life.hours },
          { label: "Years of this work", quantity: "number", value: years },
        ],
        says: [
          `Nine of ten such screws last ${years < 100 ? years.toFixed(1) : "over 100"} years at this duty.`,
          Math.abs(total - 100) > 0.5
            ? `The shares add up to ${formatQuantity("load", total, system)}; they were taken as they stand to each other.`
            : "",
        ].filter(Boolean),
        state: years < 2 ? "act" : years < 6 ? "watch" : "sound",
      };
    },
  },
  {
    id: "torque",
    name: "Drive and back-drive torque",
    group: "Screw",
    drawing: "screw",
    asks: "What torque does a force take, and does the screw hold by itself?",
    formula: String.raw`T = \dfrac{F\, l}{2\pi\eta}; \text{ back: } T = \dfrac{F\, l}{2\pi} \left(2 - \dfrac1\eta\right)`,
    source: "ball-screw catalogues; η common practice, no source",
    fields: [
      force,
      lead,
      {
        id: "efficiency",
        label: "Efficiency",
        quantity: "percent",
        value: 0.9,
        min: 0,
        above: true,
        max: 1,
        of: (a) => (a.transmission === "plain-screw" ? 0.45 : 0.9),
      },
    ],
    compute: (v) => {
      const of = { forceN: v["force"], leadMm: v["lead"], efficiency: v["efficiency"] };
      const back = backDriveTorque(of);
      return {
        lines: [
          { label: "Torque to drive it", quantity: "torque", value: driveTorque(of) },
          { label: "Torque with which the load turns it back", quantity: "torque", value: Math.max(0, back) },
        ],
        says: [
          back > 0
            ? "It does not hold by itself: a falling member needs its brake, and its block before anything is undone."
            : "The thread holds by itself at this efficiency; oil and vibration lower friction, so block it all the same.",
        ],
        state: back > 0 ? "watch" : "sound",
      };
    },
  },
  {
    id: "stiffness",
    name: "Axial stiffness along the travel",
    group: "Screw",
    drawing: "screw",
    asks: "How much do screw, bearings and nut give together?",
    formula: String.raw`\dfrac1k = \dfrac1{k_\text{screw}} + \dfrac1{k_\text{bearings}} + \dfrac1{k_\text{nut}}; \quad k_\text{screw} = \dfrac{E A}{x}, \text{ both ends fixed } \dfrac{E A L}{x (L - x)}`,
    source: "strength of materials; E from memory",
    fields: [
      root,
      { ...free, label: "Length between bearings" },
      {
        id: "both",
        label: "Held along its axis",
        quantity: "number",
        value: 0,
        min: 0,
        max: 1,
        choices: ["at one end", "at both ends"],
        of: (a) => (a.screw.fixings === "fixed-fixed" ? 1 : 0),
      },
      { id: "bearings", label: "Bearings", quantity: "stiffness", value: 750_000, min: 0, above: true, max: 1e8 },
      { id: "nut", label: "Nut", quantity: "stiffness", value: 600_000, min: 0, above: true, max: 1e8 },
      { ...force, label: "Reversing friction", value: 250 },
    ],
    compute: (v, system) => {
      const screw = { rootMm: v["root"], lengthMm: v["free"], bothEndsFixed: v["both"] === 1 };
      const k = (x: number): number => inSeries([screwStiffness(screw, x), v["bearings"], v["nut"]]);
      const points = Array.from({ length: 41 }, (_, i) => v["free"] * (0.05 + (0.9 * i) / 40)).map((x) => ({
        x,
        y: k(x),
      }));
      const softest = points.reduce((a, b) => (b.y < a.y ? b : a));
      const push = 2 * v["force"];
      const own = {
        screw: push / screwStiffness(screw, softest.x),
        bearings: push / v["bearings"],
        nut: push / v["nut"],
      };
      const say = (mm: number): string => formatQuantity("deviation", mm, system);
      return {
        lines: [
          { label: "Softest place", quantity: "length", value: softest.x },
          { label: "Stiffness there", quantity: "stiffness", value: softest.y },
          { label: "Wind-up at reversal there", quantity: "deviation", value: push / softest.y },
          { label: "Of it the screw", quantity: "deviation", value: own.screw },
          { label: "Of it the bearings", quantity: "deviation", value: own.bearings },
          { label: "Of it the nut", quantity: "deviation", value: own.nut },
        ],
        says: [
          `At its softest place, reversing friction winds the drive up by ${say(push / softest.y)}. With parts in order it is there all the same: it is give, not play.`,
          `Stiffer bearings or a nut with more preload could take away part of their ${say(own.bearings + own.nut)}, less friction part of everything; the screw’s own ${say(own.screw)} goes only with a thicker root or ${v["both"] === 1 ? "a shorter span" : "a hold at both ends"}.`,
        ],
        state: null,
        curve: {
          xLabel: "nut from the fixed end",
          xQuantity: "length",
          yLabel: "stiffness",
          yQuantity: "stiffness",
          points,
          mark: { x: softest.x, text: "softest" },
        },
      };
    },
  },
  {
    id: "growth",
    name: "Growth and pretension",
    group: "Screw",
    drawing: "screw",
    asks: "How much does the screw grow warm, and what pull takes that up?",
    formula: String.raw`\Delta L = \alpha\, L\, \Delta T, \quad \alpha = 11.7 \cdot 10^{-6}/\mathrm{K}; \quad \text{pull} = \alpha\, \Delta T\, E A`,
    source: "ball-screw catalogues (58.5 µm on 1 m at 5 K); reference 20 °C, ISO 1",
    fields: [
      { ...free, label: "Length that warms up", value: 1000 },
      { id: "step", label: "Warmer by", quantity: "temperature-step", value: 5, min: -50, max: 80 },
      root,
      { ...force, label: "What the bearings may carry", value: 15_000 },
    ],
    compute: (v, system) => {
      const pull = pretension(v["root"], v["step"]);
      return {
        lines: [
          { label: "Growth", quantity: "deviation", value: thermalGrowth(v["free"], v["step"]), signed: true },
          { label: "Pull that takes it up", quantity: "force", value: pull },
        ],
        says: [
          Math.abs(pull) <= v["force"]
            ? "The bearings carry that pull."
            : `The bearings may carry ${formatQuantity("force", v["force"], system)}: stretch for a smaller step.`,
        ],
        state: Math.abs(pull) <= v["force"] ? "sound" : "act",
      };
    },
  },
];
