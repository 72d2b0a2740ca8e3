import {
  clampForce,
  clampForceShort,
  cordDrag,
  makeUpSpacer,
  nutPreloadDrag,
  nutTorque,
  preloadLossLimit,
  preloadOffset,
  setUnderLoad,
  spacerGrind,
  type LockNutThread,
} from "./bearing";
import { formatQuantity } from "../quantity";
import type { Sum, SumField } from "./types";

const HERTZ = "Hertz as in bearing handbooks (0.00044 form), from memory";
/** Rows that carry the load one way, and the other. */
export const ARRANGEMENTS = [
  { text: "pair, back to back", rows: [1, 1] },
  { text: "pair, face to face", rows: [1, 1] },
  { text: "three, two carry the load", rows: [2, 1] },
  { text: "three, one carries the load", rows: [1, 2] },
  { text: "four, two and two", rows: [2, 2] },
  { text: "four, three and one", rows: [3, 1] },
  { text: "two in a row against one spring", rows: [2, "spring"] },
] as const;

const row: readonly SumField[] = [
  { id: "balls", label: "Balls in a row", quantity: "number", value: 15, min: 1, max: 100 },
  { id: "ball", label: "Ball diameter", quantity: "length", value: 7.144, min: 0, above: true, max: 100 },
  { id: "angle", label: "Contact angle", quantity: "angle", value: 60, min: 0, above: true, max: 90 },
];
const arrangement: SumField = {
  id: "set",
  label: "Arrangement",
  quantity: "number",
  value: 0,
  min: 0,
  max: ARRANGEMENTS.length - 1,
  choices: ARRANGEMENTS.map((a) => a.text),
  of: (a) => (a.bearings === "angular-quad" ? 4 : a.bearings === "angular-triple" ? 2 : 0),
};
const thread: readonly SumField[] = [
  { id: "d", label: "Thread diameter", quantity: "length", value: 25, min: 0, above: true, max: 200 },
  { id: "pitch", label: "Pitch", quantity: "length", value: 1.5, min: 0, above: true, max: 10 },
  { id: "face", label: "Mean radius of the face", quantity: "length", value: 17, min: 0, above: true, max: 200 },
];

const nutOf = (v: Readonly<Record<string, number>>, friction: number): LockNutThread => ({
  diameterMm: v["d"],
  pitchMm: v["pitch"],
  faceRadiusMm: v["face"],
  threadFriction: friction,
  faceFriction: friction,
});

