import { barReads, type VirtualBar } from "./virtual-circle";
import { PlaneWalk, type VirtualPlane } from "./virtual-plane";

export interface VirtualPassAsked {
  readonly radiusMm: number;
  readonly feedMmMin: number;
  readonly centreMm: readonly [number, number];
  readonly direction: 1 | -1;
  readonly startDeg: number;
  readonly spanDeg: number;
  readonly overrunDeg: number;
  readonly leadMm: number;
  readonly dwellS: number;
  readonly rateHz: number;
  /** Beyond this from its nominal length the bar says nothing, mm. */
  readonly rangeMm: number;
  readonly seed: number;
  /** Feed override, 1 where nobody touched it. */
  readonly override?: number;
  /** When the bar falls off, s after the reading began. */
  readonly fallsAtS?: number;
}

interface Piece {
  readonly seconds: number;
  readonly at: (part: number) => readonly [number, number];
}

/** What the program of a circle commands: it stands, runs in, goes round, runs out and stands. */
function piecesOf(asked: VirtualPassAsked): readonly Piece[] {
  const { radiusMm, centreMm, direction, startDeg, spanDeg, overrunDeg, leadMm, dwellS } = asked;
  const feed = (asked.feedMmMin / 60) * (asked.override ?? 1);
  const ends = [startDeg - overrunDeg, startDeg + spanDeg + overrunDeg];
  const [from, to] = direction === 1 ? ends : [ends[1], ends[0]];
  const at = (deg: number, out: number): readonly [number, number] => {
    const turn = (deg * Math.PI) / 180;
    return [centreMm[0] + (radiusMm + out) * Math.cos(turn), centreMm[1] + (radiusMm + out) * Math.sin(turn)];
  };
  const round = (Math.abs(to - from) * Math.PI * radiusMm) / 180;
  return [
    { seconds: dwellS, at: () => at(from, leadMm) },
    { seconds: leadMm / feed, at: (part) => at(from, leadMm * (1 - part)) },
    { seconds: round / feed, at: (part) => at(from + part * (to - from), 0) },
    { seconds: leadMm / feed, at: (part) => at(to, leadMm * part) },
    { seconds: dwellS, at: () => at(to, leadMm) },
  ];
}

/**
 * One way round as a bar sends it: a number for each instant and nothing else, from before the run in till after the run out.
 * @param plane - the machine
 * @param bar - the bar
 * @param asked - the circle and how often it is read
 * @returns length of the bar less its nominal one, mm; NaN where it is out of its range or has fallen off
 * @example
 * const axis = { ...defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1), pitchErrorMm: 0 };
 * const none = [0, 0];
 * const stick = [{ mm: 0, tauS: 1 }, { mm: 0, tauS: 1 }];
 * const plane = { axes: [axis, axis], gains: [1000, 1000], scale: none, square: 0, bowMm: none, asideMm: none, stick };
 * const bar = { noiseMm: 0, resolutionMm: 0.0001, offMm: none, longerMm: 0 };
 * const round = { radiusMm: 50, feedMmMin: 3000, centreMm: [200, 200], direction: 1, startDeg: 0, spanDeg: 360, overrunDeg: 45 };
 * virtualPass(plane, bar, { ...round, leadMm: 1.5, dwellS: 1, rateHz: 100, rangeMm: 1, seed: 1 }).length // 991
 */
export function virtualPass(plane: VirtualPlane, bar: VirtualBar, asked: VirtualPassAsked): Float64Array {
  const pieces = piecesOf(asked);
  const seconds = pieces.reduce((sum, p) => sum + p.seconds, 0);
  const placeAt = (t: number): readonly [number, number] => {
    let left = t;
    for (const piece of pieces) {
      if (left <= piece.seconds) return piece.at(piece.seconds > 0 ? left / piece.seconds : 1);
      left -= piece.seconds;
    }
    return pieces[pieces.length - 1].at(1);
  };
  const dt = 1 / asked.rateHz;
  const count = Math.floor(seconds * asked.rateHz);
  const walk = new PlaneWalk(plane, asked.centreMm, placeAt(0));
  const read = new Float64Array(count);
  for (let k = 0; k < count; k += 1) {
    const at = walk.step((part) => placeAt((k + part) * dt), dt, asked.radiusMm);
    const off = barReads(bar, at, { seed: asked.seed, count: k }) - asked.radiusMm;
    const fallen = asked.fallsAtS !== undefined && k * dt >= asked.fallsAtS;
    read[k] = fallen || Math.abs(off) > asked.rangeMm ? NaN : off;
  }
  return read;
}
