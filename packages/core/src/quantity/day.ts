/**
 * Calendar day of a moment, as 2026-03-03. The days of a shop are those of the clock on its wall:
 * the time zone is the one the program runs in (TZ of the server, that of the browser).
 * @param moment - a date, an instant as text, or milliseconds since 1970
 * @returns year, month and day
 * @example dayOf("2026-03-03T12:00:00") // '2026-03-03'
 */
export function dayOf(moment: Date | string | number): string {
  const d = new Date(moment);
  const two = (n: number): string => String(n).padStart(2, "0");
  return `${String(d.getFullYear()).padStart(4, "0")}-${two(d.getMonth() + 1)}-${two(d.getDate())}`;
}

/**
 * Noon of a day on the shop’s clock: a moment that stands for the whole of it.
 * @param day - year, month and day
 * @returns the moment
 * @example dayOf(noonOf("2026-03-03")) // '2026-03-03'
 */
export function noonOf(day: string): Date {
  return new Date(`${day}T12:00:00`);
}

/**
 * A day so many days later. Noon and back, so that a changed clock loses no day.
 * @param day - year, month and day
 * @param days - whole days, below 0 for earlier
 * @returns year, month and day
 * @example dayAfter("2026-02-27", 2) // '2026-03-01'
 */
export function dayAfter(day: string, days: number): string {
  const d = noonOf(day);
  d.setDate(d.getDate() + days);
  return dayOf(d);
}
