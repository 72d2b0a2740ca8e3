/** Values of one part of a typing sheet, and what they come to. */
export interface TypedBlock {
  /** Numbers of the first and the last point, counted as the control counts, from 1. */
  readonly from: number;
  readonly to: number;
  readonly values: readonly number[];
  readonly sum: number;
}

/** Points to a block: what the eye keeps at one look (common practice, no source). */
const BLOCK = 10;

/**
 * A typing sheet in blocks with their sums.
 * @param values - as they are typed
 * @returns blocks of ten
 * @example typedBlocks([1, 2, 3])[0].sum // 6
 */
export function typedBlocks(values: readonly number[]): readonly TypedBlock[] {
  return Array.from({ length: Math.ceil(values.length / BLOCK) }, (_, i) => {
    const own = values.slice(BLOCK * i, BLOCK * (i + 1));
    return { from: BLOCK * i + 1, to: BLOCK * i + own.length, values: own, sum: own.reduce((a, b) => a + b, 0) };
  });
}

/** What is wrong with numbers read back from a control. */
export type TypedSlip =
  | { readonly code: "missing"; readonly wanted: number; readonly got: number }
  | { readonly code: "differs"; readonly point: number; readonly wanted: number; readonly got: number }
  /** Two neighbours changed places. */
  | { readonly code: "swapped"; readonly point: number }
  /** From here on everything stands one point too early or too late. */
  | { readonly code: "shifted"; readonly point: number; readonly by: 1 | -1 }
  | { readonly code: "all-turned-round" };

/**
 * Numbers read back from a control against those of the sheet.
 * @param wanted - of the sheet
 * @param got - read back
 * @returns what is wrong; nothing where all agree
 * @example typedSlips([1, 2, 3], [1, 3, 2])[0].code // 'swapped'
 */
export function typedSlips(wanted: readonly number[], got: readonly number[]): readonly TypedSlip[] {
  const first = wanted.findIndex((v, i) => v !== got[i]);
  if (first < 0 && wanted.length === got.length) return [];
  if (wanted.some((v) => v !== 0) && wanted.length === got.length && wanted.every((v, i) => v + got[i] === 0))
    return [{ code: "all-turned-round" }];
  const rest = wanted.length - first;
  if (first >= 0 && rest > 3)
    for (const by of [1, -1] as const) {
      const same = wanted.slice(first).filter((v, i) => got.at(first + i + by) === v && first + i + by >= 0).length;
      if (same >= rest - 1 && new Set(wanted.slice(first)).size > 2) return [{ code: "shifted", point: first + 1, by }];
    }
  if (wanted.length !== got.length) return [{ code: "missing", wanted: wanted.length, got: got.length }];
  const slips: TypedSlip[] = [];
  for (let i = first; i < wanted.length; i += 1) {
    if (wanted[i] === got[i]) continue;
    if (wanted[i] === got[i + 1] && wanted[i + 1] === got[i]) {
      slips.push({ code: "swapped", point: i + 1 });
      i += 1;
    } else slips.push({ code: "differs", point: i + 1, wanted: wanted[i], got: got[i] });
  }
  return slips;
}
