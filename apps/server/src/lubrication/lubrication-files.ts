import {
  writeMeterCsv,
  writePointCsv,
  writeWorkCsv,
  type CsvError,
  type ImportState,
  type LubricationImport,
} from "@iron/contract";
import { dayOf } from "@iron/core";
import { randomUUID } from "node:crypto";
import { sql } from "kysely";
import type { FileAnswer } from "../http/mount";
import { conflict, problem } from "../http/problem-error";
import type { Db } from "../store/database";
import type { Checked, Named, Told } from "../threads/file-check";
import type { WorkPool } from "../threads/pool";
import { instant, type Clock } from "../shop/clock";
import { fromJson } from "../store/columns";
import { rowsOfJson, stagedTable, type ColumnKind } from "../store/in-dialect";
import { answersIn } from "./point-answers";
import type { Lubrication } from "./lubrication";
import type { Meters } from "./meters";

/** Wrong rows that are told one by one; of the others only how many there are. */
const MOST_ERRORS = 500;
/** How often a file is gone through again because others have changed what it hangs on. */
const TRIES = 3;

interface Asked {
  readonly text: string;
  readonly anyway: boolean;
  /** By which whoever sent it asks how far it is, or calls it off. */
  readonly key?: string | undefined;
}

interface Running {
  readonly told: Told;
  readonly off: AbortController;
  phase: ImportState["phase"];
}

/** One kind of file: how it is gone through, away from here, and where what is good in it goes. */
interface Import {
  readonly check: (told: Told, signal: AbortSignal) => Promise<Checked>;
  /** Columns of the rows laid ready. */
  readonly columns: Readonly<Record<string, ColumnKind>>;
  /** Takes what lies ready, all at once. */
  readonly keep: (trx: Db) => Promise<void>;
  /** Rises with whatever the check leaned on. */
  readonly stamp: (db: Db) => Promise<string>;
}

/**
 * Points, meters and completed work in and out as CSV. A file is gone through in a thread of its own and
 * then kept whole, in one transaction, or not at all; wrong rows are named, and the good ones kept beside
 * them only when that is asked. Called off, it leaves nothing.
 */
