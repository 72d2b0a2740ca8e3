/** "€ 1,200": whole units of the shop’s currency. */
export function money(value: number, currency: string): string {
  return new Intl.NumberFormat("en-GB", {
    style: "currency",
    currency,
    maximumFractionDigits: 0,
  }).format(value);
}

/** "45 min", "2 h 10 min". */
export function minutesText(minutes: number): string {
  if (minutes < 60) return `${Math.round(minutes)} min`;
  const hours = Math.floor(minutes / 60);
  const rest = Math.round(minutes - 60 * hours);
  return rest ? `${hours} h ${rest} min` : `${hours} h`;
}
