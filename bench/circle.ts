import { fork } from "node:child_process";
import { once } from "node:events";
import { availableParallelism } from "node:os";
import { chainLostMotion, defaultAxis, defaultVirtualAxis, type VirtualAxis, type VirtualPlane } from "@iron/core";
import { bothWays, QUIET } from "../packages/core/src/prove/circle/circle-virtual.testing";
import { againstGeneral, memoryOfTenMinutes, takeApart, type Apart, type DrawnMachine } from "./circle-apart";
import { luckFrom, type Luck } from "./luck";

/** Of one way round: what a bar reads at 100 Hz. */
const SAMPLES = 5655;

function axisOf(letter: string, luck: Luck): { readonly axis: VirtualAxis; readonly ripple: number } {
  const sound = defaultVirtualAxis(defaultAxis("vertical-centre", letter), 1);
  const ripple = 0.003 * luck.uniform();
  const links = sound.links.map((link) => ({ ...link, deadBandMm: 3 * luck.uniform() * link.deadBandMm }));
  const leadError = { amplitudeMm: ripple, perTurnMm: 10 };
  return { axis: { ...sound, links, pitchErrorMm: 0, repeatabilityMm: 0, leadError }, ripple };
}

/** A machine with something of everything, from hardly there to plain. */
export function drawMachine(seed: number): DrawnMachine {
  const luck = luckFrom(seed);
  const spread = (most: number): number => most * (2 * luck.uniform() - 1);
  const [x, y] = [axisOf("X", luck), axisOf("Y", luck)];
  // Servos of one machine are set alike to some hundredths; further apart the control alarms.
  const gain = 25 + 15 * luck.uniform();
  const gains: [number, number] = [gain, gain * (1 + spread(0.03))];
  const scale: [number, number] = [spread(30e-6), spread(30e-6)];
  const square = spread(60e-6);
  const bowMm: [number, number] = [spread(0.003), spread(0.003)];
  const asideMm: [number, number] = [0.003 * luck.uniform(), 0.003 * luck.uniform()];
  const caught = (): VirtualPlane["stick"][0] => ({ mm: 0.005 * luck.uniform(), tauS: 0.05 + 0.15 * luck.uniform() });
  const stick: VirtualPlane["stick"] = [caught(), caught()];
  // From a bar that stands quietly to one that hums with the shop.
  const bar = { ...QUIET, noiseMm: 0.0001 + 0.0005 * luck.uniform() };
  return {
    bar,
    plane: { axes: [x.axis, y.axis], gains, scale, square, bowMm, asideMm, stick },
    truth: {
      mismatch: scale[0] - scale[1],
      square,
      servo: 1 / gains[0] - 1 / gains[1],
      "lost-1": chainLostMotion(x.axis.links),
      "lost-2": chainLostMotion(y.axis.links),
      "ripple-sin-1": x.ripple,
      "ripple-sin-2": y.ripple,
      "bow-1": bowMm[0],
      "bow-2": bowMm[1],
      "across-1": asideMm[0],
      "across-2": asideMm[1],
      "spike-1": stick[0].mm,
      "spike-2": stick[1].mm,
    },
  };
}

/** What is asked of each part, in 100; of the right axis; of what is left. */
const AIM = { part: [93, 98], axis: 98, left: 95 } as const;

/** Takes machines apart and says so to whoever asked: several of these run beside each other. */
export function circleMachines(from: number, to: number): void {
  const all: Apart[] = [];
  for (let seed = from; seed < to; seed += 1) all.push(takeApart(drawMachine(seed), { samples: SAMPLES, seed }));
  process.send?.(all);
}

/** As many at a time as there are processors. */
async function takenApart(machines: number): Promise<readonly Apart[]> {
  const workers = Math.min(availableParallelism(), machines);
  const edge = (i: number): number => 1 + Math.round((i * machines) / workers);
  const parts = Array.from({ length: workers }, async (_, i) => {
    const worker = fork(__filename, ["circle-machines", String(edge(i)), String(edge(i + 1))]);
    const [all] = (await once(worker, "message")) as [readonly Apart[]];
    return all;
  });
  return (await Promise.all(parts)).flat();
}

const share = <T>(all: readonly T[], of: (a: T) => boolean): number => (100 * all.filter(of).length) / all.length;
const mean = <T>(all: readonly T[], of: (a: T) => number): number =>
  all.reduce((sum, a) => sum + of(a), 0) / all.length;

/** How often each part is found within its U, the right axis is named, and what would be left is left once it is mended. */
function tellApart(all: readonly Apart[]): boolean {
  let held = true;
  const met = (is: boolean): string => {
    held &&= is;
    return is ? "" : "  MISSED";
  };
  const ids = new Set(all.flatMap((a) => a.parts.map(([id]) => id)));
  for (const id of ids) {
    const found = all.flatMap((a) => a.parts.filter(([of]) => of === id));
    const within = share(found, ([, put, value, u]) => Math.abs(value - put) <= u);
    const off = mean(found, ([, put, value]) => Math.abs(value - put)).toPrecision(2);
    const u = mean(found, ([, , , one]) => one).toPrecision(2);
    const is = met(within >= AIM.part[0] && within <= AIM.part[1]);
    console.log(`${id.padEnd(14)} within its U ${within.toFixed(1)} %, off by ${off} in the mean, U ${u}${is}`);
  }
  const axis = share(all, (a) => a.rightAxis);
  const left = share(all, (a) => a.leftWithin);
  const um = (of: (a: Apart) => number): string => (1000 * mean(all, of)).toFixed(2);
  console.log(
    `right axis for the largest part of an axis ${axis.toFixed(1)} % (aim ${AIM.axis})${met(axis >= AIM.axis)}; right part of all ${share(all, (a) => a.rightPart).toFixed(1)} %`,
  );
  console.log(
    `what is left within U ${left.toFixed(1)} % (aim ${AIM.left})${met(left >= AIM.left)}, off by ${um((a) => Math.abs(a.leftOffMm))} µm in the mean, U ${um((a) => a.leftUMm)} µm`,
  );
  return held;
}

/** What a circle says of machines that are known, and what it costs. */
export async function benchCircle(machines: number): Promise<boolean> {
  const all = await takenApart(machines);
  const ms = mean(all, (a) => a.ms).toFixed(0);
  console.log(`circle: ${machines} machines, ${SAMPLES} readings each way; one taken apart in ${ms} ms`);
  const held = tellApart(all);
  const { plane, bar } = drawMachine(1);
  await againstGeneral(bothWays(plane, { samples: 100_000, bar }));
  memoryOfTenMinutes(plane);
  return held;
}
