import { usualSetDrag } from "../sums/bearing";
import { bothTorques } from "../quantity";
import {
  housingMass,
  screwMass,
  isBelted,
  isCoupled,
  isStretched,
  jointsOf,
  lifting,
  motorMass,
  screwTurns,
} from "../machine/mechanism";
import {
  carriers,
  eased,
  easingTriesBlock,
  easingText,
  FASTENER_FINDS,
  gravity,
  isTab,
  kgText,
  made,
  memberOf,
  nutText,
  screwOf,
  to,
  tried,
} from "./said";
import type { FindChoice, StepContext, StepKind } from "./step-kind";

// prettier-ignore
const PART_FINDS: readonly FindChoice[] = [
  { id: "rough", label: "rough or pitted" },
  { id: "dry", label: "dry", say: "Find why the grease did not come here before the new one goes dry too." },
  { id: "rusty", label: "rusty", say: "Coolant gets in: look at the seal and its lip." },
  { id: "smooth", label: "smooth", asks: true, say: "Smooth: stop and think. Put it back with its preload and measure again, or renew it because it is apart: say which, and why." },
];
const rotating = (c: StepContext["config"]): boolean => c.transmission === "rotating-nut";
const pillow = (c: StepContext["config"]): boolean => c.mechanics.fixedEnd === "pillow-block";
const pinned = (c: StepContext["config"]): boolean => c.mechanics.fixedEnd === "pinned";
const renews = ({ kinds, options }: StepContext): boolean =>
  kinds.has("fixed-bearings") || kinds.has("nut-bearing") || (kinds.has("screw") && options.newBearings);
const houses = (c: StepContext["config"]): string => (rotating(c) ? "nut housing" : "bearing housing");
/** The window of a matched set, where nobody has the maker’s at hand. */
function dragText(config: StepContext["config"]): string {
  const usual = usualSetDrag(config);
  return usual
    ? `, else ${bothTorques(usual.fromNm)} to ${bothTorques(usual.toNm)}, usual for such a set of about ${usual.boreMm} mm bore`
    : "; for a pair adjusted here there is no usual figure";
}
function dragBounds(config: StepContext["config"]): {
  readonly from?: number;
  readonly to?: number;
} {
  const usual = usualSetDrag(config);
  return usual ? { from: usual.fromNm, to: usual.toNm } : {};
}
/** The screw is flicked or pulled by a cord only where it turns with nothing on it. */
const turnsFree = ({ config, sheet }: StepContext): boolean => {
  const parted = sheet.has("hub-ease") || sheet.has("belt-off");
  const clear = !config.brake || (config.mechanics.brakeAt === "motor" && parted);
  return screwTurns(config) && clear && (sheet.has("nut-parted") || (!gravity(config) && parted));
};

