import type { LinkId } from "../machine/axis";
import type { HeldBy, LubricationPoint } from "./types";

/** Links whose lubricant is carried along by moving the axis. */
const SPREADS: readonly (LinkId | null)[] = ["way", "nut", "screw", "rack"];

/** What is done at a point: the state the machine has to be in, then the steps in their order. */
export interface VisitText {
  readonly state: string;
  readonly steps: readonly string[];
}

type Told = Pick<LubricationPoint, "way" | "dose" | "doseUnit" | "link" | "machineOff" | "partsNut"> &
  Partial<Pick<LubricationPoint, "heldBy" | "letter" | "access" | "outlets" | "priming">>;

/** Strokes of a hand pump that fill its lines again once air is in them (common practice, no source). */
export const USUAL_PRIMING = 4;

const counted = (amount: number, unit: LubricationPoint["doseUnit"]): string =>
  `${Number(amount.toFixed(2))} ${amount === 1 ? unit.replace(/s$/, "") : unit}`;

type Given = Pick<LubricationPoint, "dose" | "doseUnit" | "lubricant" | "way"> &
  Pick<Partial<LubricationPoint>, "outlets"> & {
    /** What a stroke of the shop’s weighed gun gives, g; null: nobody has weighed one. */
    readonly gunStrokeG?: number | null;
  };

/**
 * What is given, in words.
 * @param point - the point
 * @returns the amount and the lubricant, or what to do where nothing is given
 * @example
 * giveText({ way: "nipple", dose: 2, doseUnit: "strokes", lubricant: "grease", gunStrokeG: 0.8 }) // "2 strokes (1.6 g), grease"
 */
export function giveText({ dose, doseUnit, lubricant, way, outlets, gunStrokeG }: Given): string {
  if (doseUnit === "wipe") return dose > 0 ? `wipe with ${lubricant}` : lubricant;
  if (dose === 0) return lubricant;
  // The strokes of a pump are not the gun’s.
  const weighed = gunStrokeG && doseUnit === "strokes" && way !== "central line";
  const places = way === "central line" ? 0 : (outlets?.length ?? 0);
  const each = places > 1 ? `, ${Number((dose / places).toFixed(2))} each` : "";
  const grams = weighed ? ` (${Number((dose * gunStrokeG).toPrecision(2))} g)` : "";
  return `${counted(dose, doseUnit)}${grams}${each}, ${lubricant}`;
}

/** Is its lubricant brought along? Not where nothing is given; a bowl without a dose is topped up. */
export const isBrought = ({ way, dose, link }: Pick<LubricationPoint, "way" | "dose" | "link">): boolean =>
  dose > 0 || (way === "bath" && link === null);

/** How a member that can fall is brought to where nobody is under it, before anybody reaches in. */
const HELD_TEXT: Readonly<Record<HeldBy, string>> = {
  brake:
    "Under power, hands out: bring it low, to where the point is reached from beside it. Then off and locked, and watch it: its brake holds it, it must not sink. Nobody under it without a block.",
  screw:
    "Under power, hands out: bring it low, to where the point is reached from beside it. Then off and locked, and wait: it must not sink. Nobody under it without a block.",
  block:
    "Under power, hands out: bring it down onto a block. Then off and locked: the block holds it, nothing else does.",
  pinned:
    "Under power, hands out: bring it down onto a block. Then off and locked, and its balance pinned, so that it can neither sink nor lift.",
};
/** The same of what cannot fall. */
const BROUGHT = "Under power, hands out: bring it to where the point is reached. Then off and locked.";
const HELD_AGAIN: Readonly<Record<HeldBy, string>> = {
  brake: "low again, off and locked",
  screw: "low again, off and locked, and it does not sink",
  block: "down onto its block again, off and locked",
  pinned: "down onto its block again, off and locked, its balance pinned",
};
/** What was set under it is out before the machine is handed back: the next one drives into it. */
const HANDED_BACK: Readonly<Record<HeldBy, string>> = {
  brake: "",
  screw: "",
  block: "; power back, up from its block under power, the block drawn out from beside",
  pinned: "; its pin out, hands out, power back, up from its block under power, the block drawn out from beside",
};

/** Off again after it was moved. */
function offAgain({ machineOff, heldBy }: Told): string {
  if (heldBy) return HELD_AGAIN[heldBy];
  return machineOff ? "off and locked again" : "stopped again";
}

