import {
  LINE_FAMILIES,
  SOUND_KIND_ROWS,
  soundChances,
  soundFacts,
  soundKindsOn,
  usualSoundPlan,
  virtualSound,
  type SoundLearned,
  type SoundPlan,
} from "@iron/core";
import { writeWav } from "@iron/contract";
import { fft } from "fourier-transform";
import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { CONFIGS } from "./diagnosis-world";
import { lessonOf, ROOMS_DB, type Lesson } from "./learn-sound";
import { soundCase } from "./sound-world";

/** Recordings that were learned from have numbers below this, those that are tried above. */
const HELD_OUT = 1_000_000;
/** A line is told from this chance on that noise shows as much. */
const LINE_TOLD = 0.01;

/** Area under the curve: chance that one of the first scores higher than one of the second. */
function area(first: readonly number[], second: readonly number[]): number {
  let sum = 0;
  for (const a of first) for (const b of second) sum += a > b ? 1 : a === b ? 0.5 : 0;
  return sum / (first.length * second.length);
}

const log = (p: number): number => Math.log(p + 1e-12);

interface Tried extends Lesson {
  readonly chances: Readonly<Record<string, number>>;
  readonly lineTold: boolean;
}

function tryRecording(seed: number, roomDb: number, learned?: SoundLearned): Tried | null {
  const one = soundCase(seed, roomDb);
  const lesson = lessonOf(one);
  if (!lesson || !one.facts) return null;
  const bearing = one.facts.lines.filter((l) => l.family === "end-bearing" || l.family === "deep-groove");
  return {
    ...lesson,
    chances: soundChances(lesson.config, lesson.numbers, learned),
    lineTold: bearing.some((l) => l.chance < LINE_TOLD),
  };
}

function tellRoom(tried: readonly Tried[], roomDb: number): void {
  console.log(`\nroom ${roomDb} dB to a sound axis: ${tried.length} recordings`);
  const sound = tried.filter((t) => t.kind === "sound");
  for (const { id } of SOUND_KIND_ROWS) {
    const with_ = tried.filter((t) => t.kind === id);
    const others = tried.filter((t) => t.kind !== id && t.kind !== "sound" && soundKindsOn(t.config).includes(id));
    const alike = sound.filter((t) => soundKindsOn(t.config).includes(id));
    if (!with_.length || !others.length || !alike.length) continue;
    const toSound = (t: Tried): number => log(t.chances[id]) - log(t.chances["sound"]);
    const toAll = (t: Tried): number => log(t.chances[id]) - log(1 - t.chances[id]);
    const [a, b] = [area(with_.map(toSound), alike.map(toSound)), area(with_.map(toAll), others.map(toAll))];
    const low = Math.min(a, b) < (roomDb <= -20 ? 0.95 : 0.9) ? "  <" : "";
    console.log(
      `${id.padEnd(14)} ${String(with_.length).padStart(4)}  against sound axes ${a.toFixed(3)}, against other faults ${b.toFixed(3)}${low}`,
    );
  }
  const told = sound.filter((t) => t.lineTold).length;
  console.log(
    `bearing line told on sound axes: ${told} of ${sound.length} (${((100 * told) / sound.length).toFixed(1)} %)`,
  );
  const first = tried.filter((t) =>
    Object.entries(t.chances).every(([k, p]) => k === t.kind || p <= t.chances[t.kind]),
  ).length;
  console.log(`what is likeliest is so: ${((100 * first) / tried.length).toFixed(1)} %`);
}

/** A minute of an axis, worked out, against the bare transforms that it takes. */
function tellSpeed(): void {
  const config = CONFIGS[0];
  const usual = usualSoundPlan(config);
  const plan = { ...usual, passes: Math.floor(56 / ((60 * usual.strokeMm) / usual.feedMmMin + 0.6)) };
  const started = performance.now();
  const { samples } = virtualSound(config, {
    parts: {},
    run: { ...plan, accelMmS2: 2000 },
    roomDb: -20,
    machine: 1,
    seed: 1,
  });
  const made = performance.now() - started;
  const seconds = samples.length / 48_000;
  const transforms = (): void => {
    for (const [size, hop] of [
      [64, 16],
      [1024, 256],
    ]) {
      const out: [Float64Array, Float64Array] = [new Float64Array(size / 2 + 1), new Float64Array(size / 2 + 1)];
      const piece = new Float64Array(size).fill(0.5);
      for (let at = 0; at + size <= samples.length; at += hop) fft(piece, out);
    }
  };
  const timed = (work: () => unknown): number => {
    work();
    const all = [1, 2, 3].map(() => {
      const from = performance.now();
      work();
      return performance.now() - from;
    });
    return all.sort((a, b) => a - b)[1];
  };
  const ours = timed(() => soundFacts(config, { samples, rate: 48_000 }, plan));
  const bare = timed(transforms);
  console.log(
    `\n${seconds.toFixed(0)} s at 48 kHz, facts with order spectrum: ${ours.toFixed(0)} ms, bare transforms ${bare.toFixed(0)} ms, ratio ${(ours / bare).toFixed(2)}`,
  );
  console.log(`the virtual axis makes a second of sound in ${(made / 1000 / seconds).toFixed(3)} s`);
  tellMemory(writeWav(samples, 48_000), plan);
}

/** A minute worked out as the server does it, in a process that has done nothing else: what it holds at its height. */
function tellMemory(bytes: Uint8Array, plan: SoundPlan): void {
  const folder = mkdtempSync(join(tmpdir(), "iron-sound-"));
  const file = join(folder, "minute.wav");
  writeFileSync(file, bytes);
  const held = (how: "read" | "work"): string => {
    const asked = [process.argv[1], "sound-memory", file, JSON.stringify(plan), how];
    const { stdout } = spawnSync(process.execPath, asked, { encoding: "utf8" });
    return (Number(stdout.trim().split("\n").at(-1)) / 1024).toFixed(0);
  };
  console.log(`memory at its height: ${held("work")} MB, ${held("read")} MB before anything is worked out`);
  rmSync(folder, { recursive: true });
}

/** Recordings of virtual axes that were not learned from: which fault is told from sound axes and from other faults. */
export function benchSound(cases: number, learned?: SoundLearned): void {
  console.log(
    `sound: ${cases} recordings of virtual axes, ${SOUND_KIND_ROWS.length} kinds, ${LINE_FAMILIES.length} families of lines`,
  );
  tellSpeed();
  for (const [room, roomDb] of ROOMS_DB.entries()) {
    const seeds = Array.from({ length: cases }, (_, i) => HELD_OUT + room * 100_000 + i);
    tellRoom(
      seeds.flatMap((seed) => tryRecording(seed, roomDb, learned) ?? []),
      roomDb,
    );
  }
}
