/** Watches a display until it has been still. Plain state, fed with samples. */
export interface StillWatch {
  readonly sinceMs: number;
  readonly low: number;
  readonly high: number;
}

/**
 * Takes a sample in. The display is still while all values since `sinceMs` lie within one
 * resolution step; a larger change, or no contact, starts the time anew.
 */
export function watchStill(
  watch: StillWatch | null,
  value: number | null,
  atMs: number,
  resolutionMm: number,
): StillWatch | null {
  if (value === null) return null;
  if (watch) {
    const low = Math.min(watch.low, value);
    const high = Math.max(watch.high, value);
    if (high - low <= resolutionMm * 1.001) return { sinceMs: watch.sinceMs, low, high };
  }
  return { sinceMs: atMs, low: value, high: value };
}

/** For how long the display has been still, ms. */
export function stillForMs(watch: StillWatch | null, nowMs: number): number {
  return watch ? Math.max(0, nowMs - watch.sinceMs) : 0;
}
