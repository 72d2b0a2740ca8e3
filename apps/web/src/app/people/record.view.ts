import type { RecordLine, RecordQuery } from "@iron/contract";

/** What is looked for, as it stands in the address of the page. */
export interface Wanted {
  readonly words: string;
  readonly by: string;
  /** Days of the shop, “2026-03-02”; empty: from the beginning, until now. */
  readonly from: string;
  readonly to: string;
}

/** The same for the server: days begin where this device is. */
export function queryOf({ words, by, from, to }: Wanted): RecordQuery {
  return {
    ...(words.trim() ? { words: words.trim() } : {}),
    ...(by ? { by } : {}),
    ...(from ? { from: new Date(`${from}T00:00:00`).toISOString() } : {}),
    ...(to ? { till: dayAfter(to) } : {}),
  };
}

function dayAfter(day: string): string {
  const at = new Date(`${day}T00:00:00`);
  at.setDate(at.getDate() + 1);
  return at.toISOString();
}

/** Where to go on from. */
export const placeOf = ({ at, kind, id }: RecordLine): string => `${at}|${kind}|${id}`;

/** Bytes as one says them. */
export function sizeText(bytes: number): string {
  if (bytes < 1000) return `${bytes} bytes`;
  const [unit, by] = bytes < 1e6 ? ["kB", 1e3] : bytes < 1e9 ? ["MB", 1e6] : ["GB", 1e9];
  const n = bytes / by;
  return `${n < 10 ? n.toFixed(1) : Math.round(n)}\u00a0${unit}`;
}
