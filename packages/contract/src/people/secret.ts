const LEAST = 6;
/** A keeper’s opens everything: it is no PIN. */
const LEAST_OF_KEEPER = 10;

/** Digits that follow one another, up or down, or that are all one. */
function isRow(secret: string): boolean {
  const codes = [...secret].map((c) => c.codePointAt(0) ?? 0);
  const steps = new Set(codes.slice(1).map((c, i) => c - codes[i]));
  return steps.size === 1 && Math.abs([...steps][0]) <= 1;
}

/** One half is the other, as in 121212 or 123123. */
function isRepeated(secret: string): boolean {
  return [1, 2, 3, 4].some((n) => secret.length % n === 0 && secret === secret.slice(0, n).repeat(secret.length / n));
}

/**
 * Why a PIN or passphrase is not taken, in words; empty where it is.
 *
 * @example secretTrouble("123456") // "123456 and its like are tried first: take another."
 */
export function secretTrouble(secret: string): string {
  if ([...secret].length < LEAST) return `At least ${LEAST} digits or letters.`;
  if (isRow(secret) || isRepeated(secret)) return `${secret.slice(0, 12)} and its like are tried first: take another.`;
  return "";
}

/**
 * Why a keeper’s is not taken; a keeper has a passphrase, not a PIN.
 *
 * @example keeperTrouble("714903") // "A keeper has a passphrase: …"
 */
export function keeperTrouble(secret: string): string {
  const short = [...secret].length < LEAST_OF_KEEPER || /^\d*$/.test(secret);
  return short ? `A keeper has a passphrase: at least ${LEAST_OF_KEEPER} characters, not digits alone.` : "";
}
