import type { AxisConfig, FindingId, Report } from "@iron/core";
import type { Condition } from "./condition";
import { noticed, signal } from "./signals";

/** What can be told without a test. */
export const TOLD: readonly FindingId[] = [
  "rumble",
  "howl",
  "rattle",
  "grit",
  "carriage-click",
  "groan",
  "knock",
  "grind-still",
  "click-descent",
  "tight-all",
  "tight-end",
  "tight-turn",
  "tight-spot",
  "tight-one-way",
  "lost-motion",
  "wanders",
  "lost-steps",
  "short-travel",
  "hunting",
  "spikes",
  "quadrant-step",
  "recut",
  "chatter",
  "home-varies",
  "home-turn",
  "no-motion",
  "stops-in-program",
  "hot-end",
  "stalls",
  "end-walks",
  "ripple-pair",
];

/** Nobody thinks the axis stands still when it does not: so plain that it is not imagined. */
const PLAIN: readonly FindingId[] = ["no-motion", "stops-in-program", "short-travel", "home-turn", "click-descent"];
/** What one hears of an axis whose screw one wants renewed. */
const OF_A_SCREW: readonly FindingId[] = ["howl", "grit", "lost-motion", "rumble", "tight-turn", "quadrant-step"];

/** How people tell what a machine does. Common practice, no source. */
interface Person {
  readonly often: number;
  /** Of what is noticed, how much is told; of what is not there, how much is said to be so not. */
  readonly tells: number;
  readonly denies: number;
  /** Said without looking. */
  readonly imagines: number;
  /** What is taken for plainer than it is. */
  readonly bias: (id: FindingId) => number;
}

export const PEOPLE: readonly Person[] = [
  { often: 0.4, tells: 0.92, denies: 0.7, imagines: 0.01, bias: () => 1 },
  { often: 0.4, tells: 0.55, denies: 0.4, imagines: 0.03, bias: () => 0.8 },
  {
    often: 0.2,
    tells: 0.75,
    denies: 0.5,
    imagines: 0.02,
    bias: (id) => (OF_A_SCREW.includes(id) ? 1.9 : 0.8),
  },
];

/** Chances that this person says yes, says no, or nothing, of one thing. */
export function saying(person: Person, { id, strength }: { readonly id: FindingId; readonly strength: number }) {
  const sees = noticed(strength * person.bias(id));
  const imagined = PLAIN.includes(id) ? 0.001 : person.imagines * (person.bias(id) > 1 ? 4 : 1);
  // That it stands still, or stops in the program, is what one is called for: hardly anybody leaves it out.
  const tells = PLAIN.includes(id) ? 1 - (1 - person.tells) / 5 : person.tells;
  const yes = tells * (sees + (1 - sees) * imagined);
  const no = person.denies * (1 - sees) * (1 - imagined);
  return { yes, no, nothing: 1 - yes - no };
}

/** What a person tells of an axis. */
export function told(
  axis: AxisConfig,
  { condition, who, u }: { readonly condition: Condition; readonly who: number; readonly u: () => number },
): Report[] {
  return TOLD.flatMap((id): Report[] => {
    const chance = saying(PEOPLE[who], { id, strength: signal(id, condition, axis) });
    const at = u();
    if (at < chance.yes) return [{ finding: id, present: true, source: "symptom" }];
    return at < chance.yes + chance.no ? [{ finding: id, present: false, source: "symptom" }] : [];
  });
}
