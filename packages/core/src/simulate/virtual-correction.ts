/** A table in a simulated control: what it adds to the command, mm, at equal steps. */
export interface VirtualCorrection {
  readonly startMm: number;
  readonly stepMm: number;
  readonly upMm: readonly number[];
  readonly downMm: readonly number[] | null;
}

/**
 * What a simulated control adds at a place: it walks its points and draws straight between them.
 * @param table - in the control; none without
 * @param atMm - place, mm
 * @param sign - of the way it came
 * @returns mm
 * @example addedBy({ startMm: 0, stepMm: 10, upMm: [0, 0.01], downMm: null }, 5, 1) // 0.005
 */
export function addedBy(table: VirtualCorrection | undefined, atMm: number, sign: number): number {
  if (!table) return 0;
  const values = sign < 0 && table.downMm ? table.downMm : table.upMm;
  let place = table.startMm;
  if (atMm <= place) return values[0];
  for (let i = 1; i < values.length; i += 1) {
    const next = place + table.stepMm;
    if (atMm <= next) return values[i - 1] + ((values[i] - values[i - 1]) * (atMm - place)) / table.stepMm;
    place = next;
  }
  return values[values.length - 1];
}
