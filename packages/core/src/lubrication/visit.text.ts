import type { LinkId } from "../machine/axis";
import type { LubricationPoint } from "./types";

/** Links whose lubricant is carried along by moving the axis. */
const SPREADS: readonly (LinkId | null)[] = ["way", "nut", "screw", "rack"];

/** What is done at a point: the state the machine has to be in, then the steps in their order. */
export interface VisitText {
  readonly state: string;
  readonly steps: readonly string[];
}

/** Is its lubricant brought along? Not where nothing is given; a bowl without a dose is topped up. */
export const isBrought = ({ way, dose, link }: Pick<LubricationPoint, "way" | "dose" | "link">): boolean =>
  dose > 0 || (way === "bath" && link === null);

/**
 * A visit in words, from the way in and the state of the machine. A machine that is off moves nothing:
 * spreading is a step of its own, with hands out and the power back, and off again before the cloth.
 * Source: common practice, no source.
 *
 * @param point - the point; an amount of 0 means that nothing is given
 * @param give - the amount and the lubricant, as "2 strokes, grease" or "wipe with chain oil"
 * @returns its state, and its steps
 * @example
 * visitText({ way: "nipple", dose: 2, doseUnit: "strokes", link: "nut", machineOff: true, partsNut: false }, "2 strokes, grease").state
 * // "Machine off and locked"
 */
export function visitText(
  point: Pick<LubricationPoint, "way" | "dose" | "doseUnit" | "link" | "machineOff" | "partsNut">,
  give: string,
): VisitText {
  const { way, dose, doseUnit, link, machineOff } = point;
  if (point.partsNut)
    return {
      state: "This one is a job",
      steps: ["Its nut is parted from its bracket, greased, joined again and aligned: open it as a job."],
    };
  const central = way === "central line";
  const on = central
    ? "Machine may stay on, hands clear of what moves"
    : "Machine may stay on, but stands: nothing moves while a hand or a cloth is in";
  const state = machineOff ? "Machine off and locked" : on;
  if (central) return { state, steps: [`Prime it: ${give}.`] };
  if (dose === 0)
    return { state, steps: [isBrought(point) ? `Top up to its mark, never over: ${give}.` : `Lubricant: ${give}.`] };
  const steps = [`Clean first, then ${give}${doseUnit === "wipe" ? "" : `, by ${way}`}.`];
  if (!SPREADS.includes(link)) return { state, steps: [...steps, "Wipe off the excess."] };
  return {
    state,
    steps: [
      ...steps,
      machineOff
        ? "To spread it: hands and cloth out, covers as they were, power back, the whole travel at slow feed."
        : "To spread it: hands and cloth out, then the whole travel at slow feed.",
      machineOff ? "Off and locked again, then wipe off the excess." : "Stopped again, then wipe off the excess.",
    ],
  };
}
