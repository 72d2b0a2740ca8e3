/**
 * An argument lies outside what the quantity can be.
 * Names the argument, the value given and the bound, so that a caller can say it in words.
 */
export class BoundError extends RangeError {
  constructor(
    readonly argument: string,
    readonly value: number,
    readonly bound: string,
  ) {
    super(`${argument} is ${value}: it must be ${bound}`);
    this.name = "BoundError";
  }
}

/**
 * Throws a {@link BoundError} unless `value` is a finite number for which `holds` is true.
 * @param given - the value under the name of its quantity, as it is said
 * @param holds - whether the bound is kept
 * @param bound - the bound in words, as “above 0 mm”
 * @example requireBound({ lead: 5 }, true, "above 0 mm") // undefined
 */
export function requireBound(given: Readonly<Record<string, number>>, holds: boolean, bound: string): void {
  for (const [argument, value] of Object.entries(given)) {
    if (!Number.isFinite(value) || !holds) throw new BoundError(argument, value, bound);
  }
}
