/** Watches a display until it has been still. Plain state, fed with samples. */
export interface StillWatch {
  readonly sinceMs: number;
  readonly low: number;
  readonly high: number;
}

/**
 * Takes a sample in. The display is still while all values since `sinceMs` lie within one
 * resolution step; a larger change, or no contact, starts the time anew.
 * @param watch - so far; null at the start
 * @param options - `value`: display, mm, null without contact; `atMs`: when; `resolutionMm`: display step
 * @returns the watch; null without contact
 * @example
 * watchStill(null, { value: 0.01, atMs: 500, resolutionMm: 0.001 }) // { sinceMs: 500, low: 0.01, high: 0.01 }
 */
export function watchStill(
  watch: StillWatch | null,
  {
    value,
    atMs,
    resolutionMm,
  }: { readonly value: number | null; readonly atMs: number; readonly resolutionMm: number },
): StillWatch | null {
  if (value === null) return null;
  if (watch) {
    const low = Math.min(watch.low, value);
    const high = Math.max(watch.high, value);
    if (high - low <= resolutionMm * 1.001) return { sinceMs: watch.sinceMs, low, high };
  }
  return { sinceMs: atMs, low: value, high: value };
}

/**
 * For how long the display has been still, ms.
 * @param watch - so far
 * @param nowMs - now, ms
 * @returns ms
 * @example stillForMs({ sinceMs: 500, low: 0, high: 0 }, 800) // 300
 */
export function stillForMs(watch: StillWatch | null, nowMs: number): number {
  return watch ? Math.max(0, nowMs - watch.sinceMs) : 0;
}