export const BEARING_SUMS: readonly Sum[] = [
  {
    id: "preload",
    name: "Bearing set under load",
    group: "Bearing and preload",
    drawing: "bearing",
    asks: "How far does the set give, and when does its far side go slack?",
    formula: String.raw`\delta = \dfrac{0.00044}{\sin\alpha} \left(\dfrac{Q^2}{D_\mathrm{w}}\right)^{1/3}, \quad Q = \dfrac{F}{Z \sin\alpha}; \text{ both sides share one movement}`,
    source: HERTZ,
    fields: [
      arrangement,
      ...row,
      { id: "preload", label: "Preload", quantity: "force", value: 2000, min: 0, max: 1e6 },
      { id: "load", label: "Axial load", quantity: "force", value: 3000, min: 0, max: 1e6 },
    ],
    compute: (v, system) => {
      const {
        rows: [rowsWith, rowsAgainst],
      } = ARRANGEMENTS[v["set"]];
      const set = { row: { balls: v["balls"], ballMm: v["ball"], contactDeg: v["angle"] }, rowsWith, rowsAgainst };
      const at = setUnderLoad(set, v["preload"], v["load"]);
      const limit = preloadLossLimit(set, v["preload"]);
      const most = Math.max(v["load"], limit ?? 0) * 1.3 + 1;
      const points = Array.from({ length: 41 }, (_, i) => (most * i) / 40).map((x) => ({
        x,
        y: setUnderLoad(set, v["preload"], x).deflectionMm,
      }));
      const back = formatQuantity("force", v["preload"], system);
      return {
        lines: [
          { label: "Gives by", quantity: "deviation", value: at.deflectionMm },
          { label: "Loaded side carries", quantity: "force", value: at.loadedN },
          {
            label: limit === null ? "Spring still holds" : "Far side still carries",
            quantity: "force",
            value: at.unloadedN,
          },
          limit === null
            ? { label: "Pulled the other way, opens at", quantity: "force", value: v["preload"] }
            : { label: "Far side goes slack at", quantity: "force", value: limit },
          { label: "Rings closer by, when clamped", quantity: "deviation", value: preloadOffset(set, v["preload"]) },
        ],
        says:
          limit === null
            ? [
                `The spring keeps its force: the rows never go slack by a load on them, and they give more than a set of bearings would. Pulled the other way they open at ${back}.`,
              ]
            : [
                at.open
                  ? `The far side is slack: above ${formatQuantity("force", limit, system)} the set rattles. More preload, or a set with more rows that way.`
                  : `The set stays tight up to ${formatQuantity("force", limit, system)}.`,
              ],
        state: at.open ? "act" : limit !== null && v["load"] > 0.8 * limit ? "watch" : "sound",
        curve: {
          xLabel: "axial load",
          xQuantity: "force",
          yLabel: "gives",
          yQuantity: "deviation",
          points,
          ...(limit === null ? {} : { mark: { x: limit, text: "far side slack" } }),
        },
      };
    },
  },
  {
    id: "bearing-nut",
    name: "Bearing nut: torque and clamp force",
    group: "Bearing and preload",
    drawing: "nut",
    asks: "What clamp force does a torque make, and what spread has it?",
    formula: String.raw`F = \dfrac{T}{\frac{d_2}{2} \tan(\lambda + \rho') + \mu\, r_\mathrm{m}}; \text{ short form } F = \dfrac{T}{K d}`,
    source: "bolt-torque formula as in VDI 2230 (from memory), K common practice, no source",
    fields: [
      ...thread,
      { id: "torque", label: "Torque", quantity: "torque", value: 60, min: 0, max: 5000 },
      { id: "low", label: "Friction, oiled", quantity: "number", value: 0.1, min: 0.04, max: 0.4 },
      { id: "high", label: "Friction, dry", quantity: "number", value: 0.18, min: 0.04, max: 0.4 },
      { id: "target", label: "Wanted clamp force", quantity: "force", value: 15_000, min: 0, max: 1e6 },
    ],
    compute: (v, system) => {
      const [most, least] = [v["low"], v["high"]].map((mu) => clampForce(nutOf(v, mu), v["torque"]));
      const middle = (v["low"] + v["high"]) / 2;
      const wanted = nutTorque(nutOf(v, middle), v["target"]);
      const inside = v["target"] >= least && v["target"] <= most;
      return {
        lines: [
          { label: "Clamp force, oiled", quantity: "force", value: most },
          { label: "Clamp force, dry", quantity: "force", value: least },
          { label: "Short form, K 0.2", quantity: "force", value: clampForceShort(v["d"], v["torque"]) },
          { label: "Torque for the wanted force", quantity: "torque", value: wanted },
        ],
        says: [
          inside
            ? "The wanted force lies inside what this torque can make; friction decides where."
            : `This torque makes ${formatQuantity("force", least, system)} to ${formatQuantity("force", most, system)}: not the wanted force.`,
          "Torque alone leaves this spread: measure the drag after locking.",
        ],
        state: inside ? "sound" : "watch",
      };
    },
  },
  {
    id: "drag",
    name: "Drag torque",
    group: "Bearing and preload",
    drawing: "nut",
    asks: "What drag does a cord pull mean, and is it in its window?",
    formula: String.raw`T = \text{pull} \cdot r; \text{ ball nut } T_\mathrm{p} = \dfrac{0.05}{\sqrt{\tan\beta}} \cdot \dfrac{F_\mathrm{p}\, l}{2\pi}`,
    source: "statics; JIS B 1192, from memory",
    fields: [
      { id: "pull", label: "Pull on the cord", quantity: "force", value: 6, min: 0, max: 1000 },
      { id: "radius", label: "Radius of the cord", quantity: "length", value: 16, min: 0, above: true, max: 500 },
      { id: "from", label: "Window from", quantity: "torque", value: 0.06, min: 0, max: 100 },
      { id: "to", label: "Window to", quantity: "torque", value: 0.14, min: 0, max: 100 },
      { id: "fp", label: "Nut preload", quantity: "force", value: 1000, min: 0, max: 1e5 },
      {
        id: "lead",
        label: "Lead",
        quantity: "length",
        value: 10,
        min: 0,
        above: true,
        max: 200,
        of: (a) => a.screw.leadMm,
      },
      {
        id: "circle",
        label: "Ball circle",
        quantity: "length",
        value: 32,
        min: 0,
        above: true,
        max: 200,
        of: (a) => a.screw.nominalMm,
      },
    ],
    compute: (v, system) => {
      const drag = cordDrag(v["pull"], v["radius"]);
      const within = drag >= v["from"] && drag <= v["to"];
      return {
        lines: [
          { label: "Drag", quantity: "torque", value: drag },
          {
            label: "Drag of a nut with that preload",
            quantity: "torque",
            value: nutPreloadDrag({ preloadN: v["fp"], leadMm: v["lead"], ballCircleMm: v["circle"] }),
          },
        ],
        says: [
          within
            ? "In its window."
            : drag < v["from"]
              ? `Too little: below ${formatQuantity("torque", v["from"], system)}, it floats.`
              : `Too much: above ${formatQuantity("torque", v["to"], system)}, it gets hot.`,
          "By feel: a flick should spin it a little and let it come to rest by itself; free-wheeling is loose, not turning is tight.",
        ],
        state: within ? "sound" : "act",
      };
    },
  },
  {
    id: "spacer",
    name: "Spacer grind",
    group: "Bearing and preload",
    drawing: "bearing",
    asks: "Which ring’s spacer is ground, and by how much?",
    formula: String.raw`\text{grind} = \text{wanted gap} - \text{gap as found}`,
    source: "bearing handbooks, from memory",
    fields: [
      {
        id: "set",
        label: "Arrangement",
        quantity: "number",
        value: 0,
        min: 0,
        max: 1,
        choices: ["back to back", "face to face"],
      },
      {
        id: "gap",
        label: "Gap that clamping closes, as found",
        quantity: "deviation",
        value: 0,
        min: -0.5,
        max: 0.5,
        asked: true,
      },
      {
        id: "want",
        label: "Gap wanted for the preload",
        quantity: "deviation",
        value: 0,
        min: 0,
        max: 0.5,
        asked: true,
      },
    ],
    compute: (v, system) => {
      const pair = v["set"] === 0 ? "back-to-back" : "face-to-face";
      const gapped = pair === "back-to-back" ? "inner" : "outer";
      const grind = spacerGrind(v["gap"], v["want"], pair);
      const by = formatQuantity("deviation", grind.byMm, system);
      return {
        lines: [{ label: "Grind", quantity: "deviation", value: grind.byMm }],
        says:
          grind.ring === "none"
            ? ["Nothing to grind."]
            : [
                `Grind the ${grind.ring} spacer by ${by}, both faces parallel: ${grind.ring === gapped ? "more" : "less"} preload.`,
                `The gap of a pair ${v["set"] === 0 ? "back to back" : "face to face"} is the one between the ${gapped} rings, without load. Find which way round the set lies before grinding: the wrong spacer makes it worse.`,
                "What is ground off does not come back: stop short, measure the gap again, then take the rest. A matched set without spacers is not ground; it is changed.",
              ],
        state: null,
      };
    },
  },
  {
    id: "make-up",
    name: "Make-up spacer",
    group: "Bearing and preload",
    drawing: "bearing",
    asks: "What width fills the seat beside the bearings?",
    formula: String.raw`\text{make-up} = \text{depth} - \text{bearings}`,
    source: "geometry",
    fields: [
      { id: "depth", label: "Depth of the seat", quantity: "length", value: 42.35, min: 0, above: true, max: 500 },
      { id: "w1", label: "First bearing", quantity: "length", value: 15, min: 0, above: true, max: 200 },
      { id: "w2", label: "Second bearing", quantity: "length", value: 15, min: 0, max: 200 },
    ],
    compute: (v, system) => {
      const width = makeUpSpacer(v["depth"], [v["w1"], v["w2"]]);
      return {
        lines: [{ label: "Make-up spacer", quantity: "length", value: width }],
        says: [
          `${formatQuantity("length", width, system)} fills it flush; what the nut must clamp over that, the drawing says. Grind it last, both faces parallel: what is ground off does not come back.`,
        ],
        state: null,
      };
    },
  },
];
