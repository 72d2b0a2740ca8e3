import {
  chainLostMotion,
  defaultAxis,
  defaultVirtualAxis,
  fitCircle,
  type CirclePart,
  type VirtualAxis,
  type VirtualPlane,
} from "@iron/core";
import { bothWays, SETUP } from "../packages/core/src/prove/circle/circle-virtual.testing";
import { againstGeneral, memoryOfTenMinutes, takeApart, type Apart } from "./circle-apart";
import { luckFrom, type Luck } from "./luck";

const SAMPLES = 2400;

interface Drawn {
  readonly plane: VirtualPlane;
  /** What was put into it, in the units of the parts. */
  readonly truth: Partial<Record<CirclePart, number>>;
}

function axisOf(letter: string, luck: Luck): { readonly axis: VirtualAxis; readonly ripple: number } {
  const sound = defaultVirtualAxis(defaultAxis("vertical-centre", letter), 1);
  const ripple = 0.003 * luck.uniform();
  const links = sound.links.map((link) => ({ ...link, deadBandMm: 3 * luck.uniform() * link.deadBandMm }));
  const leadError = { amplitudeMm: ripple, perTurnMm: 10 };
  return { axis: { ...sound, links, pitchErrorMm: 0, repeatabilityMm: 0, leadError }, ripple };
}

/** A machine with something of everything, from hardly there to plain. */
export function drawMachine(seed: number): Drawn {
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
  const stick = [0, 1].map(() => ({ mm: 0.005 * luck.uniform(), tauS: 0.1 })) as unknown as VirtualPlane["stick"];
  return {
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

const share = (all: readonly Apart[], of: (a: Apart) => boolean): string =>
  `${((100 * all.filter(of).length) / all.length).toFixed(1)} %`;

/** How often the right axis is named, and what would be left is what is left once it is mended. */
function benchApart(machines: number): void {
  const all: Apart[] = [];
  for (let seed = 1; seed <= machines; seed += 1) {
    const { plane, truth } = drawMachine(seed);
    const of = ({ kind, axis }: { kind: string; axis: 0 | 1 | null }): number => {
      const own = axis === null ? "" : `-${axis + 1}`;
      return truth[(kind === "ripple" ? `ripple-sin${own}` : `${kind}${own}`) as CirclePart] ?? 0;
    };
    all.push(takeApart(plane, of, { samples: SAMPLES, seed }));
  }
  const mean = (of: (a: Apart) => number): string =>
    ((1000 * all.reduce((s, a) => s + Math.abs(of(a)), 0)) / all.length).toFixed(2);
  console.log(
    `right axis for the largest part of an axis ${share(all, (a) => a.rightAxis)} (aim 98), right part of all ${share(all, (a) => a.rightPart)}; what is left within U ${share(all, (a) => a.leftWithin)} (aim 95), off by ${mean((a) => a.leftOffMm)} µm in the mean, U ${mean((a) => a.leftUMm)} µm`,
  );
}

/** How often each part of a drawn machine is found within its U, both ways round. */
export async function benchCircle(machines: number): Promise<void> {
  const within = new Map<string, { count: number; off: number; u: number }>();
  let ms = 0;
  for (let seed = 1; seed <= machines; seed += 1) {
    const { plane, truth } = drawMachine(seed);
    const traces = bothWays(plane, { samples: SAMPLES, seed });
    const start = performance.now();
    const fit = fitCircle(traces, SETUP);
    ms += performance.now() - start;
    for (const { id, value, u } of fit.parts) {
      const put = truth[id];
      if (put === undefined) continue;
      const sum = within.get(id) ?? { count: 0, off: 0, u: 0 };
      within.set(id, {
        count: sum.count + Number(Math.abs(value - put) <= u),
        off: sum.off + Math.abs(value - put),
        u: sum.u + u,
      });
    }
  }
  console.log(
    `circle: ${machines} machines, ${SAMPLES} readings each way; one taken apart in ${(ms / machines).toFixed(0)} ms`,
  );
  for (const [id, { count, off, u }] of within)
    console.log(
      `${id.padEnd(14)} within its U ${((100 * count) / machines).toFixed(1)} %, off by ${(off / machines).toPrecision(2)} in the mean, U ${(u / machines).toPrecision(2)}`,
    );
  benchApart(machines);
  const { plane } = drawMachine(1);
  await againstGeneral(bothWays(plane, { samples: 100_000 }));
  memoryOfTenMinutes(plane);
}