export class LubricationFiles {
  private readonly running = new Map<string, Running>();
  /** One after the other: two files may hang on each other. */
  private last: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly lubrication: Lubrication;
      readonly meters: Meters;
      readonly clock: Clock;
      readonly pool: WorkPool;
    },
  ) {}

  importMeters(asked: Asked, who: string): Promise<LubricationImport> {
    return this.inTurn(asked, {
      stamp: metersStamp,
      check: async (told, signal) =>
        this.needs.pool.run(
          "checkMeters",
          {
            text: asked.text,
            told,
            machines: await this.machines(),
            readings: new Map(
              [...(await this.needs.meters.readings())].map(([id, own]) => [
                id,
                own.map(({ at, hours, reset }) => ({ at, hours, reset })),
              ]),
            ),
            today: dayOf(this.needs.clock.now()),
          },
          signal,
        ),
      columns: { key: "text", machine_id: "integer", date: "text", hours: "real", reset: "integer" },
      keep: async (trx) => {
        await sql`insert into meter_reading (key, machine_id, date, hours, reset, at, by)
          select key, machine_id, date, hours, reset, ${instant(this.needs.clock)}, ${who} from staged order by n`.execute(
          trx,
        );
      },
    });
  }

  importPoints(asked: Asked): Promise<LubricationImport> {
    return this.inTurn(asked, {
      stamp: pointsStamp,
      check: async (told, signal) =>
        this.needs.pool.run(
          "checkPoints",
          {
            text: asked.text,
            told,
            machines: await this.machines(),
            points: (await this.needs.lubrication.facts()).map((facts) => ({
              id: facts.id,
              machineId: facts.machineId,
              point: facts.point,
            })),
          },
          signal,
        ),
      columns: { machine_id: "integer", id: "integer", point: "text" },
      keep: async (trx) => {
        await sql`insert into lube_point (machine_id, point, since)
          select machine_id, point, ${instant(this.needs.clock)} from staged where id is null order by n`.execute(trx);
        await sql`update lube_point set point = staged.point, retired_at = null, version = version + 1
          from staged where staged.id = lube_point.id`.execute(trx);
      },
    });
  }

  importWork(asked: Asked, who: string): Promise<LubricationImport> {
    return this.inTurn(asked, {
      stamp: pointsStamp,
      check: async (told, signal) =>
        this.needs.pool.run(
          "checkWork",
          {
            text: asked.text,
            told,
            machines: await this.machines(),
            points: (await this.needs.lubrication.facts())
              .filter((facts) => !facts.retired)
              .map((facts) => ({
                id: facts.id,
                name: facts.point.place,
                machineId: facts.machineId,
                dose: facts.point.dose,
                lastAt: facts.visits.at(-1)?.at ?? null,
                done: facts.visits.map((v) => `${v.at} ${v.found ?? ""}`).join("|"),
              })),
            now: instant(this.needs.clock),
            who,
          },
          signal,
        ),
      columns: {
        ...{ key: "text", point_id: "integer", found: "text", dose: "real", glitter: "integer", words: "text" },
        ...{ checks: "text", places: "text", at: "text", by: "text" },
      },
      keep: async (trx) => {
        await sql`insert into lube_visit (key, point_id, found, dose, glitter, friction, words, checks, places, at, by)
          select key, point_id, found, dose, glitter, 0, words, checks, places, at, by from staged order by n`.execute(
          trx,
        );
      },
    });
  }

  /** How far a file is that is being read; who sends one may ask before it is here, and after. */
  state(key: string): ImportState {
    const running = this.running.get(key);
    if (!running) return { phase: "none", rows: 0, of: 0 };
    return { phase: running.phase, rows: running.told[0], of: running.told[1] };
  }

  /** Calls a file off; once it is being kept it is too late. */
  callOff(key: string): ImportState {
    const state = this.state(key);
    if (state.phase === "keeping") throw conflict("It is too late: what is in the file is being kept.");
    this.running.get(key)?.off.abort();
    return state;
  }

  private async inTurn(asked: Asked, file: Import): Promise<LubricationImport> {
    const key = asked.key ?? randomUUID();
    if (this.running.has(key)) throw conflict("This file is being read already.");
    const running: Running = {
      told: new Int32Array(new SharedArrayBuffer(8)),
      off: new AbortController(),
      phase: "waiting",
    };
    this.running.set(key, running);
    const turn = this.last.then(() => this.read(asked, file, running));
    this.last = turn.catch(() => undefined);
    try {
      return await turn;
    } catch (error) {
      if (running.off.signal.aborted)
        throw problem(409, { title: "Called off", detail: "The file was called off. Nothing was kept." });
      throw error;
    } finally {
      this.running.delete(key);
    }
  }

  private async read(asked: Asked, file: Import, running: Running): Promise<LubricationImport> {
    for (let i = 0; i < TRIES; i += 1) {
      running.off.signal.throwIfAborted();
      running.phase = "reading";
      running.told.fill(0);
      const stamp = await file.stamp(this.needs.db);
      const { chunks, good, known, errors } = await file.check(running.told, running.off.signal);
      const said = { known, good, ...told(errors) };
      if (good === 0 || (errors.length > 0 && !asked.anyway)) return { kept: 0, ...said };
      try {
        await this.stage(file.columns, chunks, running.off.signal);
        running.phase = "keeping";
        const kept = await this.needs.db.transaction().execute(async (trx) => {
          if ((await file.stamp(trx)) !== stamp) return false;
          await file.keep(trx);
          return true;
        });
        if (kept) return { kept: good, ...said };
      } finally {
        await sql`drop table if exists staged`.execute(this.needs.db);
      }
    }
    throw conflict("Others have changed what this file hangs on while it was read. Nothing was kept: send it again.");
  }

  /** Lays the rows ready beside the shop’s data, some at a time: what is left to do at the end is short. */
  private async stage(columns: Import["columns"], chunks: readonly string[], signal: AbortSignal): Promise<void> {
    const { db } = this.needs;
    const names = sql.join(Object.keys(columns).map((c) => sql.id(c)));
    await stagedTable(db, columns).execute(db);
    for (const chunk of chunks) {
      signal.throwIfAborted();
      await sql`insert into staged (${names}) select ${names} from ${rowsOfJson(db, chunk, columns)} order by r.n`.execute(
        db,
      );
      await new Promise((others) => setImmediate(others));
    }
    signal.throwIfAborted();
  }

  async exportMeters(): Promise<FileAnswer> {
    const names = await this.names();
    const rows = [...(await this.needs.meters.readings())].flatMap(([id, list]) =>
      list.map((r) => ({
        machine: names.get(id) ?? "",
        date: r.at,
        hours: r.hours,
        reset: r.reset,
      })),
    );
    return {
      fileName: "meters.csv",
      media: "text/csv",
      text: writeMeterCsv(rows),
    };
  }

  async exportPoints(): Promise<FileAnswer> {
    const names = await this.names();
    const rows = (await this.needs.lubrication.facts())
      .filter((facts) => !facts.retired)
      .map((facts) => ({
        machine: names.get(facts.machineId) ?? "",
        point: facts.point,
      }));
    return {
      fileName: "lubrication-points.csv",
      media: "text/csv",
      text: writePointCsv(rows),
    };
  }

  async exportWork(): Promise<FileAnswer> {
    const names = await this.names();
    const points = new Map((await this.needs.lubrication.facts()).map((facts) => [facts.id, facts]));
    const rows = (await this.needs.lubrication.work()).flatMap((v) => {
      const facts = points.get(v.point_id);
      return facts && v.found
        ? [
            {
              machine: names.get(facts.machineId) ?? "",
              place: facts.point.place,
              date: dayOf(v.at),
              found: v.found,
              dose: v.dose,
              glitter: v.glitter === 1,
              note: v.words,
              by: v.by,
              checks: answersIn(v),
              places: v.places ? fromJson(v.places) : [],
            },
          ]
        : [];
    });
    return {
      fileName: "lubrication-work.csv",
      media: "text/csv",
      text: writeWorkCsv(rows),
    };
  }

  private async names(): Promise<ReadonlyMap<number, string>> {
    const rows = await this.needs.db.selectFrom("machine").select(["id", "nickname"]).execute();
    return new Map(rows.map((m) => [m.id, m.nickname]));
  }

  /** Machines in use. */
  private async machines(): Promise<readonly Named[]> {
    return this.needs.db
      .selectFrom("machine")
      .select(["id", "nickname as name"])
      .where("retired_at", "is", null)
      .orderBy("id")
      .execute();
  }
}

/** Stamps only rise: the same sum over as many rows, and nothing has changed. */
async function metersStamp(db: Db): Promise<string> {
  const { rows } = await sql<{ stamp: string }>`select
    count(*) || ' ' || sum(metered + version) || ' ' || count(retired_at) as stamp from machine`.execute(db);
  return rows[0].stamp;
}

async function pointsStamp(db: Db): Promise<string> {
  const { rows } = await sql<{ stamp: string }>`select
    count(*) || ' ' || coalesce(sum(changed), 0) as stamp from lube_point`.execute(db);
  return `${rows[0].stamp} ${await metersStamp(db)}`;
}

function told(errors: readonly CsvError[]): Pick<LubricationImport, "errors" | "errorLines"> {
  const sorted = [...errors].sort((a, b) => a.line - b.line);
  return {
    errors: sorted.slice(0, MOST_ERRORS),
    errorLines: new Set(sorted.map((e) => e.line)).size,
  };
}
