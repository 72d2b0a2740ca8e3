import {
  brakeIsClear,
  jointAt,
  memberMass,
  PLACE_NAMES,
  screwTurns,
  turnsAsItRises,
  type Place,
  type Way,
} from "../machine/mechanism";
import { balanced, memberOf, screwOf, weightText } from "./said";
import type { StepContext, StepKind, StepText } from "./step-kind";

const LIGHT_KG = 25;

/** The weight goes from the block to the gear. */
export const GEAR_TAKE: StepKind = {
  id: "gear-take",
  phase: "work",
  hands: "in",
  power: "isolated",
  minutes: 6,
  effects: [{ kind: "gear", to: "taut" }],
  text: ({ config }) => ({
    title: `Take the ${memberOf(config)}’s weight on lifting gear`,
    why: "It has to move, and nothing else may carry it meanwhile.",
    how: [
      `It weighs ${weightText(config)}: gear rated for it, hook above its middle, in line with the ways.`,
      memberMass(config).kg <= LIGHT_KG
        ? "For this weight a strap over a bar, or a screw jack, will do; not a hand."
        : "Taut until the load on the block first changes, and no more.",
    ],
    caution: "Nobody under it, no hand between it and the block.",
    good: "Gear taut, the member has not moved.",
  }),
  people: ({ config }) => (memberMass(config).kg > LIGHT_KG ? 2 : 1),
  tools: ["lifting gear"],
};

/** How the member comes off its block by a hair: lifted, or by its screw where lifting does not turn that. */
function offTheBlock({ config, state }: StepContext): string {
  const member = memberOf(config);
  const parted = jointAt(state, "nut-bracket") === "off" || jointAt(state, "bracket-member") === "off";
  const lets = brakeIsClear(config, state) ? "" : ", the brake let go by its lever meanwhile and back at once";
  if (parted || !screwTurns(config))
    return `Raise the ${member} on the gear by a hair, wait, draw the block out by its handle.`;
  if (turnsAsItRises(config))
    return `Raise the ${member} on the gear by a hair${lets}; wait, draw the block out by its handle.`;
  return `Turn the ${screwOf(config)} by its hub until the ${member} stands off the block by a hair, the gear following${lets}: lifting alone does not turn a plain thread. Wait, draw the block out by its handle.`;
}

/** The block goes, from the side. */
export const BLOCK_AWAY: StepKind = {
  id: "block-away",
  phase: "work",
  hands: "out",
  power: "isolated",
  minutes: 2,
  effects: [
    { kind: "tie", to: false },
    { kind: "block", to: "none" },
  ],
  text: (c) => ({
    title: "Block out, from the side",
    why: "A member does not move off a block that it stands on.",
    how: [offTheBlock(c)],
    caution: "From the side; nobody under it.",
    good: "The gear carries, nothing sinks.",
  }),
  tools: ["lifting gear"],
  hold: "The gear carries the member and nothing sinks.",
};

/** The block comes back, and is tried again. */
export const BLOCK_BACK: StepKind = {
  id: "block-back",
  phase: "work",
  hands: "out",
  power: "isolated",
  minutes: 5,
  effects: ({ config }) => [
    { kind: "block", to: "set" },
    { kind: "block", to: "tried" },
    { kind: "gear", to: "none" },
    ...(balanced(config) && !config.brake ? [{ kind: "tie", to: true } as const] : []),
  ],
  text: ({ config }) => ({
    title: "Block back under, tried again by easing the gear",
    why: "Hands go in only over a block.",
    how: [
      `Packed to the height at which the ${memberOf(config)} stands now, standing flat, nothing that can tip.`,
      "Ease the gear until it is slack, an indicator on the casting: less than 0.1 mm.",
      ...(balanced(config) && !config.brake
        ? ["Strap or chain it down again: the balance will pull once it is let act."]
        : []),
    ],
    caution: "Nobody under it, no hand between.",
    good: "The block carries, the gear is slack.",
  }),
  tools: ["lifting gear", "block or stand rated for the weight", "indicator on a magnetic base"],
  hold: "The member stands on its block again. I have tried it.",
};

