import {
  locateTest,
  soundChances,
  soundFacts,
  soundNumbers,
  usualSoundPlan,
  virtualSound,
  type AxisConfig,
  type PartsCondition,
  type SoundHeard,
} from "@iron/core";
import { run, type Outcome, type World } from "./diagnosis-case";
import { drawWorld } from "./diagnosis-world";
import { shopAfter } from "./shop-after";

/** To lay the telephone down, run the axis and read what is said, min. */
const LISTENING_MIN = locateTest("recording")?.minutes ?? 0;
const NOISES = ["rumble", "howl", "rattle", "grit", "carriage-click", "groan", "knock", "grind-still"];
/** Cases that neither the table of sounds nor anything else was learned from. */
const FIRST = 300_000;

/** What a recording of an axis with these parts is like; null where nothing can be made of it. */
function heardOf(config: AxisConfig, parts: PartsCondition, seed: number): SoundHeard | null {
  const plan = { ...usualSoundPlan(config), stillS: 2, passes: 4 };
  const asked = { parts, run: { ...plan, accelMmS2: 1800 }, roomDb: -20, machine: seed, seed };
  const facts = soundFacts(config, { samples: virtualSound(config, asked).samples, rate: 48_000 }, plan);
  return facts ? { chances: soundChances(config, soundNumbers(facts)) } : null;
}

/** Sums over cases: without a recording, with one made first, and with one made when it is proposed. */
class Sums {
  n = 0;
  minutes = 0;
  right = 0;
  forbidden = 0;
  take({ minutes, verdict, forbidden }: Outcome, { faults }: World, before: number): void {
    this.n += 1;
    this.minutes += minutes + before;
    this.right += Number(verdict.length ? faults.includes(verdict[0]) : faults.length === 0);
    this.forbidden += forbidden.length;
  }
  get said(): string {
    const right = ((100 * this.right) / this.n).toFixed(1);
    return `${(this.minutes / this.n).toFixed(1)} min, first named right ${right} %, forbidden ${this.forbidden}`;
  }
}

/**
 * Minutes that listening first saves: the same cases of the first world, with and without a recording of what its parts
 * are, made by the virtual sound and weighed as the program does.
 */
export function benchListen(cases: number): void {
  const shop = shopAfter(drawWorld);
  const three = (): readonly [Sums, Sums, Sums] => [new Sums(), new Sums(), new Sums()];
  const tellers = { "a noise was told": three(), "none was": three() };
  for (let i = 0; i < cases; i += 1) {
    const world: World = { ...drawWorld(FIRST + i), shop };
    // What does not move is not recorded.
    if (world.reports.some((r) => r.finding === "no-motion" && r.present)) continue;
    const sound = world.parts && heardOf(world.config, world.parts, FIRST + i);
    if (!sound) continue;
    const noisy = world.reports.some((r) => r.present && NOISES.includes(r.finding));
    const [without, listened, asked] = tellers[noisy ? "a noise was told" : "none was"];
    without.take(run(world, "ours"), world, 0);
    listened.take(run({ ...world, sound }, "ours"), world, LISTENING_MIN);
    asked.take(run({ ...world, record: () => sound }, "ours"), world, 0);
  }
  for (const [who, [without, listened, asked]] of Object.entries(tellers)) {
    if (!without.n) continue;
    console.log(`${who}, ${without.n} cases`);
    console.log(`  without a recording: ${without.said}`);
    console.log(`  recorded first:      ${listened.said} (its own ${LISTENING_MIN} min counted)`);
    console.log(`  recorded when asked: ${asked.said}`);
  }
}
