import { readMeterCsv, readPointCsv, readWorkCsv, writeMeterCsv, writePointCsv, writeWorkCsv, type CsvError, type KeepImport } from "@iron/contract"; // prettier-ignore
import { dayOf, BoundError } from "@iron/core";
import { createHash } from "node:crypto";
import { ProblemError } from "../http/problem-error";
import type { FileAnswer } from "../http/mount";
import type { Db } from "../store/database";
import { fromJson, toJson } from "../store/tables";
import { instant, type Clock } from "./clock";
import type { Lubrication } from "./lubrication";
import type { Meters } from "./meters";

interface Asked {
  readonly text: string;
  readonly anyway: boolean;
}

/** A key that the same row always has: a file read twice keeps nothing twice. */
function keyOf(...parts: readonly (string | number)[]): string {
  const hex = createHash("sha256").update(parts.join("\u0000")).digest("hex");
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-5${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`; // prettier-ignore
}

const sayOf = (error: unknown): string => {
  if (error instanceof BoundError) return error.message;
  if (error instanceof ProblemError) return error.problem.detail;
  throw error;
};

/** Points, meters and completed work in and out as CSV. Wrong rows are named; nothing is kept unless asked. */
export class KeepFiles {
  constructor(
    private readonly db: Db,
    private readonly lube: Lubrication,
    private readonly meters: Meters,
    private readonly clock: Clock,
  ) {}

  async importMeters({ text, anyway }: Asked, who: string): Promise<KeepImport> {
    const { rows, errors } = readMeterCsv(text);
    const all: CsvError[] = [...errors];
    const machines = await this.machines();
    const there = new Map([...(await this.meters.readings())].map(([id, list]) => [id, [...list]] as const)); // prettier-ignore
    const good: { machineId: number; date: string; hours: number; reset: boolean }[] = []; // prettier-ignore
    let known = 0;
    for (const { line, value } of [...rows].sort((a, b) => a.value.date.localeCompare(b.value.date))) {
      const machineId = machines.get(value.machine.toLowerCase());
      if (machineId === undefined) {
        all.push({ line, column: "machine", message: `There is no machine “${value.machine}”.` });
        continue;
      }
      const own = there.get(machineId) ?? [];
      if (own.some((r) => r.at === value.date && r.hours === value.hours)) {
        known += 1;
        continue;
      }
      try {
        this.meters.refuse(own, value);
      } catch (error) {
        all.push({ line, column: "hours", message: sayOf(error) });
        continue;
      }
      good.push({ machineId, ...value });
      there.set(machineId, [...own, { id: 0, machineId, at: value.date, hours: value.hours, reset: value.reset, by: who }].sort((a, b) => a.at.localeCompare(b.at)));
    }
    let kept = 0;
    if (all.length === 0 || anyway)
      for (const g of good)
        if (await this.meters.insert(g.machineId, { key: keyOf("meter", g.machineId, g.date, g.hours), date: g.date, hours: g.hours, reset: g.reset }, who)) kept += 1;
    return { kept, known, good: good.length, errors: inOrder(all) };
  } // prettier-ignore

  async importPoints({ text, anyway }: Asked): Promise<KeepImport> {
    const { rows, errors } = readPointCsv(text);
    const all: CsvError[] = [...errors];
    const machines = await this.machines();
    const there = new Map((await this.lube.all()).map((p) => [`${p.machineId} ${p.place}`, p.id])); // prettier-ignore
    const good = rows.flatMap(({ line, value }) => {
      const machineId = machines.get(value.machine.toLowerCase());
      if (machineId !== undefined) return [{ machineId, point: value.point }];
      all.push({ line, column: "machine", message: `There is no machine “${value.machine}”.` }); // prettier-ignore
      return [];
    });
    let kept = 0;
    let known = 0;
    if (all.length === 0 || anyway)
      await this.db.transaction().execute(async (trx) => {
        for (const { machineId, point } of good) {
          const id = there.get(`${machineId} ${point.place}`);
          if (id === undefined) {
            const row = await trx.insertInto("lube_point").values({ machine_id: machineId, point: toJson(point), since: instant(this.clock) }).returning("id").executeTakeFirstOrThrow(); // prettier-ignore
            there.set(`${machineId} ${point.place}`, row.id);
            kept += 1;
            continue;
          }
          const old = await trx.selectFrom("lube_point").select("point").where("id", "=", id).executeTakeFirstOrThrow(); // prettier-ignore
          const next = toJson({ ...point, provenance: fromJson(old.point).provenance }); // prettier-ignore
          const was = fromJson(old.point);
          if (
            writePointCsv([{ machine: "", point: was }]) ===
            writePointCsv([{ machine: "", point }])
          ) {
            // prettier-ignore
            known += 1;
            continue;
          }
          await trx.updateTable("lube_point").set((eb) => ({ point: next, retired_at: null, version: eb("version", "+", 1) })).where("id", "=", id).execute(); // prettier-ignore
          kept += 1;
        }
      });
    return { kept, known, good: good.length, errors: inOrder(all) };
  }

  async importWork({ text, anyway }: Asked, who: string): Promise<KeepImport> {
    const { rows, errors } = readWorkCsv(text);
    const all: CsvError[] = [...errors];
    const machines = await this.machines();
    const points = new Map((await this.lube.all()).filter((p) => !p.retired).map((p) => [`${p.machineId} ${p.place.toLowerCase()}`, p])); // prettier-ignore
    const keys = new Set((await this.db.selectFrom("lube_visit").select("key").execute()).map((r) => r.key)); // prettier-ignore
    const done = new Set((await this.lube.work()).map((v) => `${v.point_id} ${dayOf(v.at)} ${v.found ?? ""}`)); // prettier-ignore
    const good: { line: number; id: number; key: string; value: (typeof rows)[number]["value"]; dose: number }[] = []; // prettier-ignore
    let known = 0;
    for (const { line, value } of [...rows].sort((a, b) =>
      a.value.date.localeCompare(b.value.date),
    )) {
      // prettier-ignore
      const machineId = machines.get(value.machine.toLowerCase());
      const point = points.get(
        `${machineId ?? 0} ${value.place.toLowerCase()}`,
      );
      if (machineId === undefined || !point) {
        all.push({ line, column: machineId === undefined ? "machine" : "place", message: machineId === undefined ? `There is no machine “${value.machine}”.` : `${value.machine} has no point “${value.place}”.` }); // prettier-ignore
        continue;
      }
      const key = keyOf("work", point.id, value.date, value.found);
      if (
        keys.has(key) ||
        done.has(`${point.id} ${value.date} ${value.found}`)
      ) {
        known += 1;
        continue;
      }
      if (value.date > dayOf(this.clock.now())) {
        all.push({ line, column: "date", message: `${value.date} is still to come.` }); // prettier-ignore
        continue;
      }
      if (point.lastAt !== null && value.date < dayOf(point.lastAt)) {
        all.push({ line, column: "date", message: `The point was visited since, on ${dayOf(point.lastAt)}.` }); // prettier-ignore
        continue;
      }
      good.push({ line, id: point.id, key, value, dose: value.dose ?? point.dose }); // prettier-ignore
    }
    let kept = 0;
    if (all.length === 0 || anyway)
      for (const g of good) {
        await this.lube.visit(g.id, { key: g.key, found: g.value.found, dose: g.dose, glitter: g.value.glitter, friction: false, outlets: [], words: g.value.note, date: g.value.date, again: true }, g.value.by || who); // prettier-ignore
        kept += 1;
      }
    return { kept, known, good: good.length, errors: inOrder(all) };
  }

  async exportMeters(): Promise<FileAnswer> {
    const names = await this.names();
    const rows = [...(await this.meters.readings())].flatMap(
      ([id, list]) =>
      list.map((r) => ({ machine: names.get(id) ?? "", date: r.at, hours: r.hours, reset: r.reset })), // prettier-ignore
    );
    return { fileName: "meters.csv", media: "text/csv", text: writeMeterCsv(rows) }; // prettier-ignore
  }

  async exportPoints(): Promise<FileAnswer> {
    const names = await this.names();
    const rows = (await this.lube.all())
      .filter((p) => !p.retired)
      .map((p) => ({ machine: names.get(p.machineId) ?? "", point: p }));
    return { fileName: "lubrication-points.csv", media: "text/csv", text: writePointCsv(rows) }; // prettier-ignore
  }

  async exportWork(): Promise<FileAnswer> {
    const names = await this.names();
    const points = new Map((await this.lube.all()).map((p) => [p.id, p]));
    const rows = (await this.lube.work()).flatMap((v) => {
      const point = points.get(v.point_id);
      return point && v.found
        ? [{ machine: names.get(point.machineId) ?? "", place: point.place, date: dayOf(v.at), found: v.found, dose: v.dose, glitter: v.glitter === 1, note: v.words, by: v.by }] // prettier-ignore
        : [];
    });
    return { fileName: "lubrication-work.csv", media: "text/csv", text: writeWorkCsv(rows) }; // prettier-ignore
  }

  private async names(): Promise<ReadonlyMap<number, string>> {
    const rows = await this.db.selectFrom("machine").select(["id", "nickname"]).execute(); // prettier-ignore
    return new Map(rows.map((m) => [m.id, m.nickname]));
  }

  /** Machines in use by nickname, whatever its case. */
  private async machines(): Promise<ReadonlyMap<string, number>> {
    const rows = await this.db.selectFrom("machine").select(["id", "nickname"]).where("retired_at", "is", null).execute(); // prettier-ignore
    return new Map(rows.map((m) => [m.nickname.toLowerCase(), m.id]));
  }
}

function inOrder(errors: readonly CsvError[]): CsvError[] {
  return [...errors].sort((a, b) => a.line - b.line).slice(0, 500);
}
