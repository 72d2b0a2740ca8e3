import type { SoundGeometry } from "./sound-geometry";
import type { Ring } from "./sound-ring";
import { addBlows, addNoise, bell, sourceLuck, type SoundScene } from "./sound-scene";

/** A force as it would be on a member of middling weight. */
const ofWeight = (parts: SoundScene["parts"], forceN = 0): number =>
  forceN / Math.max(1, (parts.frictionN ?? 120) / 120);
const ring = (hz: number, tauMs: number, gain = 1): Ring => ({ hz, tauS: tauMs / 1000, gain });
/** From barely there to as bad as it gets, as heights of blows over the rolling noise. */
const worse = (part: number, most: number): number => most * part ** 1.7;

/**
 * What every sound axis makes: balls that roll, a screw that turns, a motor that pulls.
 * @param scene - added to
 * @param inside - what is inside this machine
 * @example
 * const run = { stillS: 0, feedMmMin: 6000, fromMm: 0, strokeMm: 100, passes: 1, dwellS: 0, accelMmS2: 2000 };
 * const config = defaultAxis("vertical-centre", "X");
 * const scene = soundScene({ config, parts: {}, motion: soundMotion(run, 8000), machine: 1, seed: 1 });
 * addRolling(scene, soundGeometry(config, soundLuck(1, 1)));
 * rootMeanSquare(scene.out, 0) > 0 // true
 */
export function addRolling(scene: SoundScene, inside: SoundGeometry): void {
  const { drive, turns, config } = scene;
  const luck = sourceLuck(scene, 1);
  const wave = 0.12 + 0.1 * luck.built();
  const of = luck.built();
  const soft = [ring(330 + 120 * of, 0.8, 0.9), ring(1500 + 500 * luck.built(), 0.25, 0.6), ring(4200, 0.08, 0.25)];
  addNoise(scene, {
    rings: soft,
    luck,
    loud: (i) => drive[i] * (1 + wave * Math.sin(2 * Math.PI * (turns[i] + of))),
  });
  const tones = [
    { order: inside.nutPass, level: config.transmission === "rack" ? 0 : 0.16 + 0.1 * luck.built() },
    { order: 2 * inside.polePairs * config.ratio, level: 0.08 },
    { order: 6 * inside.polePairs * config.ratio, level: 0.12 * luck.built() },
    { order: config.transmission === "belt" || config.transmission === "rack" ? inside.teeth : 0, level: 0.25 },
  ];
  for (const { order, level } of tones) {
    if (order === 0 || level === 0) continue;
    for (let i = 0; i < turns.length; i += 1)
      scene.out[i] += level * drive[i] * Math.sin(2 * Math.PI * order * turns[i]);
  }
}

/** A pitted bearing: blows as its balls pass the pit, and a rumble over the whole of it. */
function addPitted(
  scene: SoundScene,
  {
    orders,
    pitting,
    hz,
    of,
    speed,
    load,
  }: {
    readonly orders: SoundGeometry["end"];
    readonly pitting: number;
    readonly hz: number;
    readonly of: number;
    /** Turns of this shaft for a turn of the screw. */
    readonly speed: number;
    readonly load: (i: number) => number;
  },
): void {
  const luck = sourceLuck(scene, of);
  const where = (["outer", "outer", "inner", "ball"] as const)[Math.floor(4 * luck.built())];
  const phase = luck.built();
  // A pit that turns is loaded once a turn of what it sits on.
  const turning = where === "outer" ? 0 : where === "inner" ? 1 : orders.cage;
  const depth = where === "outer" ? 0 : 0.7;
  const { drive, turns } = scene;
  const zone = (i: number): number => 1 + depth * Math.sin(2 * Math.PI * (turning * speed * turns[i] + phase));
  addBlows(scene, {
    order: orders[where] * speed,
    uneven: 0.012,
    luck,
    rings: [ring(hz, 0.7 + 0.6 * luck.built())],
    height: (i) => worse(pitting, 16) * drive[i] * zone(i) * load(i) * (1 + 0.25 * luck.white()),
  });
  addNoise(scene, {
    rings: [ring(0.16 * hz, 2.2, 1), ring(0.3 * hz, 1.2, 0.6)],
    luck,
    loud: (i) => worse(pitting, 2.6) * drive[i] * load(i) * (0.6 + 0.4 * zone(i)),
  });
}

function addBearings(scene: SoundScene, inside: SoundGeometry): void {
  const { parts, config, motion } = scene;
  const luck = sourceLuck(scene, 2);
  const hz = (least: number): number => least * (1 + 0.35 * luck.built());
  const flat = (): number => 1;
  const gap = (parts.retainerGapMm ?? 0) + (parts.lockNutGapMm ?? 0) + (parts.bearingGapMm ?? 0);
  // A set without preload rattles a little in its rings.
  const pitting = Math.max(parts.bearingPitting ?? 0, Math.min(0.3, 5 * Math.max(0, gap - 0.006)));
  if (pitting > 0) addPitted(scene, { orders: inside.end, pitting, hz: hz(2300), of: 3, speed: 1, load: flat });
  if (parts.motorPitting)
    addPitted(scene, {
      orders: inside.motor,
      pitting: parts.motorPitting,
      hz: hz(3300),
      of: 4,
      speed: config.ratio,
      load: flat,
    });
  if (parts.supportPitting)
    addPitted(scene, {
      orders: inside.support,
      pitting: 0.8 * parts.supportPitting,
      hz: hz(2700),
      of: 5,
      speed: 1,
      // The nearer the nut comes, the less the screw swings in its far end.
      load: (i) => 1.25 - 0.9 * (motion.placeMm[i] / config.travelMm),
    });
}

