const WEEK_DAYS = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"];
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const NUMBERS = [
  "No",
  "One",
  "Two",
  "Three",
  "Four",
  "Five",
  "Six",
  "Seven",
  "Eight",
  "Nine",
  "Ten",
  "Eleven",
  "Twelve",
];

/** "Tue 3 Mar", with the year when it is another one. */
export function dayText(instant: string, now = new Date()): string {
  const d = new Date(instant);
  const year = d.getFullYear() === now.getFullYear() ? "" : ` ${d.getFullYear()}`;
  return `${WEEK_DAYS[d.getDay()]} ${d.getDate()} ${MONTHS[d.getMonth()]}${year}`;
}

/** "Tue 3 Mar 07:40". */
export function momentText(instant: string, now = new Date()): string {
  const d = new Date(instant);
  const two = (n: number): string => String(n).padStart(2, "0");
  return `${dayText(instant, now)} ${two(d.getHours())}:${two(d.getMinutes())}`;
}

/** "Aug 2027". */
export function monthText(instant: string): string {
  const d = new Date(instant);
  return `${MONTHS[d.getMonth()]} ${d.getFullYear()}`;
}

/** Age in the shortest words: today, 3 d, 5 w, 4 mo, 2 y; a number is not parted from its unit. */
export function ageText(instant: string, now = new Date()): string {
  const days = Math.floor((now.getTime() - new Date(instant).getTime()) / 86_400_000);
  if (days < 1) return "today";
  if (days < 14) return `${days}\u00a0d`;
  if (days < 70) return `${Math.floor(days / 7)}\u00a0w`;
  if (days < 700) return `${Math.floor(days / 30.4)}\u00a0mo`;
  return `${Math.floor(days / 365)}\u00a0y`;
}

/** "Four machines", "One machine". */
export function countText(n: number, one: string, many: string): string {
  return `${NUMBERS[n] ?? n} ${n === 1 ? one : many}`;
}

/** Dates in a sentence of the server, said as days: "2026-03-09" becomes "Mon 9 Mar". */
export function datesInText(text: string): string {
  return text.replace(/\d{4}-\d{2}-\d{2}/g, (date) => dayText(`${date}T12:00:00`));
}