function moved({ machineOff, heldBy }: Told, where: string): string {
  const power = machineOff || heldBy ? ", covers as they were, power back" : "";
  const out = heldBy === "pinned" ? "Its pin out, then hands and cloth out" : "Hands and cloth out";
  const onBlock = heldBy === "block" || heldBy === "pinned";
  const block = onBlock ? ", up from its block, the block drawn out from beside" : "";
  return `${out}${power}${block}: ${where} at slow feed.`;
}

const capital = (text: string): string => text.replace(/^./, (c) => c.toUpperCase());

/** Two halves, since where the nut stands nothing can be laid. */
function beadSteps(point: Told, give: string): string[] {
  const again = offAgain(point);
  return [
    `Old grease wiped off the thread with a dry cloth, no cotton waste. Half of ${give}: a thin bead along the thread on the longer side of the nut.`,
    moved(point, "the nut over to that side"),
    `${capital(again)}. The other half: a bead along what the nut has left free.`,
    moved(point, "run it in, the whole travel to and fro"),
    `${capital(again)}, then wipe off what the nut has pushed out.`,
  ];
}

function givenSteps(point: Told, give: string): string[] {
  const { way, doseUnit, link } = point;
  if (way === "bead") return beadSteps(point, give);
  const steps = [`Clean first, then ${give}${doseUnit === "wipe" ? "" : `, by ${way}`}.`];
  if (!SPREADS.includes(link)) return [...steps, "Wipe off the excess."];
  return [
    ...steps,
    `To spread it: ${moved(point, "the whole travel").replace(/^./, (c) => c.toLowerCase())}`,
    `${capital(offAgain(point))}, then wipe off the excess.`,
  ];
}

/** In which state it is done; where something is moved beforehand, it is not off before that. */
function stateOf({ way, machineOff, heldBy }: Told, brought: boolean): string {
  if (brought) return "Done with the machine off and locked";
  if (machineOff || heldBy) return "Machine off and locked";
  return way === "central line"
    ? "Machine may stay on, hands clear of what moves"
    : "Machine may stay on, but stands: nothing moves while a hand or a cloth is in";
}

function ownSteps(point: Told, give: string): string[] {
  const { way, dose } = point;
  if (way === "central line")
    return [
      `Prime it: ${give}. Air in it wants more: ${point.priming ?? USUAL_PRIMING} strokes, or till the handle resists.`,
      "Then look, the farthest outlet first.",
    ];
  if (way === "look") return ["Look, feel, and say what it is like. Nothing is given."];
  if (way === "clean") return ["Wipe it clean and dry with a clean cloth: no oil, no grease, nothing is moved."];
  if (dose === 0) return [isBrought(point) ? `Top up to its mark, never over: ${give}.` : `Lubricant: ${give}.`];
  return givenSteps(point, give);
}

/**
 * A visit in words, from the way in and the state of the machine. A machine that is off moves nothing: what is moved is
 * moved under power with hands out, and off again before the cloth. What can fall is low or on its block first.
 * Source: common practice, no source.
 *
 * @param point - the point; an amount of 0 means that nothing is given
 * @param give - the amount and the lubricant, as "2 strokes, grease" or "wipe with chain oil"
 * @returns its state, and its steps
 * @example
 * visitText({ way: "nipple", dose: 2, doseUnit: "strokes", link: "nut", machineOff: true, partsNut: false }, "2 strokes, grease").state
 * // "Machine off and locked"
 */
export function visitText(point: Told, give: string): VisitText {
  if (point.partsNut)
    return {
      state: "This one is a job",
      steps: ["Its nut is parted from its bracket, greased, joined again and aligned: open it as a job."],
    };
  const access = point.access ? [`${capital(point.access)}.`] : [];
  // Nobody reaches to a central line’s outlets, nor to what is looked at from outside.
  const reached = point.way !== "central line" && (point.machineOff || point.way !== "look");
  const seen = reached ? point : { ...point, heldBy: null };
  const moves = reached && point.machineOff && point.letter && point.dose > 0;
  const brought = seen.heldBy ? [HELD_TEXT[seen.heldBy]] : moves ? [BROUGHT] : [];
  const back =
    reached && point.machineOff
      ? [`Cloth and tools out, covers on${seen.heldBy ? HANDED_BACK[seen.heldBy] : ""}.`]
      : [];
  return { state: stateOf(seen, brought.length > 0), steps: [...brought, ...access, ...ownSteps(seen, give), ...back] };
}