/** Grit in the nut all along, chips under a wiper at one spot, broken returns that let balls rattle. */
function addNut(scene: SoundScene, inside: SoundGeometry): void {
  const { parts, motion, config, drive } = scene;
  const spot = { atMm: (parts.spotAt ?? 0.5) * config.travelMm, widthMm: 0.06 * config.travelMm };
  const dirt = parts.nutDirt ?? 0;
  if (dirt > 0) {
    const luck = sourceLuck(scene, 6);
    addBlows(scene, {
      order: 2.5 + 5 * dirt,
      uneven: 0.9,
      luck,
      rings: [ring(5200, 0.25, 1), ring(2900, 0.35, 0.5)],
      height: (i) => worse(dirt, 13) * drive[i] * (0.3 + 1.4 * luck.uniform() ** 2),
    });
  }
  const chips = ofWeight(parts, parts.chipsN);
  if (chips > 0) {
    const luck = sourceLuck(scene, 7);
    addNoise(scene, {
      rings: [ring(2100, 0.3, 1), ring(5600, 0.15, 0.6)],
      luck,
      loud: (i) => (chips / 60) * drive[i] * bell(motion.placeMm[i], spot) * (luck.uniform() < 0.05 ? 6 : 0.5),
    });
  }
  const returns = parts.nutReturns ?? 0;
  if (returns > 0) {
    const luck = sourceLuck(scene, 8);
    const quick = (i: number): number => Math.min(1, Math.abs(motion.speedMmS[i]) / 80);
    addBlows(scene, {
      order: inside.nutPass / 2,
      uneven: 0.45,
      luck,
      rings: [ring(1350 + 500 * luck.built(), 6, 0.8), ring(3100, 3, 0.4)],
      // As loud to an ear as a bearing that is pitted as far (as in observe.ts): fewer blows that ring longer.
      height: (i) => worse(returns, 12) * drive[i] * quick(i) * (luck.uniform() < 0.6 ? 1 : 0.15),
    });
  }
}

/** A worn thread or nut howls: a tone that rises and falls with the turns. */
function addHowl(scene: SoundScene, inside: SoundGeometry, { much, of, at }: HowlOf): void {
  const { turns, drive, motion } = scene;
  const luck = sourceLuck(scene, of);
  const rises = 0.5 + 0.8 * luck.built();
  const hz = 420 + 380 * luck.built();
  let phase = 0;
  for (let i = 0; i < turns.length; i += 1) {
    const swell = 0.5 + 0.5 * Math.sin(2 * Math.PI * rises * turns[i]);
    phase += (hz * (0.96 + 0.08 * swell)) / motion.rate;
    const loud = much * drive[i] * (0.15 + 0.85 * swell) * at(motion.placeMm[i]);
    scene.out[i] += loud * (Math.sin(2 * Math.PI * phase) + 0.35 * Math.sin(4 * Math.PI * phase));
  }
  addNoise(scene, { rings: [ring(hz, 5, 0.5)], luck, loud: (i) => 0.5 * much * drive[i] * at(motion.placeMm[i]) });
  addBlows(scene, {
    order: inside.nutPass,
    uneven: 0.03,
    luck,
    rings: [ring(hz, 3, 0.3)],
    height: (i) => much * drive[i] * at(motion.placeMm[i]),
  });
}
interface HowlOf {
  readonly much: number;
  readonly of: number;
  readonly at: (mm: number) => number;
}

function addThread(scene: SoundScene, inside: SoundGeometry): void {
  const { parts, config } = scene;
  const part = (x: number | undefined, full: number): number => Math.min(1.4, (x ?? 0) / full);
  const middle = { atMm: (parts.spotAt ?? 0.5) * config.travelMm, widthMm: config.travelMm / 5 };
  // A plain thread squeals at most.
  const howls = config.transmission === "plain-screw" ? 0.35 : 1;
  const worn = 1.9 * howls * part(parts.screwWearMm, 0.03);
  if (worn > 0) addHowl(scene, inside, { much: worn, of: 9, at: (mm) => bell(mm, middle) });
  const loose = 1.7 * howls * part(parts.nutGapMm, config.nut === "anti-backlash" ? 0.15 : 0.04);
  if (loose > 0) addHowl(scene, inside, { much: loose, of: 10, at: () => 1 });
}

/**
 * What worn, pitted or dirty parts of the drive make: bearings, nut and thread.
 * @param scene - added to
 * @param inside - what is inside this machine
 * @example
 * const run = { stillS: 0, feedMmMin: 6000, fromMm: 0, strokeMm: 100, passes: 1, dwellS: 0, accelMmS2: 2000 };
 * const config = defaultAxis("vertical-centre", "X");
 * const scene = soundScene({ config, parts: { nutDirt: 1 }, motion: soundMotion(run, 8000), machine: 1, seed: 1 });
 * addDrive(scene, soundGeometry(config, soundLuck(1, 1)));
 * rootMeanSquare(scene.out, 0) > 0 // true
 */
export function addDrive(scene: SoundScene, inside: SoundGeometry): void {
  addBearings(scene, inside);
  addNut(scene, inside);
  addThread(scene, inside);
}