/** From the motor to the end bearings: what comes off, and how it goes back on. Common practice, no source. */
// prettier-ignore
export const DRIVE_STEPS: readonly StepKind[] = [
  {
    id: "hub-ease", phase: "work", hands: "in", power: "isolated", minutes: 6, fits: isCoupled,
    effects: ({ config, state }) => eased(config, state, [tried("hub-screw"), to("hub-screw", "loose")]),
    text: ({ config, state }) => ({
      title: "Try the coupling screw that faces you, then ease it", why: "The hub on the screw lets go; the other stays with the motor.",
      how: ["Torque wrench on it first: does it turn below its torque?", "Ease it; do not take it out. Never strip a socket: clean it, new bit, straight.", ...easingText(config, state)],
      ...(easingTriesBlock(config, state) ? { caution: "From here on only the block carries. Nobody under it." } : {}), good: "The hub turns on its shaft.",
    }),
    tools: ({ config, state }) => ["hex keys", "torque wrench", ...(easingTriesBlock(config, state) ? ["indicator on a magnetic base"] : [])],
    finds: [{ id: "tight", label: "screws tight" }, { id: "loose", label: "a screw was loose", offersStop: true, say: "A loose coupling screw is lost motion by itself. Tighten it to torque, close and measure again before anything else is opened." }, { id: "stripped", label: "a socket is stripped", say: "Get it out now, with the motor still on: later nothing holds the hub." }],
  },
  {
    id: "belt-off", phase: "work", hands: "in", power: "isolated", minutes: 8, fits: isBelted,
    effects: ({ config, state }) => eased(config, state, [tried("belt"), to("belt", "off")]),
    text: ({ config, state }) => ({
      title: "Slacken and take the belt off", why: rotating(config) ? "It drives the nut." : "It ties motor and screw together.",
      how: ["Try the motor plate’s screws for tightness first.", "Mark belt and both pulleys to each other.", "Slacken the plate, belt off without a lever.", ...easingText(config, state)],
      ...(easingTriesBlock(config, state) ? { caution: "The brake goes with the motor: from here on only the block carries." } : {}), good: "No cracked or missing teeth.",
    }),
    tools: ["hex keys", "torque wrench", "marker"], finds: [{ id: "sound", label: "belt sound" }, { id: "worn", label: "belt worn or cracked", offers: "belt", say: "Renew it now: it is cheaper than opening again." }, { id: "loose", label: "plate screws were loose", offersStop: true, say: "A slack belt is lost motion by itself: tension it and measure again." }], photo: "belt marks",
  },
  {
    id: "motor-off", phase: "work", hands: "in", power: "isolated", minutes: 13, fits: (c) => isCoupled(c),
    effects: [tried("motor"), to("motor", "off")],
    text: ({ config }) => {
      const kg = motorMass(config);
      const brake = config.brake && config.mechanics.brakeAt === "motor";
      return { title: brake ? "Motor with its brake off, as one piece" : "Motor off", why: "What holds the bearing is behind it.", how: [`It weighs ${kgText(kg)}.`, "Marked to its flange; plugs out and covered, cables not hung on.", lifting(kg.kg).people === 2 ? "Strap on before the last screws; two people draw it straight." : "Held by hand while the last screw comes out; drawn straight."], caution: brake ? "The brake goes with the motor." : "Fingers clear of the hub as it comes free.", good: "It lies on a bench, shaft covered." };
    },
    people: ({ config }) => carriers(motorMass(config).kg), tools: ({ config }) => ["hex keys", "torque wrench", ...(lifting(motorMass(config).kg).people === 2 ? ["lifting strap"] : [])], finds: [{ id: "tight", label: "motor screws tight" }, { id: "loose", label: "motor screws were loose", offersStop: true, say: "A motor loose on its flange is lost motion by itself: tighten, close and measure again." }],
  },
  {
    id: "hub-off", phase: "work", hands: "in", power: "isolated", minutes: 4, fits: isCoupled, effects: [to("hub-screw", "off")],
    text: { title: "Hub of the screw off", why: "The nuts must pass.", how: ["Its depth and the gap to the other hub are noted; mark the key or flat.", "Spread its slot a hair; no blow on the screw, no pliers on the flexible part."], good: "The journal is bright." }, tools: ["hex keys", "feeler gauges"],
  },
  {
    id: "new-insert", phase: "work", hands: "in", power: "isolated", minutes: 3, fits: (c) => isCoupled(c) && c.coupling === "insert", needs: [{ joint: "motor", at: "off", side: "open" }], effects: [made("insert-renewed")],
    text: { title: "New coupling insert", why: "It is apart: the part costs little.", how: ["Same hardness as before, read off the old one."], good: "It sits without force." }, parts: [{ name: "coupling insert", count: 1, of: "hub-screw", order: true, cost: "small" }],
  },
  {
    id: "try-end", phase: "work", hands: "in", power: "isolated", minutes: 5, needs: ({ config }) => (isCoupled(config) && !pillow(config) ? [{ joint: "hub-screw", at: "off", side: "open" }] : []),
    effects: ({ config }) => (["retainer", "housing", "nut-flange", "screw-clamps"] as const).filter((j) => jointsOf(config).includes(j)).map(tried),
    text: ({ config }) => ({ title: rotating(config) ? "Try every nut housing and clamp screw at torque, before any is loosened" : `Try every ${pillow(config) ? "block" : "retainer and housing"} screw at torque, before any is loosened`, why: "Stop here if they were not tight: that may be all that is wrong.", how: ["Torque wrench on each, in the sense of tightening; note what turned and how far.", "Grip the bearing nut: does it turn by hand?"], good: "You know which were tight.", ifNot: "Loose: stop is offered. Only screws turned: torque, mark and close. A nut that moved is set to its preload and locked first." }),
    tools: ["torque wrench"], finds: FASTENER_FINDS,
  },
  {
    id: "prop-in", phase: "work", hands: "in", power: "isolated", minutes: 3, fits: (c) => gravity(c) && screwTurns(c), effects: [{ kind: "prop", to: true }], needs: [{ joint: "covers", at: "off", side: "open" }],
    text: ({ config }) => ({ title: `Prop under the ${screwOf(config)}, a hand’s breadth down`, why: "Once its end lets go only its nut holds it, and a nut with clearance lets it wind down.", how: ["A block of wood or soft jack under its free end, standing by itself."], good: "It cannot fall further than that." }), tools: ["prop for the screw"],
  },
  {
    id: "sling-on", phase: "work", hands: "in", power: "isolated", minutes: 5, fits: (c) => gravity(c) && screwTurns(c), effects: [{ kind: "sling", to: true }], needs: [{ joint: "covers", at: "off", side: "open" }],
    text: ({ config }) => ({ title: `Sling on the ${screwOf(config)}, from above, just taut`, why: "Before its nut is parted and its end lets go: then nothing else holds it.", how: [`It weighs about ${Math.max(1, Math.round(screwMass(config)))} kg with its nut. Soft sling round the thread below the journal, in line with the screw.`, lifting(screwMass(config)).people === 2 ? "On a hoist rated for it." : "On a hoist or a beam; for this weight a strap made fast above will do, not a hand."], caution: "Nobody under the screw.", good: "It carries the screw when the nut is turned a hair." }), tools: ["sling"],
  },
  {
    id: "lock-open", phase: "work", hands: "in", power: "isolated", minutes: 3, effects: [to("nut-lock", "loose")],
    text: ({ config }) => isTab(config) ? { title: "Unfold the tab", why: "It locks the nuts.", how: ["Note its slot; fold it flat with a drift, the blow away from the screw."], good: "Flat and whole.", ifNot: "Cracked: a new washer goes in." } : { title: pillow(config) ? "Grub screws of the collars loose" : "Lock of the bearing nut loose", why: "Locked, it cannot be turned without tearing.", how: [pillow(config) ? "Both grub screws, a turn; clean their sockets first." : "Clamp screw or set screws loose; count them."], good: "Nothing bites on the thread." },
    tools: ({ config }) => (isTab(config) ? ["drift", "hammer", "eye protection"] : ["hex keys"]), parts: ({ config }) => (isTab(config) ? [{ name: "tab washer", count: 1, of: "nut-lock", order: true, cost: "small" }] : []),
  },
  {
    id: "nut-back", phase: "work", hands: "in", power: "isolated", minutes: 6, effects: ({ config, state }) => eased(config, state, [to("bearing-nut", "loose"), made("nut-moved")]),
    text: ({ config, state }) => ({ title: isTab(config) ? `Hold the lower nut, break the upper; hold the ${screwOf(config)}, break the lower` : `Hold the ${rotating(config) ? "nut" : screwOf(config)}, break the ${nutText(config)}`, why: "It clamps the bearing set.", how: [rotating(config) ? "Hold the nut by its pulley’s pin holes." : "The screw by its own tool, or the hub clamped on again; never by its thread or the balls.", "Pin or hook spanner fully in; a steady pull, no blows.", ...easingText(config, state)], caution: "Eye protection.", good: "It turns by the spanner alone." }), tools: ["pin or hook spanner", "tool to hold the screw", "eye protection"],
  },
  {
    id: "far-nut-ease", phase: "work", hands: "in", power: "isolated", minutes: 4, effects: [to("far-nut", "loose")], uses: ({ config }) => (isStretched(config) ? ["stretch-noted"] : []),
    text: ({ config }) => isStretched(config) ? { title: "Ease the tension nut at the far end first", why: "The screw is stretched between its ends: let the pull go before either is opened.", how: ["Its lock free, then back by a turn; the screw shortens.", "Watch the indicator: what it gives is the stretch."], good: "No pull left." } : { title: "Loosen the nut of the far support", why: "It would pull against you.", how: ["Its lock free, then a turn back."], good: "The screw can move endwise by a hair." }, tools: ["pin or hook spanner"],
  },
  {
    id: "retainer-off", phase: "work", hands: "in", power: "isolated", minutes: 6, needs: [{ joint: "bearing-nut", at: "loose", side: "open" }], effects: [tried("retainer"), to("retainer", "off")],
    text: { title: "Retainer off", why: "It holds the bearing’s outer ring.", how: ["Screws crosswise, each tried first; its gap to the housing noted with a feeler.", "Shrunk on: gentle heat, the seal kept cool by a wet cloth. No flats ground on the screw."], caution: "Heat and solvent away from each other.", good: "Its face is clean and flat." }, tools: ["hex keys", "feeler gauges"], photo: "the bevels and the retainer’s gap",
  },
  {
    id: "nut-off", phase: "work", hands: "in", power: "isolated", minutes: 5, effects: [to("bearing-nut", "off")],
    text: ({ config }) => ({ title: isTab(config) ? "Nuts and washer off" : pillow(config) ? "Collars off" : "Bearing nut off", why: "The bearing comes out under it.", how: ["Count the turns; which face was out.", ...(isTab(config) ? ["Which way the bevels lay."] : [])], good: "The thread is clean and whole." }), tools: ["pin or hook spanner"], photo: "the faces and bevels",
  },
  {
    id: "spacer-out", phase: "work", hands: "in", power: "isolated", minutes: 2, effects: [to("spacer", "off")],
    text: { title: "Spacer out", why: "Its width decides: it goes back, or its change is recorded.", how: ["Measure it at three places and write it down; note which face was out."], good: "Three equal widths." }, tools: ["micrometer"], reading: { label: "Spacer width", quantity: "length", from: 0, to: 100, optional: true },
  },
  {
    id: "housing-ease", phase: "work", hands: "in", power: "isolated", minutes: 5,
    effects: ({ config, state }) => eased(config, state, [tried("housing"), to("housing", "loose")]), needs: [{ joint: "bumper", at: "off", side: "open" }],
    text: ({ config, state }) => ({ title: `${pillow(config) ? "Block" : "Housing"} screws crosswise loose`, why: "It comes off with the bearings in it.", how: ["Each tried at torque before it gives.", "Crosswise, in two goes.", ...easingText(config, state)], good: "Every screw turns by hand." }), tools: ["hex keys", "torque wrench"], finds: FASTENER_FINDS,
  },
  {
    id: "pins-out", phase: "work", hands: "in", power: "isolated", minutes: 3, effects: [to("pins", "off")],
    text: { title: "Pins out, each marked", why: "They put the housing back where it was.", how: ["Drawn by their thread; which pin, which hole."], good: "They come straight.", ifNot: "Stuck: a puller, never a lever on the housing." }, consumables: ["bags and marker"], tools: ["pin puller", "eye protection"], photo: "pins with their holes",
  },
  {
    id: "shims-out", phase: "work", hands: "in", power: "isolated", minutes: 3, effects: [to("shims", "off")],
    text: { title: "Shims out, each marked with its place", why: "They put the screw in line; mixed up, the axis binds.", how: ["One bag a place, its thickness on it.", "None there: say so."], good: "Every shim has a place and a number." }, consumables: ["bags and marker"], tools: ["micrometer"], reading: { label: "Shims together", quantity: "length", from: 0, to: 5, optional: true }, photo: "the shims on their marks",
  },
  {
    id: "housing-off", phase: "work", hands: "in", power: "isolated", minutes: 8, effects: [to("housing", "off")],
    text: ({ config }) => ({ title: `Lift the ${pillow(config) ? "block" : houses(config)} off, straight`, why: "The bearings come with it.", how: [lifting(housingMass(config)).people === 2 ? "Two people or a strap: it is heavier than it looks." : "By hand, straight along the screw.", "Stuck on its pins: lever evenly on both sides, or by its jack threads. No blow on the screw."], good: "It comes without a knock." }), people: ({ config }) => carriers(housingMass(config)), tools: ["jack screws"],
  },
  {
    id: "bearing-out", phase: "work", hands: "in", power: "isolated", minutes: 13, effects: [to("bearings", "off"), made("arrangement-noted")],
    text: { title: "Bearings out", why: "It is what the job is for.", how: ["Before they move: the marks on the outside form an arrow; write down which ring lay which way.", "Out by the ring that is tight, never through the balls."], caution: "Eye protection when anything is driven out.", good: "Order and direction are written down." }, tools: ["bearing puller", "eye protection"], photo: "the set as it lay",
  },
  {
    id: "finger-feel", phase: "work", hands: "in", power: "isolated", minutes: 2, needs: [{ joint: "bearings", at: "off", side: "open" }], effects: [made("finger-felt")],
    text: { title: "Turn the inner ring with a fingertip", why: "Any roughness condemns it; a smooth one makes you look elsewhere.", how: ["Lightly loaded, both ways, slowly."], good: "You know: rough or smooth.", ifNot: "Smooth, and the loss was here? Then it was the clamping: look at nut, spacer and faces." }, finds: PART_FINDS,
  },
  {
    id: "back-drive", phase: "work", hands: "in", power: "isolated", minutes: 3, verbs: ["wind-screw"], fits: (c) => gravity(c) && screwTurns(c) && c.transmission !== "plain-screw", effects: [made("back-driven")], needs: [{ joint: "bearings", at: "off", side: "open" }],
    text: ({ config }) => ({ title: "Turn the screw in its nut, then let go", why: "With nothing else on it, it tells of its nut.", how: [`The ${memberOf(config)} stands on its tried block, the prop below.`, "A quarter turn by hand, let go, watch a mark on it."], caution: "Fingers out of the thread: it may run by itself.", good: config.nut === "single-clearance" ? "It turns easily and may wind down: this nut is built with clearance." : "It stays: the nut has its preload." }),
    finds: ({ config }) => config.nut === "single-clearance" ? [{ id: "stays", label: "stays" }, { id: "winds", label: "winds down to the prop", say: "A nut built with clearance does that when it is healthy: it proves nothing." }] : [{ id: "stays", label: "stays" }, { id: "winds", label: "winds down to the prop", offers: "ball-nut", say: "This nut should not: its preload is gone. Say so before money goes into bearings alone." }],
  },
  {
    id: "clean-seat", phase: "work", hands: "in", power: "isolated", minutes: 10, needs: [{ joint: "bearings", at: "off", side: "open" }], effects: [made("seat-clean")],
    text: { title: "Seat, journal, shims and faces clean", why: "A chip of 10 µm is 10 µm of run-out.", how: ["Wipe, raised edges off with a fine stone, wipe again; no wool.", "Look at the seal and its lip."], caution: "Solvent: air and gloves, nothing hot near.", good: "A clean cloth stays clean." }, consumables: ["lint-free cloths", "fine stone", "solvent"], parts: (c) => (renews(c) ? [{ name: "shaft seal", count: 1, of: "bearings", order: true, cost: "small" }] : []),
  },
  {
    id: "bearing-in", phase: "work", hands: "in", power: "isolated", minutes: 20, restores: true, effects: [to("bearings", "tight")],
    uses: ({ state }) => (state.notes["arrangement-noted"] ? ["arrangement-noted"] : []),
    text: (c) => ({
      title: renews(c) ? "New set in, as the old lay" : "The same bearings in again, as they lay", why: "Turned round, it carries nothing.",
      how: ["Arrangement as noted: back to back, face to face or in a row.", "Pressed on the ring that has the fit, by hand until it runs true; never through the balls. An old outer ring makes a drift, a sleeve draws it onto a journal.", ...(renews(c) ? ["Grease: the maker’s first fill. Sealed or pre-greased: none. Open: a quarter to a third of the free space."] : ["As they are: what was not renewed is said so on the record."])],
      good: "Seated all round, turns smoothly.", ifNot: "Stop pressing: a bearing that goes crooked is scrap.",
    }),
    parts: (c) => (renews(c) ? [{ name: rotating(c.config) ? "nut bearing set" : "end-bearing set", count: 1, of: "bearings", order: true, cost: "bearing-set" }] : []), consumables: ["bearing grease of the maker"], tools: ["arbor press or sleeve"], photo: "the set’s direction",
  },
  {
    id: "retainer-on", phase: "work", hands: "in", power: "isolated", minutes: 6, restores: true, effects: [to("retainer", "tight")], torques: ["retainer"],
    text: { title: "Retainer on", why: "It clamps the outer ring, not the housing.", how: ["It stands off its face by the book’s gap before its screws bite: feeler all round.", "No gap: it clamps nothing; shim it as the book says.", "Crosswise to torque."], good: "The same gap all round." }, tools: ["torque wrench", "feeler gauges"],
  },
  {
    id: "housing-on", phase: "work", hands: "in", power: "isolated", wanted: (open) => open("housing") === "off", minutes: 8, restores: true, effects: [to("housing", "loose")], needs: [{ joint: "housing", at: "off", side: "open" }],
    text: ({ config }) => ({ title: `${pillow(config) ? "Block" : "Housing"} on, all screws in by hand`, why: "Pins and shims find their place while it is loose.", how: ["Faces clean, a film of oil.", "Every screw in by its fingers before any is tightened."], good: "It sits flush." }), people: ({ config }) => carriers(housingMass(config)),
  },
  {
    id: "pins-in", phase: "work", hands: "in", power: "isolated", minutes: 3, restores: true, keeps: "pins", effects: [to("pins", "tight")],
    text: { title: "Pins in first", why: "A shim can bar a pin’s way.", how: ["By hand, then a light tap, each in its own hole."], good: "They go in by themselves." }, tools: ["soft hammer", "eye protection"],
  },
  {
    id: "shims-in", phase: "work", hands: "in", power: "isolated", minutes: 3, restores: true, keeps: "shims", effects: [to("shims", "tight")],
    text: { title: "Then the shims, each in its place", why: "As they were, unless the alignment changes them.", how: ["From their bags, by their marks.", "Changed: write the new thickness and why."], good: "Nothing left in the bags." }, reading: { label: "Shims together", quantity: "length", from: 0, to: 5, optional: true },
  },
  {
    id: "housing-snug", phase: "work", hands: "in", power: "isolated", wanted: (open) => open("housing") === "off" || open("housing") === "loose", minutes: 4, restores: true, fits: (c) => !pinned(c), effects: [to("housing", "snug")], needs: [{ joint: "housing", at: "loose", side: "open" }],
    text: { title: "Housing snug", why: "It finds its place when the screw is aligned.", how: ["All screws up until they touch, then a hair: it can shift, it cannot tip."], good: "A firm push moves it." }, tools: ["hex keys"],
  },
  {
    id: "housing-pinned", phase: "work", hands: "in", power: "isolated", minutes: 6, restores: true, fits: pinned, effects: [to("housing", "tight")], torques: ["housing"],
    text: { title: "Housing crosswise to torque", why: "Its pins have brought it back where it was.", how: ["In three rounds, crosswise.", "Mark each with paint."], good: "Flush all round, no feeler goes in." }, tools: ["torque wrench", "paint marker"],
  },
  {
    id: "wind-up", phase: "work", hands: "in", power: "isolated", minutes: 5, fits: (c) => gravity(c) && screwTurns(c), effects: [made("shoulder-home")], needs: [{ joint: "bearing-nut", at: "off", side: "open" }, { joint: "housing", at: "snug", side: "shut" }],
    verbs: ({ state }) => (state.joints["nut-bracket"] === "off" ? [] : ["wind-screw"]),
    text: ({ config, state }) => state.joints["nut-bracket"] === "off"
      ? { title: `Raise the ${screwOf(config)} until its shoulder meets the bearing`, why: "Else the nuts would have to lift it.", how: ["On its sling, the prop following a hand’s breadth below."], good: "No gap at the shoulder." }
      : { title: `Wind the ${screwOf(config)} up in its nut until its shoulder meets the bearing`, why: `Else the nuts lift the ${memberOf(config)}.`, how: ["By hand, by the hub clamped on lightly; the prop follows a hand’s breadth below."], good: "No gap at the shoulder." },
    tools: ["feeler gauges"],
  },
  {
    id: "spacer-in", phase: "work", hands: "in", power: "isolated", minutes: 3, restores: true, keeps: "spacer", effects: [to("spacer", "tight")],
    text: (c) => ({ title: "Spacer in", why: "The old one, or the make-up width that fills the new set.", how: ["Same face out.", ...(renews(c) ? ["An older pattern is shorter? Measure and grind the make-up spacer to the difference (Sums)."] : [])], good: "No gap under the nut." }), tools: ["micrometer"],
  },
  {
    id: "nut-on", phase: "work", hands: "in", power: "isolated", wanted: (open) => open("bearing-nut") === "off", minutes: 5, restores: true, needs: [{ joint: "bearing-nut", at: "off", side: "open" }], effects: [to("bearing-nut", "snug")],
    text: ({ config }) => ({ title: isTab(config) ? "Lower nut bevel down, washer, upper nut bevel up: by hand" : `${pillow(config) ? "Collars" : "Bearing nut"} on by hand`, why: "Preload comes next, not now.", how: [isTab(config) ? "Bevels away from each other, or as found." : "Thread oiled, face as found.", "By hand to the stop."], good: "It runs down by hand." }),
  },
  {
    id: "set-preload", phase: "work", hands: "in", power: "isolated", minutes: 13, restores: true, wanted: (open) => open("bearing-nut") !== "tight",
    verbs: (c) => (c.options.preload !== "torque" && turnsFree(c) ? [c.options.preload === "drag" ? "cord-pull" : "flick"] : []),
    effects: (c) => [to("bearing-nut", "tight"), made("preload-set"), ...(isTab(c.config) ? [] : [to("nut-lock", "tight")])],
    text: (c) => {
      const { config, options } = c;
      const plain = config.bearings === "plain-thrust" || config.bearings === "deep-groove-pair";
      const free = turnsFree(c);
      const what = rotating(config) ? "nut" : screwOf(config);
      const adjust = "Small touches, a few degrees, not quarters; after loosening one tap on the screw’s end.";
      const judge = options.preload === "torque" || !free
        ? "To the torque of the machine’s book, in two goes, turning between; then check by end float."
        : options.preload === "drag" ? `Until the pull on a cord round the journal gives a drag in its window: the maker’s${dragText(config)}. Sums turns pull into torque.` : "Until a flick of the end runs on a little and comes to rest by itself: will not turn is too tight, runs on is loose.";
      return {
        title: plain ? `Set the ${nutText(config)} and lock` : `${isTab(config) ? "Nuts" : "Nut"} to preload, locked`, why: "Too little floats, too much gets hot.",
        how: [
          plain ? "Adjustable pair: until end float is just gone." : "Matched set: its preload is ground in. Outside the window, seat, spacer or set is wrong, not the nut.",
          judge, ...(plain ? [adjust] : []),
          ...(options.preload !== "torque" && !free ? [`Drag and feel are not judged here: the ${what} does not turn free with the ${memberOf(config)} on its ${gravity(config) ? "block" : "nut"}.`] : []),
          isTab(config) ? "Counter the nuts, the lower one held; judge again, for that moves it. The tab stays open until the retest has passed." : "Lock it, then judge again: locking moves it.",
          ...(gravity(config) && screwTurns(config) ? ["The loaded bearing is the top one: the nut must not lift the screw against the support below. Indicator on its end."] : []),
        ],
        good: "In its window and no end float by hand.", ifNot: "Too tight does not run in: back it off and begin again.",
      };
    },
    tools: (c) => ["pin or hook spanner", "torque wrench with pin spanner", "indicator on a magnetic base", ...(c.options.preload === "drag" && turnsFree(c) ? ["cord and spring scale"] : [])],
    torques: ["bearing-nut"],
    reading: (c) => (c.options.preload === "drag" && turnsFree(c) ? { label: "Drag torque, after locking", quantity: "torque", ...dragBounds(c.config) } : { label: "End float, after locking", quantity: "deviation", from: 0, to: 0.005, optional: true }),
    finds: (c) => (c.options.preload === "feel" && turnsFree(c) ? [{ id: "rests", label: "runs a little and rests" }, { id: "stuck", label: "will not turn", asks: true, say: "Too tight: touch it back, tap the end, flick again." }, { id: "runs-on", label: "runs on", asks: true, say: "Too loose: a touch in, flick again." }] : []),
  },
  {
    id: "sling-off", phase: "work", hands: "in", power: "isolated", minutes: 2, fits: (c) => gravity(c) && screwTurns(c), restores: true, effects: [{ kind: "sling", to: false }], needs: [{ joint: "bearing-nut", at: "tight", side: "shut" }],
    text: { title: "Sling off", why: "The fixed end carries the screw again.", how: ["Slacken first and watch the end: it does not move."], good: "Nothing moved." },
  },
  {
    id: "lock-shut", phase: "work", hands: "in", power: "isolated", minutes: 2, fits: (c) => !isTab(c), restores: true, wanted: (open) => open("bearing-nut") === "tight", effects: [to("nut-lock", "tight")],
    text: ({ config }) => ({ title: `Lock the ${nutText(config)} again, as it stood`, why: "It was only unlocked: its preload is as it was.", how: ["Screws in without turning the nut; watch a mark across both."], good: "The mark stays in line.", ifNot: "It moved: set its preload anew." }), tools: ["hex keys"],
  },
  {
    id: "far-nut-set", phase: "work", hands: "in", power: "isolated", minutes: 6, restores: true, effects: [to("far-nut", "tight")], torques: ["far-nut"],
    text: ({ config }) => isStretched(config) ? { title: "Stretch set again, by indicator", why: "It was pulled before: it is pulled the same.", how: ["Indicator on the screw’s end; nut in until the noted elongation is there.", "Lock it, and read again: locking moves it."], good: "The noted figure, locked." } : { title: "Nut of the far support until it just seats, locked", why: "It supports; it must not load the other end.", how: ["By hand until it touches, lock.", "Watch the other end on the indicator: no lift, no load."], good: "Nothing moved at the fixed end." }, tools: ["pin or hook spanner", "indicator on a magnetic base"],
  },
  {
    id: "prop-out", phase: "work", hands: "in", power: "isolated", minutes: 1, fits: (c) => gravity(c) && screwTurns(c), restores: true, effects: [{ kind: "prop", to: false }], needs: [{ joint: "bearing-nut", at: "tight", side: "shut" }],
    text: { title: "Prop out", why: "Both ends carry the screw now.", how: ["And counted."], good: "Nothing moved." },
  },
];
