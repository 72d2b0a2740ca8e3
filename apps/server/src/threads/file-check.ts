import { randomUUID } from "node:crypto";
import { BoundError, checkMeter, dayOf, noonOf, type LubricationPoint, type MeterReading } from "@iron/core";
import { readMeterCsv, readPointCsv, readWorkCsv, writePointCsv, type CsvError, type CsvTable } from "@iron/contract";

/** Told in rows as a file is gone through: the second of the two is how many there are. */
export type Told = Int32Array;

export interface Named {
  readonly id: number;
  readonly name: string;
}

/** What came of a file: the rows to keep as JSON, some hundred at a time; what is there already; what is wrong. */
export interface Checked {
  readonly chunks: readonly string[];
  readonly good: number;
  readonly known: number;
  readonly errors: readonly CsvError[];
}

/** Rows that are laid ready at once, while others wait. */
const AT_ONCE = 500;

/** What a row comes to: it is there already, something is wrong in a column, or it is to be kept. */
type Verdict = "known" | { readonly column: string; readonly message: string } | { readonly keep: object };

/** Goes through rows one by one, each with the machine it names, telling how far it has come. */
function walkRows<V extends { readonly machine: string }>(
  { rows, errors }: CsvTable<V>,
  { told, machines }: { readonly told: Told; readonly machines: readonly Named[] },
  judge: (value: V, machine: Named, line: number) => Verdict,
): Checked {
  const find = finder("machine", machines);
  const all: CsvError[] = [...errors];
  const good: object[] = [];
  let known = 0;
  told[1] = rows.length;
  for (const { line, value } of rows) {
    told[0] += 1;
    const machine = find(value.machine) ?? `There is no machine “${value.machine}”.`;
    const verdict = typeof machine === "string" ? { column: "machine", message: machine } : judge(value, machine, line);
    if (verdict === "known") known += 1;
    else if ("keep" in verdict) good.push(verdict.keep);
    else all.push({ line, ...verdict });
  }
  const chunks: string[] = [];
  for (let from = 0; from < good.length; from += AT_ONCE) chunks.push(JSON.stringify(good.slice(from, from + AT_ONCE)));
  return { chunks, good: good.length, known, errors: all };
}

/**
 * Finds by name: as it is written, else by the only one that differs in capitals alone; null where there is none.
 * Two of one name, or a doubt between two, is said and not guessed.
 */
export function finder<T extends Named>(what: string, all: readonly T[]): (name: string) => T | string | null {
  const exact = new Map<string, T[]>();
  const loose = new Map<string, T[]>();
  const put = (map: Map<string, T[]>, key: string, one: T): void => {
    const there = map.get(key);
    if (there) there.push(one);
    else map.set(key, [one]);
  };
  for (const one of all) {
    put(exact, one.name, one);
    put(loose, one.name.toLowerCase(), one);
  }
  return (name) => {
    const same = exact.get(name) ?? [];
    if (same.length === 1) return same[0];
    if (same.length > 1) return `There are ${same.length} ${what}s “${name}”: name them apart first.`;
    const like = loose.get(name.toLowerCase()) ?? [];
    if (like.length === 1) return like[0];
    return like.length === 0
      ? null
      : `“${name}” may be ${like.map((l) => `“${l.name}”`).join(" or ")}: write it as it stands there.`;
  };
}

/** The same table, its rows in the order of their days. */
function byDay<V extends { readonly date: string }>(table: CsvTable<V>): CsvTable<V> {
  const rows = [...table.rows].sort((a, b) => (a.value.date < b.value.date ? -1 : a.value.date > b.value.date ? 1 : 0));
  return { ...table, rows };
}

export interface MetersAsked {
  readonly text: string;
  readonly told: Told;
  readonly machines: readonly Named[];
  /** Readings that stand, by machine, in the order of their days. */
  readonly readings: ReadonlyMap<number, readonly MeterReading[]>;
  readonly today: string;
}

/** Each machine’s own and new readings are gone along once, side by side. */
export function checkMeters(asked: MetersAsked): Checked {
  const { readings, today } = asked;
  const seen = new Set([...readings].flatMap(([id, own]) => own.map((r) => `${id} ${r.at} ${r.hours}`)));
  const walked = new Map<number, { next: number; last: MeterReading | null }>();
  return walkRows(byDay(readMeterCsv(asked.text)), asked, (value, machine) => {
    const key = `${machine.id} ${value.date} ${value.hours}`;
    if (seen.has(key)) return "known";
    const own = readings.get(machine.id) ?? [];
    const at = walked.get(machine.id) ?? { next: 0, last: null };
    walked.set(machine.id, at);
    for (; at.next < own.length && own[at.next].at <= value.date; at.next += 1) at.last = own[at.next];
    const reading = { at: value.date, hours: value.hours, reset: value.reset };
    const error = meterError(reading, { before: at.last, after: own.at(at.next) ?? null, today });
    if (error) return error;
    at.last = reading;
    seen.add(key);
    return {
      keep: {
        key: randomUUID(),
        machine_id: machine.id,
        date: value.date,
        hours: value.hours,
        reset: value.reset ? 1 : 0,
      },
    };
  });
}

