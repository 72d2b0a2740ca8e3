import {
  availability,
  formatNumber,
  formatQuantity,
  locateTest,
  SOUND_KIND_ROWS,
  usualSoundPlan,
  type AxisConfig,
  type BandDifference,
  type LineFamily,
  type LineFound,
  type SoundComparison,
  type SoundDrift,
  type SoundPlan,
  type SoundTrouble,
  type UnitSystem,
} from "@iron/core";
import type { Sound, SoundResult } from "@iron/contract";
import { momentText } from "../shared/times.text";

/** A line is told when noise shows as much less often than this. */
const TOLD = 0.003;
/** A kind of sound is named from here on, and said to be like it, or much like it, from there. */
const [NAMED, LIKE, MUCH_LIKE] = [0.15, 0.5, 0.9];

const FAMILY: Readonly<Record<LineFamily, string>> = {
  turn: "a little of that is in every screw; a bend, or a coupling off centre, makes more of it",
  "end-bearing": "where balls of an angular screw bearing pass a pit",
  "deep-groove": "where balls of a deep-groove bearing pass a pit, as in motors and far ends",
  "nut-balls": "with the balls of the nut",
  "rail-balls": "with the balls of a rail carriage",
  teeth: "tooth by tooth",
};

/** What spoils it, in words. */
export function troubleText(trouble: SoundTrouble): string {
  switch (trouble.code) {
    case "clipped":
      return "It is too loud for the microphone: what knocks is cut off. Lay it further away, and record again.";
    case "too-quiet":
      return "It is too quiet for the microphone: what is heard is mostly the microphone itself. Lay it nearer.";
    case "motion-not-heard":
      return "Moving is hardly louder than standing. Either something else is running, or it did not move as planned.";
    case "few-turns":
      return `A way is ${formatNumber(trouble.turns, 1)} turns long: lines of bearings can hardly be told apart. Take a longer way.`;
  }
}

/** What it sounds like, the likeliest first; nothing where nothing can be said. */
export function kindsSaid({ chances, troubles }: Pick<SoundResult, "chances" | "troubles">): readonly string[] {
  if (troubles.some((t) => t.code === "motion-not-heard" || t.code === "too-quiet")) {
    // What goes on whether or not it moves is heard all the same.
    const still = chances["still"] ?? 0;
    return still >= LIKE ? [sayKind("still", still)] : [];
  }
  const said = Object.entries(chances)
    .filter(([, p]) => p >= NAMED)
    .sort((a, b) => b[1] - a[1])
    .slice(0, 3);
  const first = said.length && said[0][1] < LIKE ? ["Not clear what it is."] : [];
  return [...first, ...said.map(([kind, p]) => sayKind(kind, p))];
}

function sayKind(kind: string, p: number): string {
  const how = p >= MUCH_LIKE ? "Much like" : p >= LIKE ? "Like" : "A little like";
  const row = SOUND_KIND_ROWS.find((r) => r.id === kind);
  return row ? `${how} ${row.like}: ${row.text}.` : `${how} an axis with nothing wrong.`;
}

/** What swells once a turn is told where it sounds like what does. */
const OF_A_TURN = ["bent", "off-centre"];

/** Lines that stand out, with where: one sentence for each, whatever parts it may be of. */
export function linesSaid({ lines, chances }: Pick<SoundResult, "lines" | "chances">): readonly string[] {
  const turning = OF_A_TURN.some((kind) => (chances[kind] ?? 0) >= NAMED);
  const told = lines.filter((l) => l.chance < TOLD && (l.family !== "turn" || turning));
  const firsts = told.filter((l, i) => told.findIndex((o) => isOne(o, l)) === i);
  return firsts.map((line) => {
    const parts = told.filter((o) => isOne(o, line)).map((o) => FAMILY[o.family]);
    const times = `${formatNumber(line.order, line.order < 3 ? 2 : 1)} times a turn`;
    return `${times}, ${formatNumber(line.overDb, 0)} dB over what lies around it: ${parts.join("; or ")}.`;
  });
}

const isOne = (a: LineFound, b: LineFound): boolean => Math.abs(a.order / b.order - 1) < 0.005;

/** Where a noise is, by the motor alone beside the axis that it drives. */
export const NOISE_IS = {
  behind: "Much quieter than coupled: what is heard lies behind the coupling, not in the motor.",
  motor: "Not much quieter than coupled: the motor itself makes what is heard, or most of it.",
  unclear: "Quieter than coupled, but not clearly so: listen at the motor’s end cap and at the bearing housing.",
} as const;

/** How a recording stands in the list. */
export function soundLine(sound: Sound, system: UnitSystem): string {
  const { plan, source, place, by, at } = sound;
  const how = { microphone: "microphone", file: "from a file", simulated: "simulated" }[source];
  return [
    `${sound.id}: ${momentText(at)}`,
    by,
    how,
    formatQuantity("feed", plan.feedMmMin, system),
    ...(plan.motorAlone ? ["motor alone"] : []),
    ...(place ? [place] : []),
  ].join(", ");
}

