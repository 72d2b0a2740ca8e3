import type { SoundGeometry } from "./sound-geometry";
import { addRing, type Ring } from "./sound-ring";
import { addBlows, addNoise, bell, sourceLuck, type SoundScene } from "./sound-scene";
import { travelPerTurnMm } from "../../machine/axis";

const ring = (hz: number, tauMs: number, gain = 1): Ring => ({ hz, tauS: tauMs / 1000, gain });

/** Dry or tight ways scrape, a broken carriage clicks, wheels and racks knock at their place. */
function addWays(scene: SoundScene, inside: SoundGeometry): void {
  const { parts, drive, motion, config } = scene;
  const scrape = 2.4 * Math.max(0, (parts.dryness ?? 0) - 0.15) + (parts.gibTightN ?? 0) / 700;
  if (scrape > 0) {
    const luck = sourceLuck(scene, 11);
    let slow = 0;
    addNoise(scene, {
      rings: [ring(850, 0.7, 1), ring(2400, 0.3, 0.9)],
      luck,
      loud: (i) => {
        slow += (luck.white() - slow) / (0.08 * motion.rate);
        return scrape * Math.min(1, drive[i] * 1.2) * (1 + Math.min(2, Math.max(-0.8, 60 * slow)));
      },
    });
  }
  const broken = parts.carriageBroken ?? 0;
  if (broken > 0) {
    const luck = sourceLuck(scene, 12);
    addBlows(scene, {
      order: inside.railPassPerMm * travelPerTurnMm(config),
      uneven: 0.05,
      luck,
      rings: [ring(1900 + 500 * luck.built(), 1.6, 1)],
      // Under the member’s weight most of its clicks are held together.
      height: (i) => 5 * broken ** 1.5 * drive[i] * (luck.uniform() < 0.35 ? 1 : 0.1),
    });
  }
  const spot = { atMm: (parts.spotAt ?? 0.5) * config.travelMm, widthMm: 0.05 * config.travelMm };
  if (parts.rackSpotN || parts.meshWearMm) {
    const luck = sourceLuck(scene, 13);
    const heavier = Math.max(1, (parts.frictionN ?? 120) / 120);
    const [at, all] = [(parts.rackSpotN ?? 0) / heavier / 30, 14 * (parts.meshWearMm ?? 0)];
    addBlows(scene, {
      order: inside.teeth,
      uneven: 0.02,
      luck,
      rings: [ring(620, 2.5, 0.7), ring(1700, 1, 0.4)],
      height: (i) => drive[i] * (all + at * bell(motion.placeMm[i], spot)) * (1 + 0.2 * luck.white()),
    });
  }
}

/** What turns out of true swells once a turn; what presses towards an end grows louder there. */
function addOutOfTrue(scene: SoundScene): void {
  const { parts, drive, turns, motion, config } = scene;
  const heavier = Math.max(1, (parts.frictionN ?? 120) / 120);
  const luck = sourceLuck(scene, 14);
  const phase = luck.built();
  const bent = (parts.bendN ?? 0) / 70 / heavier;
  const off = (parts.couplingOffN ?? 0) / 70 / heavier;
  const end = (parts.misalignN ?? 0) / 170 / heavier;
  const over = (parts.bearingOverN ?? 0) / 900;
  if (bent + off + end + over === 0) return;
  addNoise(scene, {
    rings: [ring(480, 1.1, 1), ring(1300, 0.4, 0.7)],
    luck,
    loud: (i) => {
      const turn = Math.max(0, Math.sin(2 * Math.PI * (turns[i] + phase))) ** 2;
      const twice = 0.5 * Math.max(0, Math.sin(4 * Math.PI * (turns[i] + phase))) ** 2;
      const along = motion.placeMm[i] / config.travelMm;
      // A bend swings most in the middle, and not at all where nut or bearing hold it.
      const bow = Math.max(0, 4 * along * (1 - along));
      return drive[i] * (bent * turn * bow * 1.3 + off * (turn + twice) + end * Math.max(0, 3 * along - 2) + over);
    },
  });
}

/** What is loose knocks when it is pulled the other way. */
function addKnocks(scene: SoundScene): void {
  const { parts, motion } = scene;
  const gap =
    (parts.couplingSlipMm ?? 0) +
    (parts.retainerGapMm ?? 0) +
    (parts.lockNutGapMm ?? 0) +
    (parts.bearingGapMm ?? 0) +
    (parts.housingSlipMm ?? 0) +
    (parts.bracketSlipMm ?? 0) +
    (parts.flangeSlipMm ?? 0) +
    (parts.clampSlipMm ?? 0) +
    0.3 * (parts.nutGapMm ?? 0) +
    0.2 * (parts.meshWearMm ?? 0);
  if (gap < 0.002) return;
  const luck = sourceLuck(scene, 15);
  const blows = new Float32Array(scene.out.length);
  for (const [k, start] of motion.starts.entries()) {
    // Only where it turns round is the gap crossed.
    if (k === 0) continue;
    const at = start + Math.round((0.01 + 0.02 * luck.uniform()) * motion.rate);
    if (at < blows.length) blows[at] = 9 * Math.sqrt(gap / 0.05) * (1 + 0.2 * luck.white());
  }
  for (const one of [ring(230 + 60 * luck.built(), 9, 1), ring(760, 4, 0.5)])
    addRing(scene.out, blows, { ring: one, rate: motion.rate });
}

/**
 * What the member and what holds it make: ways, what turns out of true, what knocks at a reversal.
 * @param scene - added to
 * @param inside - what is inside this machine
 * @example
 * const run = { stillS: 0, feedMmMin: 6000, fromMm: 0, strokeMm: 100, passes: 1, dwellS: 0, accelMmS2: 2000 };
 * const config = defaultAxis("vertical-centre", "X");
 * const scene = soundScene({ config, parts: { dryness: 1 }, motion: soundMotion(run, 8000), machine: 1, seed: 1 });
 * addMember(scene, soundGeometry(config, soundLuck(1, 1)));
 * rootMeanSquare(scene.out, 0) > 0 // true
 */
export function addMember(scene: SoundScene, inside: SoundGeometry): void {
  addWays(scene, inside);
  addOutOfTrue(scene);
  addKnocks(scene);
}