function meterError(
  reading: MeterReading,
  {
    before,
    after,
    today,
  }: { readonly before: MeterReading | null; readonly after: MeterReading | null; readonly today: string },
): { readonly column: string; readonly message: string } | null {
  if (reading.at > today)
    return {
      column: "date",
      message: `A reading of ${reading.at} is still to come: today is ${today}.`,
    };
  try {
    checkMeter(before, reading);
    if (after && !after.reset) checkMeter(reading, after);
    return null;
  } catch (error) {
    if (!(error instanceof BoundError)) throw error;
    return { column: "hours", message: error.message };
  }
}

export interface PointsAsked {
  readonly text: string;
  readonly told: Told;
  readonly machines: readonly Named[];
  readonly points: readonly {
    readonly id: number;
    readonly machineId: number;
    readonly point: LubricationPoint;
  }[];
}

/** A place that is there as it is written is changed; one that differs in capitals alone is a doubt. */
export function checkPoints(asked: PointsAsked): Checked {
  const { points } = asked;
  const places = new Map(points.map((p) => [`${p.machineId} ${p.point.place}`, p]));
  const alike = new Map(points.map((p) => [`${p.machineId} ${p.point.place.toLowerCase()}`, p.point.place]));
  const lines = new Map<string, number>();
  const failed = (message: string): Verdict => ({ column: "place", message });
  return walkRows(readPointCsv(asked.text), asked, (value, machine, line) => {
    const { place } = value.point;
    const key = `${machine.id} ${place}`;
    const there = places.get(key);
    const like = alike.get(`${machine.id} ${place.toLowerCase()}`);
    const twice = lines.get(key.toLowerCase());
    lines.set(key.toLowerCase(), line);
    if (twice !== undefined) return failed(`“${place}” stands in line ${twice} already.`);
    if (!there && like !== undefined)
      return failed(
        `There is “${like}”, which differs in capitals alone: write it as it stands there, or name this one otherwise.`,
      );
    if (there && asRow(there.point) === asRow(value.point)) return "known";
    const provenance = there?.point.provenance ?? value.point.provenance;
    return {
      keep: {
        machine_id: machine.id,
        // The point that it changes; null for a new one.
        id: there?.id ?? null,
        point: JSON.stringify({ ...value.point, provenance }),
      },
    };
  });
}

const asRow = (point: LubricationPoint): string => writePointCsv([{ machine: "", point }]);

export interface WorkAsked {
  readonly text: string;
  readonly told: Told;
  readonly machines: readonly Named[];
  /** Points that are kept, with what was done at them: moment and finding, | between: one text goes to a thread faster than many. */
  readonly points: readonly (Named & {
    readonly machineId: number;
    readonly dose: number;
    readonly lastAt: string | null;
    readonly done: string;
  })[];
  readonly now: string;
  /** Who did it, where the file does not say. */
  readonly who: string;
}

export function checkWork(asked: WorkAsked): Checked {
  const { points, now, who } = asked;
  const own = new Map<number, WorkAsked["points"][number][]>();
  for (const p of points) own.set(p.machineId, [...(own.get(p.machineId) ?? []), p]);
  const places = new Map([...own].map(([id, list]) => [id, finder("point", list)] as const));
  const done = new Set(
    points.flatMap((p) =>
      p.done.split("|").flatMap((d) => {
        const [at, found] = d.split(" ");
        return at ? [`${p.id} ${dayOf(at)} ${found}`] : [];
      }),
    ),
  );
  const last = new Map(points.map((p) => [p.id, p.lastAt]));
  const today = dayOf(now);
  return walkRows(byDay(readWorkCsv(asked.text)), asked, (value, machine) => {
    const none = `${value.machine} has no point “${value.place}”.`;
    const point = places.get(machine.id)?.(value.place) ?? none;
    if (typeof point === "string") return { column: "place", message: point };
    const key = `${point.id} ${value.date} ${value.found}`;
    if (done.has(key)) return "known";
    if (value.date > today) {
      const message = `${value.date} is still to come: today is ${today}.`;
      return { column: "date", message };
    }
    const before = last.get(point.id) ?? null;
    if (before !== null && value.date < dayOf(before)) {
      const message = `The point was visited since, on ${dayOf(before)}.`;
      return { column: "date", message };
    }
    const noon = value.date === today ? now : noonOf(value.date).toISOString();
    const at = before !== null && before > noon ? before : noon;
    last.set(point.id, at);
    done.add(key);
    return {
      keep: {
        key: randomUUID(),
        point_id: point.id,
        found: value.found,
        dose: value.dose ?? point.dose,
        glitter: value.glitter ? 1 : 0,
        words: value.note,
        checks: value.checks.length ? JSON.stringify(value.checks) : null,
        places: value.places.length ? JSON.stringify(value.places) : null,
        at,
        by: value.by || who,
      },
    };
  });
}
