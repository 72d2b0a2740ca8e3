import {
  DOSE_UNITS,
  FACTOR_IDS,
  FOUND_STATES,
  HELD_BY,
  LINK_IDS,
  LUBE_WAYS,
  USUAL_PRIMING,
  type LubricationPoint,
  type PlaceFound,
} from "@iron/core";
import { quoted } from "../measure/readings-csv";
import {
  CellError,
  column,
  day,
  number,
  readTable,
  text,
  word,
  words,
  writeTable,
  yesNo,
  type CsvTable,
} from "../wire/csv-table";
import type { CheckAnswered } from "./lubrication";

export interface MeterRow {
  readonly machine: string;
  readonly date: string;
  readonly hours: number;
  readonly reset: boolean;
}

/** Hour meters: machine (nickname), date, hours, and reset where the meter was replaced or set back. */
export function readMeterCsv(file: string): CsvTable<MeterRow> {
  const { rows, errors } = readTable(file, {
    machine: column("machine", text(60)),
    date: column("date", day),
    hours: column("hours", number(0, 1_000_000)),
    reset: column("reset", yesNo, false),
  });
  return {
    errors,
    rows: rows.map(({ line, value: v }) => ({
      line,
      value: { machine: v.machine ?? "", date: v.date ?? "", hours: v.hours ?? 0, reset: v.reset ?? false },
    })),
  };
}

export function writeMeterCsv(rows: readonly MeterRow[]): string {
  return writeTable(
    ["machine", "date", "hours", "reset"],
    rows.map((r) => [r.machine, r.date, r.hours, r.reset]),
  );
}

export interface PointRow {
  readonly machine: string;
  readonly point: LubricationPoint;
}

const days = number(1, 3650);

/** What stands in one cell, | between. */
const list = (cell: string | undefined): string[] =>
  (cell ?? "")
    .split("|")
    .map((c) => c.trim())
    .filter(Boolean);

/** Points: one row each; several checks or factors stand in one cell, | between. */
export function readPointCsv(file: string): CsvTable<PointRow> {
  const { rows, errors } = readTable(file, {
    machine: column("machine", text(60)),
    place: column("place", text(120)),
    axis: column("axis", text(4), false),
    link: column("link", word(LINK_IDS), false),
    way: column("way", word(LUBE_WAYS)),
    lubricant: column("lubricant", text(80)),
    dose: column("dose", number(0, 500)),
    unit: column("unit", word(DOSE_UNITS)),
    minutes: column("minutes", number(0.5, 240)),
    access: column("access", text(300), false),
    machineOff: column("machine_off", yesNo, false),
    heldBy: column("held_by", word(HELD_BY), false),
    partsNut: column("parts_nut", yesNo, false),
    qualified: column("qualified", yesNo, false),
    checks: column("checks", text(1000), false),
    outlets: column("outlets", text(1000), false),
    priming: column("priming", number(1, 100), false),
    days: column("days", days, false),
    hours: column("hours", number(1, 100_000), false),
    km: column("km", number(0.1, 1_000_000), false),
    least: column("least_days", days),
    most: column("most_days", days),
    factors: column("factors", words(FACTOR_IDS), false),
    weight: column("weight", word(["1", "2", "3"]), false),
  });
  const all = [...errors];
  const good = rows.flatMap(({ line, value: v }) => {
    const [least, most] = [v.least ?? 1, v.most ?? 1];
    if (least > most) {
      all.push({ line, column: "least_days", message: `${least} is more than most_days, ${most}.` });
      return [];
    }
    const point: LubricationPoint = {
      place: v.place ?? "",
      letter: v.axis ?? null,
      link: v.link ?? null,
      way: v.way ?? "nipple",
      lubricant: v.lubricant ?? "",
      dose: v.dose ?? 0,
      doseUnit: v.unit ?? "strokes",
      minutes: v.minutes ?? 5,
      access: v.access ?? "",
      machineOff: v.machineOff ?? true,
      heldBy: v.heldBy ?? null,
      partsNut: v.partsNut ?? false,
      qualified: v.qualified ?? false,
      checks: list(v.checks),
      outlets: list(v.outlets),
      priming: v.priming ?? USUAL_PRIMING,
      rule: { days: v.days ?? null, hours: v.hours ?? null, km: v.km ?? null, leastDays: least, mostDays: most },
      factors: v.factors ?? [],
      weight: v.weight === "1" ? 1 : v.weight === "3" ? 3 : 2,
      provenance: "from a file",
    };
    return [{ line, value: { machine: v.machine ?? "", point } }];
  });
  return { rows: good, errors: all };
}