const signed = (db: number): string => `${formatNumber(Math.abs(db), 1)} dB ${db < 0 ? "quieter" : "louder"}`;
const hertz = (hz: number): string => (hz < 1000 ? `${formatNumber(hz, 0)} Hz` : `${formatNumber(hz / 1000, 1)} kHz`);

/** What comes before a run, each in a line. */
export function beforeRun(config: AxisConfig, { motorAlone }: Pick<SoundPlan, "motorAlone">): readonly string[] {
  const quiet = "Spindle, coolant and conveyor off.";
  if (!motorAlone)
    return [
      "Doors shut, nobody inside; without doors nobody within reach of what moves, one hand on the stop.",
      `${quiet} The whole way is free: it was run once at low feed.`,
    ];
  const test = locateTest("motor-alone");
  const first = test ? availability(config, test).say : "";
  return [
    "Isolated, the motor uncoupled; its key or clamp cannot fly off.",
    ...(first ? [first] : []),
    "Switched on only with everyone clear and guards shut; nobody’s hand near the shaft, one hand on the stop.",
    quiet,
  ];
}

/** A run that suits an axis, in round figures of the reader’s units. */
export function usualRun(config: AxisConfig, system: UnitSystem): SoundPlan {
  const plan = usualSoundPlan(config);
  if (system === "metric") return plan;
  const down = (mm: number, step: number): number => Math.max(step, step * Math.floor(mm / step + 1e-9));
  const feedMmMin = down(plan.feedMmMin, plan.feedMmMin > 2540 ? 254 : 25.4);
  const strokeMm = down(plan.strokeMm, plan.strokeMm > 100 ? 25.4 : 6.35);
  return { ...plan, feedMmMin, strokeMm, fromMm: 6.35 * Math.round((config.travelMm - strokeMm) / 2 / 6.35) };
}

/** How one recording is beside another; the first sentence is of all of it. */
export function besideSaid(said: SoundComparison, system: UnitSystem, other = "the other"): readonly string[] {
  if (said.code === "feed-differs") {
    const [a, b] = said.feeds.map((f) => formatQuantity("feed", f, system));
    return [`Not compared: one ran at ${a}, the other at ${b}. What is heard changes with the feed: run both alike.`];
  }
  if (said.code === "own-gain")
    return [
      "Not compared: a microphone that turns itself up and down, or of which nobody knows it, says nothing of how loud it is.",
    ];
  const { whole, most, bands } = said;
  const u = (b: Pick<BandDifference, "uDb">): string => plusMinus(b.uDb, 1);
  const all = whole.differs
    ? `In all ${signed(whole.differenceDb)} than ${other}, ${u(whole)}.`
    : `In all as loud as ${other} within ${u(whole)}.`;
  const beyond = bands.filter((b) => b.differs).length;
  if (!most) return [all, "No band differs beyond its ±."];
  return [
    all,
    `Most at ${hertz(most.midHz)}: ${signed(most.differenceDb)}, ${u(most)}. ${beyond} of ${bands.length} bands differ beyond their ±.`,
  ];
}

/** A ± that is not torn from its number at the end of a line. */
const plusMinus = (uDb: number, digits: number): string => `±\u00a0${formatNumber(uDb, digits)}\u00a0dB`;

/** Where in the sound it is, in words. */
const whereHeard = (midHz: number | null): string => (midHz === null ? "in all" : `around ${hertz(midHz)}`);

/** How an axis has grown louder since it was well. */
export function driftSaid({ midHz, louderDb, uDb, state, grown }: SoundDrift, wellId: number): readonly string[] {
  const by = `${formatNumber(louderDb, 0)} dB`;
  const beside = `Beside recording ${wellId}, when it was well`;
  const u = plusMinus(uDb, 0);
  if (state === "sound") return [`${beside}: no louder, ${u}.`];
  const says = `${beside}: ${by} louder ${whereHeard(midHz)}, ${u}.`;
  if (state === "act") return [says, "That is about twice as loud to the ear, or more. Find out why: open a case."];
  if (grown) return [says, "It has grown, more than twice in amplitude. Record it again; if it stays so, open a case."];
  return [says, "Perhaps it has grown: record it again, the telephone at the same place."];
}

/** The same in a line, for the floor. */
export function grownSaid({ midHz, louderDb, uDb }: Pick<SoundDrift, "midHz" | "louderDb" | "uDb">): string {
  return `sounds ${formatNumber(louderDb, 0)} dB louder ${whereHeard(midHz)} than when it was well, ${plusMinus(uDb, 0)}`;
}