/**
 * Moves the member to a place in a way that exists in this state.
 * @param place - where to
 * @param way - how
 * @param lever - the brake is let go by its lever
 * @returns the step
 * @example moveStep("middle", "jog", false).id // 'move-middle'
 */
export function moveStep(place: Place, way: Way, lever: boolean): StepKind {
  return {
    id: `move-${place}`,
    phase: "work",
    hands: way === "jog" || way === "gear" ? "out" : "in",
    power: way === "jog" ? "on" : "isolated",
    minutes: way === "jog" ? 3 : 6,
    verbs: way === "jog" ? ["jog"] : [],
    effects: [
      ...(lever ? [{ kind: "brake-let", to: true } as const] : []),
      { kind: "member", to: place, by: way },
      ...(lever ? [{ kind: "brake-let", to: false } as const] : []),
    ],
    text: (c) =>
      WORDS_OF_WAY[way === "screw-by-hand" || way === "push" || way === "gear" ? way : "jog"](c, place, lever),
  };
}

type WayText = (c: StepContext, place: Place, lever: boolean) => StepText;

/** What holds meanwhile: a pinned balance, and a brake let go by hand. */
const pinnedText = ({ state }: StepContext): string[] =>
  state.balance === "secured" && state.joints["balance-link"] !== "off"
    ? ["Upwards only, a lead at most: the balance is pinned; one person watches its chain or rod."]
    : [];
const leverText = (lever: boolean): string[] =>
  lever ? ["The brake is let go by its lever or release screws meanwhile, and goes back at once."] : [];

const WORDS_OF_WAY: Record<"screw-by-hand" | "push" | "gear" | "jog", WayText> = {
  "screw-by-hand": (c, place, lever) => ({
    title:
      place === "opening"
        ? `Turn the ${screwOf(c.config)} by hand until the clamp screw faces you`
        : `Bring the ${memberOf(c.config)} ${PLACE_NAMES[place]}, by the ${screwOf(c.config)} by hand`,
    why:
      place === "opening"
        ? "The motor hides it, and then nothing turns any more."
        : "What is tightened there is in line.",
    how: [
      `Turn the ${screwOf(c.config)} by its hub or journal${place === "opening" ? ", a turn at most" : ""}; never by the thread.`,
      ...(c.state.gear === "taut" ? ["The gear follows, just taut."] : []),
      ...pinnedText(c),
      ...leverText(lever),
    ],
    caution: "Fingers clear of nut and ends.",
    good: "It turns alike all the way.",
  }),
  push: (c, place, lever) => ({
    title: `Push the ${memberOf(c.config)} ${PLACE_NAMES[place]}`,
    why: "What is tightened there is in line.",
    how: ["By its casting, slowly, from the middle.", ...leverText(lever)],
    caution: "Clear of both ends; it rolls on by itself.",
    good: "It moves alike all the way.",
  }),
  gear: (c, place, lever) => ({
    title:
      place === "opening"
        ? `Raise the ${memberOf(c.config)} on the gear until the clamp screw faces you`
        : `Bring the ${memberOf(c.config)} ${PLACE_NAMES[place]}, on the gear`,
    why: "Nothing else can move it now.",
    how: [
      `By the hoist, slowly; the ${screwOf(c.config)} turns as it goes where the nut is joined.`,
      ...pinnedText(c),
      ...leverText(lever),
    ],
    caution: "Hands out, nobody under it.",
    good: "It stands where it is wanted, the gear taut.",
  }),
  jog: (c, place) => ({
    title: `Jog the ${memberOf(c.config)} ${PLACE_NAMES[place]}`,
    why: "It has to stand there for what comes next.",
    how: ["Lowest feed, one hand on the stop, hands out."],
    good: "It stands where it is wanted.",
  }),
};