export function writePointCsv(rows: readonly PointRow[]): string {
  return writeTable(
    [
      "machine",
      "place",
      "axis",
      "link",
      "way",
      "lubricant",
      "dose",
      "unit",
      "minutes",
      "access",
      "machine_off",
      "held_by",
      "parts_nut",
      "qualified",
      "checks",
      "outlets",
      "priming",
      "days",
      "hours",
      "km",
      "least_days",
      "most_days",
      "factors",
      "weight",
    ],
    rows.map(({ machine, point: p }) => [
      machine,
      p.place,
      p.letter,
      p.link,
      p.way,
      p.lubricant,
      p.dose,
      p.doseUnit,
      p.minutes,
      p.access,
      p.machineOff,
      p.heldBy ?? null,
      p.partsNut,
      p.qualified ?? false,
      p.checks.join("|"),
      (p.outlets ?? []).join("|"),
      p.priming ?? USUAL_PRIMING,
      p.rule.days,
      p.rule.hours,
      p.rule.km,
      p.rule.leastDays,
      p.rule.mostDays,
      p.factors.join("|"),
      p.weight,
    ]),
  );
}

export interface WorkRow {
  readonly machine: string;
  readonly place: string;
  readonly date: string;
  readonly found: (typeof FOUND_STATES)[number];
  readonly dose: number | null;
  readonly glitter: boolean;
  readonly note: string;
  readonly by: string;
  /** What was looked at on the way, as it was answered. */
  readonly checks: readonly CheckAnswered[];
  /** Places that share the dose, where they were told apart. */
  readonly places: readonly PlaceFound[];
}

const ANSWERED = /^(.{1,119})=(fine|watch|act)(?: (-?\d{1,7}(?:[.,]\d{1,4})?))?$/;

/** Checks in one cell, | between: “brush length=act 4.5|commutator=fine”. */
function checksIn(cell: string): CheckAnswered[] {
  return list(cell).map((one) => {
    const [, name, answer, figure] = ANSWERED.exec(one) ?? [];
    if (!name)
      throw new CellError(`${quoted(one)} is no check: write “brush length=act 4.5”, with fine, watch or act.`);
    return {
      name: name.trim(),
      answer: answer as CheckAnswered["answer"],
      figure: figure === undefined ? null : Number(figure.replace(",", ".")),
    };
  });
}

const checksText = (checks: readonly CheckAnswered[]): string =>
  checks.map((c) => `${c.name}=${c.answer}${c.figure === null ? "" : ` ${c.figure}`}`).join("|");

const PLACE = /^(.{1,60})=(dry|right|flooded|dirty|blocked) (\d{1,3}(?:[.,]\d{1,4})?)$/;

/** Places in one cell, | between, each with what it was given: “carriage 1=right 1|carriage 2=dry 2”. */
function placesIn(cell: string): PlaceFound[] {
  return list(cell).map((one) => {
    const [, name, found, given] = PLACE.exec(one) ?? [];
    if (!name)
      throw new CellError(`${quoted(one)} is no place: write “carriage 2=dry 1.5”, with ${FOUND_STATES.join(", ")}.`);
    const dose = Number(given.replace(",", "."));
    if (dose > 500) throw new CellError(`${quoted(one)}: a dose is from 0 to 500.`);
    return { name: name.trim(), found: found as PlaceFound["found"], dose };
  });
}

const placesText = (places: readonly PlaceFound[]): string =>
  places.map((p) => `${p.name}=${p.found} ${Number(p.dose.toFixed(4))}`).join("|");

/** Completed work: machine and place name the point. */
export function readWorkCsv(file: string): CsvTable<WorkRow> {
  const { rows, errors } = readTable(file, {
    machine: column("machine", text(60)),
    place: column("place", text(120)),
    date: column("date", day),
    found: column("found", word(FOUND_STATES)),
    dose: column("dose", number(0, 500), false),
    glitter: column("glitter", yesNo, false),
    note: column("note", text(500), false),
    by: column("by", text(40), false),
    checks: column("checks", checksIn, false),
    places: column("places", placesIn, false),
  });
  return {
    errors,
    rows: rows.map(({ line, value: v }) => ({
      line,
      value: {
        machine: v.machine ?? "",
        place: v.place ?? "",
        date: v.date ?? "",
        found: v.found ?? "right",
        dose: v.dose ?? null,
        glitter: v.glitter ?? false,
        note: v.note ?? "",
        by: v.by ?? "",
        checks: v.checks ?? [],
        places: v.places ?? [],
      },
    })),
  };
}

export function writeWorkCsv(rows: readonly WorkRow[]): string {
  return writeTable(
    ["machine", "place", "date", "found", "dose", "glitter", "note", "by", "checks", "places"],
    rows.map((r) => [
      r.machine,
      r.place,
      r.date,
      r.found,
      r.dose,
      r.glitter,
      r.note,
      r.by,
      checksText(r.checks),
      placesText(r.places),
    ]),
  );
}
