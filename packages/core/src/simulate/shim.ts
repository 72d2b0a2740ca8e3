import type { PartsCondition } from "./parts-condition";

/** Out of square over 300 mm when nothing is wrong, mm. */
const SOUND_LEAN_MM = 0.006;

/**
 * How the spindle leans over the table as its parts stand: rise of a swept surface, mm per mm.
 * @param parts - condition of the parts
 * @returns to the right and to the far side
 * @example leanOf({ tramMm: 0.03 }).x > 0 // true
 */
export function leanOf(parts: PartsCondition): {
  readonly x: number;
  readonly y: number;
} {
  const x = (parts.tramMm ?? SOUND_LEAN_MM) / 300;
  return {
    x: x - (parts.shimmedX ?? 0),
    y: 0.4 * x - (parts.shimmedY ?? 0),
  };
}

type Point = readonly [x: number, y: number, z: number];

/** A shim as somebody puts it in: where, and which way it pushes what it is under. */
export interface PutShim {
  readonly at: Point;
  readonly push: Point;
  readonly mm: number;
}

/**
 * The parts after shims have been put in: the body that they push comes to rest where the shims are
 * least missed, found by trying turns about both axes of the table and a shift (nothing of the sums
 * that propose shims is used here).
 * @param parts - condition of the parts
 * @param shims - where each is put, which way it pushes, and how thick it is, mm
 * @returns condition of the parts with them
 * @example putShims({ tramMm: 0.05 }, []).tramMm // 0.05
 */
export function putShims(parts: PartsCondition, shims: readonly PutShim[]): PartsCondition {
  const missed = (rx: number, ry: number): number => {
    // A point of a body that turns by rx about the table’s x and ry about its y moves by ω × p.
    const off = shims.map(({ at: [x, y, z], push, mm }) => {
      const moved: Point = [ry * z, -rx * z, rx * y - ry * x];
      return moved[0] * push[0] + moved[1] * push[1] + moved[2] * push[2] - mm;
    });
    const mean = off.reduce((a, b) => a + b, 0) / off.length;
    return off.reduce((s, o) => s + (o - mean) ** 2, 0);
  };
  let turn = { rx: 0, ry: 0 };
  for (let step = 1e-3; step > 1e-10;) {
    const tries = [
      turn,
      { rx: turn.rx + step, ry: turn.ry },
      { rx: turn.rx - step, ry: turn.ry },
      { rx: turn.rx, ry: turn.ry + step },
      { rx: turn.rx, ry: turn.ry - step },
    ];
    const best = tries.reduce((a, b) => (missed(b.rx, b.ry) < missed(a.rx, a.ry) ? b : a));
    if (best === turn) step /= 2;
    turn = best;
  }
  // Where the spindle’s right side rises, the surface there stands farther away.
  return {
    ...parts,
    tramMm: parts.tramMm ?? SOUND_LEAN_MM,
    shimmedX: (parts.shimmedX ?? 0) - turn.ry,
    shimmedY: (parts.shimmedY ?? 0) + turn.rx,
  };
}
