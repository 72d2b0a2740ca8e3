import { checkTrend, dayOf, parseCheck, type LubricationPoint } from "@iron/core";
import type { CheckAnswered, LubricationPointRecord } from "@iron/contract";
import type { Selectable } from "kysely";
import { fromJson } from "../store/columns";
import type { Tables } from "../store/tables";

const DAY_MS = 86_400_000;
type Visit = Selectable<Tables["lube_visit"]>;

/** What was answered at a visit. */
export const answersIn = (visit: Visit): readonly CheckAnswered[] => (visit.checks ? fromJson(visit.checks) : []);

/** What somebody has to act on, as “brush length 5 mm, worn to the mark”. */
export function actText(point: LubricationPoint, { name, figure }: CheckAnswered): string {
  const check = point.checks.map(parseCheck).find((c) => c.name === name);
  const read = figure === null ? "" : ` ${figure}${check?.unit ? ` ${check.unit}` : ""}`;
  return `${name}${read}${check?.act ? `, ${check.act}` : ""}`;
}

/** Readings that a trend is told from. */
const READINGS = 12;

/** Each check of a point as it was last answered, with its figures. */
export function answeredOf(point: LubricationPoint, visits: readonly Visit[]): LubricationPointRecord["answered"] {
  if (point.checks.length === 0) return [];
  const all = visits.flatMap((visit) => answersIn(visit).map((answer) => ({ ...answer, at: visit.at })));
  return point.checks.map(parseCheck).map((check) => {
    const own = all.filter((a) => a.name === check.name);
    const last = own.at(-1);
    const readings = own.flatMap(({ at, figure }) => (figure === null ? [] : [{ at, figure }])).slice(-READINGS);
    const days = checkTrend(check, readings);
    const from = readings.at(-1)?.at;
    return {
      name: check.name,
      unit: check.unit,
      least: check.least,
      most: check.most,
      wrong: check.act,
      answer: last?.answer ?? null,
      figure: last?.figure ?? null,
      at: last?.at ?? null,
      readings,
      boundOn: days === null || from === undefined ? null : dayOf(Date.parse(from) + days * DAY_MS),
    };
  });
}
