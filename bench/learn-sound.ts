import {
  SOUND_KIND_ROWS,
  soundChances,
  soundKindsOn,
  soundNumbers,
  type AxisConfig,
  type SoundLearned,
} from "@iron/core";
import { writeFileSync } from "node:fs";
import { join } from "node:path";
import { format, resolveConfig } from "prettier";
import { soundCase, type SoundCase } from "./sound-world";

/** The quiet room, and one with ten decibels more. */
export const ROOMS_DB = [-20, -10] as const;

/** One recording as it is learned from. */
export interface Lesson {
  readonly config: AxisConfig;
  readonly kind: string;
  readonly numbers: Readonly<Record<string, number>>;
}

/** What a recording was of: its kind, or nothing wrong; null where nothing could be worked out. */
export function lessonOf({ config, fault, facts }: SoundCase): Lesson | null {
  if (!facts) return null;
  const row = SOUND_KIND_ROWS.find((r) => (r.causes as readonly string[]).includes(fault ?? ""));
  return { config, kind: row?.id ?? "sound", numbers: soundNumbers(facts) };
}

const ROUNDS = 700;
/** Keeps a weight small unless many recordings want it large. */
const SMALL = 0.003;

/** A vector that is moved against its slope (Adam, Kingma and Ba 2015, from memory). */
class Descent {
  private readonly first: Float64Array;
  private readonly second: Float64Array;
  constructor(readonly at: Float64Array) {
    this.first = new Float64Array(at.length);
    this.second = new Float64Array(at.length);
  }
  step(slope: Float64Array, { round, rate }: { readonly round: number; readonly rate: number }): void {
    for (let d = 0; d < slope.length; d += 1) {
      this.first[d] = 0.9 * this.first[d] + 0.1 * slope[d];
      this.second[d] = 0.999 * this.second[d] + 0.001 * slope[d] ** 2;
      const size = Math.sqrt(this.second[d] / (1 - 0.999 ** round)) + 1e-8;
      this.at[d] -= (rate * this.first[d]) / (1 - 0.9 ** round) / size;
    }
  }
}

const THIRDS = [0, 1, 2];

/**
 * How much less the chances are worth on recordings that were not learned from: the power that makes what was so
 * likeliest, each third scored by what the other two taught (Guo and others 2017, from memory).
 */
function temperOf(lessons: readonly Lesson[]): number {
  const held = THIRDS.flatMap((third) => {
    const taught = fit(lessons.filter((_, i) => i % 3 !== third));
    return lessons
      .filter((_, i) => i % 3 === third)
      .map(({ config, kind, numbers }) => ({
        kind,
        chances: soundChances(config, numbers, { provenance: "", ...taught, temper: 1 }),
      }));
  });
  const loss = (temper: number): number =>
    held.reduce((sum, { kind, chances }) => {
      // All as likely before: nothing wrong counted as much as all of them.
      const each = Object.entries(chances).map(([k, p]) => {
        const before = k === "sound" ? Object.keys(chances).length - 1 : 1;
        return [k, (p / before) ** temper] as const;
      });
      const total = each.reduce((s, [, p]) => s + p, 0);
      const so = each.find(([k]) => k === kind)?.[1] ?? 0;
      return sum - Math.log(so / total + 1e-9) / lessons.filter((l) => l.kind === kind).length;
    }, 0);
  const tried = Array.from({ length: 73 }, (_, i) => 0.2 + 0.025 * i);
  return Number(tried.reduce((best, t) => (loss(t) < loss(best) ? t : best)).toFixed(3));
}

/** Learns from recordings: weights from all of them, and what they are worth from those that each was not learned from. */
export function learn(lessons: readonly Lesson[], provenance: string): SoundLearned {
  return { provenance, ...fit(lessons), temper: temperOf(lessons) };
}

/** Multinomial logistic regression over the kinds that each axis can make, every kind weighing alike. */
function fit(lessons: readonly Lesson[]): Pick<SoundLearned, "numbers" | "weights"> {
  const names = Object.keys(lessons[0].numbers);
  const columns = names.map((name) => lessons.map((l) => l.numbers[name]));
  const means = columns.map((c) => c.reduce((a, b) => a + b, 0) / c.length);
  const spreads = columns.map((c, i) => Math.sqrt(c.reduce((s, v) => s + (v - means[i]) ** 2, 0) / c.length) || 1);
  const kinds = ["sound", ...SOUND_KIND_ROWS.map((r) => r.id)];
  const rows = lessons.map(({ config, kind, numbers }) => ({
    x: [1, ...names.map((n, i) => Math.max(-4, Math.min(4, (numbers[n] - means[i]) / spreads[i])))],
    can: ["sound", ...soundKindsOn(config)].map((k) => kinds.indexOf(k)),
    is: kinds.indexOf(kind),
    weight: lessons.length / kinds.length / lessons.filter((l) => l.kind === kind).length,
  }));
  const moved = kinds.map(() => new Descent(new Float64Array(names.length + 1)));
  for (let round = 1; round <= ROUNDS; round += 1) {
    const slopes = moved.map(({ at }) => at.map((w, d) => (d ? SMALL * w : 0)));
    for (const { x, can, is, weight } of rows) {
      const scores = can.map((k) => x.reduce((s, v, d) => s + v * moved[k].at[d], 0));
      const most = Math.max(...scores);
      const total = scores.reduce((s, v) => s + Math.exp(v - most), 0);
      can.forEach((k, j) => {
        const off = (weight * (Math.exp(scores[j] - most) / total - Number(k === is))) / rows.length;
        for (let d = 0; d < x.length; d += 1) slopes[k][d] += off * x[d];
      });
    }
    moved.forEach((m, k) => m.step(slopes[k], { round, rate: round < 0.7 * ROUNDS ? 0.05 : 0.015 }));
  }
  const short = (v: number): number => Number(v.toPrecision(4));
  return {
    numbers: names.map((name, i) => [name, short(means[i]), short(spreads[i])]),
    weights: Object.fromEntries(kinds.map((kind, k) => [kind, [...moved[k].at].map(short)])),
  };
}

const TABLE = "packages/core/src/diagnosis/sound-learned.table.ts";

/** Learns from so many recordings and writes the table. */
export async function writeLearnedSound(cases: number): Promise<void> {
  const all = Array.from({ length: cases }, (_, i) => lessonOf(soundCase(i, ROOMS_DB[i % 2])));
  const lessons = all.filter((l) => l !== null);
  const said = `${lessons.length} recordings of virtual axes, half of them in a room 20 dB under a sound axis, half 10 dB under it: bench/learn-sound.ts`;
  await writeTable(learn(lessons, said));
}

/** Writes what was learned as the table that ships, in the project’s own format. */
export async function writeTable(learned: SoundLearned): Promise<void> {
  const text = `import type { SoundLearned } from "./sound-learned";

/** Written by \`npm run bench -- learn-sound\`: not by hand. */
export const SOUND_LEARNED: SoundLearned = ${JSON.stringify(learned)};
`;
  // Run by npm, in the project’s root.
  const path = join(process.cwd(), TABLE);
  writeFileSync(path, await format(text, { ...(await resolveConfig(path)), filepath: path }));
}
