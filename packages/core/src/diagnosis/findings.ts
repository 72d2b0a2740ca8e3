/**
 * What can be noticed or found on an axis, each a yes-or-no question. `leak` is how often it is so
 * with none of the known causes at work (common practice, no source).
 */
export interface Finding {
  readonly id: string;
  /** Said of the axis when it is so. */
  readonly words: string;
  readonly group: FindingGroup;
  /** Can be noticed without a test, so station Ask asks for it. */
  readonly asked: boolean;
  readonly leak: number;
  /** So plain that nobody imagines it. */
  readonly plain: boolean;
}

export const FINDING_GROUPS = ["noise", "binding", "position", "surface", "home", "control", "heat", "test"] as const;
export type FindingGroup = (typeof FINDING_GROUPS)[number];

const TABLE = [
  ["rumble", "rumbles, worst in rapid", "noise", true, 0.012],
  ["howl", "howls, rising and falling, in rapid", "noise", true, 0.006],
  ["rattle", "rattles, metallic and loose, at speed", "noise", true, 0.006],
  ["grit", "catches now and then, gritty", "noise", true, 0.009],
  ["carriage-click", "clicks from a rail carriage, or balls are missing", "noise", true, 0.003],
  ["groan", "groans or jerks at slow feed", "noise", true, 0.009],
  ["knock", "knocks at the reversal", "noise", true, 0.012],
  ["grind-still", "coarse grinding from the spindle end while every axis is still", "noise", true, 0.002],
  ["click-descent", "supply clicks and lights while the axis descends, and only then", "noise", true, 0.003],
  ["tight-all", "tight over the whole travel", "binding", true, 0.009],
  ["tight-end", "tight towards one end", "binding", true, 0.006],
  ["tight-turn", "tight once per turn", "binding", true, 0.003],
  ["tight-spot", "tight in one spot", "binding", true, 0.006],
  ["tight-one-way", "resists one way only", "binding", true, 0.003],
  ["lost-motion", "loses motion when it turns round", "position", true, 0.015],
  ["wanders", "position wanders off one way", "position", true, 0.006],
  ["lost-steps", "loses steps", "position", true, 0.006],
  ["short-travel", "travel stops short, free otherwise", "position", true, 0.003],
  ["hunting", "hunts or buzzes at the reversal or standing", "position", true, 0.009],
  ["spikes", "load spikes at reversals, nothing lost", "position", true, 0.009],
  ["quadrant-step", "step at each quadrant of a circle", "surface", true, 0.015],
  ["recut", "a wide cutter marks the surface again with its trailing edge", "surface", true, 0.006],
  ["chatter", "poor surface, chatter, fuzzy circle", "surface", true, 0.015],
  ["home-varies", "home position varies a little", "home", true, 0.006],
  ["home-turn", "home jumps by exactly one turn", "home", true, 0.002],
  ["no-motion", "will not move, no alarm", "control", true, 0.002],
  ["stops-in-program", "stops in the program, cycle light on, but jogs", "control", true, 0.002],
  ["hot-end", "bearing end gets hot", "heat", true, 0.006],
  ["stalls", "drive stalls or trips on load", "heat", true, 0.009],
  ["override-zero", "an override stands at zero", "control", false, 0.003],
  ["listed-interlock", "the control names a missing interlock", "control", false, 0.003],
  ["listed-waiting", "the control waits for a move or an operator", "control", false, 0.003],
  ["comp-differs", "entered compensation differs from what was noted", "control", false, 0.003],
  ["retainer-turns", "bearing retainer or nut screws turn below torque", "test", false, 0.004],
  ["housing-turns", "bearing housing screws turn below torque", "test", false, 0.004],
  ["bracket-turns", "nut bracket screws turn below torque", "test", false, 0.004],
  ["coupling-turns", "coupling clamp screws turn below torque", "test", false, 0.004],
  ["pinion-turns", "pinion set screws turn below torque", "test", false, 0.004],
  ["dry", "ways or nut are dry", "test", false, 0.009],
  ["rough-finger", "bearing is rough under a fingertip", "test", false, 0.004],
  ["coasts-free", "screw end free-wheels when flicked", "test", false, 0.004],
  ["coast-stuck", "screw end will not turn when flicked", "test", false, 0.004],
  ["back-drives", "freed screw winds down by itself", "test", false, 0.004],
  ["rocks", "member rocks by hand", "test", false, 0.004],
  ["wheel-stuck", "a wheel will not turn by hand in contact", "test", false, 0.004],
  ["wheel-free", "a wheel turns without touching", "test", false, 0.004],
  ["profile-middle", "loss is higher where the screw works most", "test", false, 0.004],
  ["crest-slope", "screw runs out of line with the ways", "test", false, 0.004],
  ["crest-turn", "screw swings once per turn", "test", false, 0.004],
  ["motor-noise", "uncoupled motor makes the same noise alone", "test", false, 0.004],
  ["motor-heavy", "uncoupled motor turns heavily or its brake is hot", "test", false, 0.004],
  ["gravity-off", "gravity share of the load is out of balance", "test", false, 0.004],
  ["far-play", "radial play at the far end of the screw", "test", false, 0.004],
  ["springy", "coupling is springy: it comes back by itself", "test", false, 0.004],
  ["tram-off", "head is out of square", "test", false, 0.004],
  ["scale-dirty", "scale or read head is dirty or loose", "test", false, 0.004],
] as const;

export type FindingId = (typeof TABLE)[number][0];

const PLAIN: readonly FindingId[] = [
  "no-motion",
  "stops-in-program",
  "short-travel",
  "carriage-click",
  "click-descent",
  "grind-still",
  "home-turn",
];

export const FINDINGS: readonly (Finding & { readonly id: FindingId })[] = TABLE.map(
  ([id, words, group, asked, leak]) => ({
    id,
    words,
    group,
    asked,
    leak,
    plain: PLAIN.includes(id),
  }),
);

const BY_ID = new Map(FINDINGS.map((f) => [f.id, f]));
export function finding(id: FindingId): Finding & { readonly id: FindingId } {
  return BY_ID.get(id) as Finding & { readonly id: FindingId };
}
export const FINDING_IDS = FINDINGS.map((f) => f.id) as unknown as readonly [FindingId, ...FindingId[]];
