import { finding, UNKNOWN_CONTEXT, type FindingId } from "@iron/core";
import {
  NOTHING_TOLD,
  caseCloseSchema,
  caseUpdateSchema,
  resultCreateSchema,
  type Answers,
  type Case,
  type CaseResult,
  type CaseSummary,
  type ToldByAxis,
} from "@iron/contract";
import { sql, type Selectable } from "kysely";
import type * as z from "zod";
import { conflict, notFound, problem } from "../http/problem-error";
import type { Db } from "../store/database";
import { fromJson, toJson } from "../store/columns";
import type { Tables } from "../store/tables";
import { instant, type Clock } from "../shop/clock";
import type { Machines } from "../machine/machines";

const CHANGED = "Somebody changed this case while you did.";

/** Cases: symptoms, results and photos. Results are kept as they come; taking back is a mark. */
export class Cases {
  constructor(
    private readonly db: Db,
    private readonly machines: Machines,
    private readonly clock: Clock,
  ) {}

  async list(axisId?: number): Promise<CaseSummary[]> {
    const rows = await this.db
      .selectFrom("case_file")
      .innerJoin("machine", "machine.id", "case_file.machine_id")
      .select([
        "case_file.id",
        "machine_id",
        "nickname",
        "bay",
        "axis_ids",
        "state",
        "opened_at",
        "by",
        "told",
        "found",
      ])
      .orderBy("case_file.id", "desc")
      .execute();
    const letters = await this.letters();
    return rows
      .map((r): CaseSummary => {
        const axisIds = fromJson(r.axis_ids);
        const found = r.found ? fromJson(r.found) : null;
        return {
          id: r.id,
          machineId: r.machine_id,
          nickname: r.nickname,
          bay: r.bay,
          axisIds,
          letters: axisIds.map((id) => letters.get(id) ?? "?").join(", "),
          state: r.state,
          openedAt: r.opened_at,
          by: r.by,
          says: toldText(fromJson(r.told), letters),
          found: found ? (found.length ? found.join(", ") : "nothing wrong") : "",
        };
      })
      .filter((c) => axisId === undefined || c.axisIds.includes(axisId));
  }

  private async letters(): Promise<ReadonlyMap<number, string>> {
    const rows = await this.db
      .selectFrom("axis")
      .select(["id", sql<string>`json_extract(config, '$.letter')`.as("letter")])
      .execute();
    return new Map(rows.map((r) => [r.id, r.letter]));
  }

  async open(
    machineId: number,
    { axisIds, answers }: { readonly axisIds: readonly number[]; readonly answers: Answers },
    who: string,
  ): Promise<Case> {
    const machine = await this.machines.withAxes(machineId);
    refuseForeign(machine, axisIds);
    const row = {
      machine_id: machineId,
      axis_ids: toJson([...new Set(axisIds)]),
      state: "open" as const,
      opened_at: instant(this.clock),
      by: who,
      version: 1,
      context: toJson(UNKNOWN_CONTEXT),
      told: toJson<ToldByAxis>({ [axisIds[0]]: { ...NOTHING_TOLD, answers } }),
      notes: "",
      closed_at: null,
      closed_by: null,
      found: null,
      closing_words: null,
      expected: null,
    };
    const { id } = await this.db.insertInto("case_file").values(row).returning("id").executeTakeFirstOrThrow();
    return this.get(id);
  }

  async get(id: number, db: Db = this.db): Promise<Case> {
    const row = await db.selectFrom("case_file").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("case", id);
    const withdrawn = await this.withdrawn(db);
    const results = await db.selectFrom("case_result").selectAll().where("case_id", "=", id).orderBy("id").execute();
    const photos = await db
      .selectFrom("case_photo")
      .select(["id", "caption", "finding", "media", "at", "by", sql<number>`length(bytes)`.as("size")])
      .where("case_id", "=", id)
      .orderBy("id")
      .execute();
    return {
      ...caseOf(row),
      results: results.map((r): CaseResult => ({
        id: r.id,
        axisId: r.axis_id,
        test: r.test,
        answers: fromJson(r.answers),
        note: r.note,
        data: r.data ? fromJson(r.data) : null,
        at: r.at,
        by: r.by,
        withdrawn: withdrawn.has(`result ${r.id}`),
      })),
      photos: photos.filter((p) => !withdrawn.has(`photo ${p.id}`)).map(({ size, ...p }) => ({ ...p, bytes: size })),
    };
  }

  async update(id: number, edit: z.output<typeof caseUpdateSchema>): Promise<Case> {
    const there = await this.get(id);
    const axisIds = [...new Set(edit.axisIds ?? there.axisIds)];
    if (edit.axisIds) refuseForeign(await this.machines.withAxes(there.machineId), axisIds);
    for (const { axisId, withdrawn } of there.results)
      if (!withdrawn && !axisIds.includes(axisId))
        throw problem(422, { title: "Not valid", detail: "An axis that was tested in this case stays in it." });
    for (const axisId of Object.keys(edit.told))
      if (!axisIds.includes(Number(axisId)))
        throw problem(422, { title: "Not valid", detail: `Axis ${axisId} is none of this case.` });
    return this.changing(id, edit.version, {
      axis_ids: toJson(axisIds),
      context: toJson(edit.context),
      told: toJson(edit.told),
      notes: edit.notes,
    });
  }

  /** Takes the opening of a case back, as long as it holds nothing that was found or photographed. */
  async drop(id: number): Promise<{ dropped: true }> {
    return this.db.transaction().execute(async (trx) => {
      const there = await this.get(id, trx);
      const photo = await trx.selectFrom("case_photo").select("id").where("case_id", "=", id).executeTakeFirst();
      const job = await trx.selectFrom("job").select("id").where("case_id", "=", id).executeTakeFirst();
      if (there.state === "closed" || there.results.length > 0 || photo || job)
        throw conflict("This case holds more than answers: close it with what it was.", there);
      await trx.deleteFrom("case_file").where("id", "=", id).execute();
      return { dropped: true as const };
    });
  }

  async close(
    id: number,
    edit: z.output<typeof caseCloseSchema>,
    { expected, who }: { readonly expected: Readonly<Record<string, number>>; readonly who: string },
  ): Promise<Case> {
    return this.changing(id, edit.version, {
      state: "closed",
      closed_at: instant(this.clock),
      closed_by: who,
      found: toJson(edit.found),
      closing_words: edit.words,
      expected: toJson(expected),
    });
  }

  async reopen(id: number): Promise<Case> {
    await this.get(id);
    await this.db
      .updateTable("case_file")
      .set({
        state: "open",
        closed_at: null,
        closed_by: null,
        found: null,
        closing_words: null,
        expected: null,
        version: sql`version + 1`,
      })
      .where("id", "=", id)
      .execute();
    return this.get(id);
  }

  async addResult(caseId: number, result: z.output<typeof resultCreateSchema>, who: string): Promise<Case> {
    return this.db.transaction().execute(async (trx) => {
      const there = await this.get(caseId, trx);
      if (there.state === "closed") throw conflict("This case is closed. Take it up again first.");
      if (!there.axisIds.includes(result.axisId))
        throw problem(422, { title: "Not valid", detail: `This case is not on axis ${result.axisId}.` });
      const { axisId, answers, data, test, note } = result;
      if (data?.kind === "series") await requireHandTest(trx, data.seriesId, axisId);
      await trx
        .insertInto("case_result")
        .values({
          case_id: caseId,
          axis_id: axisId,
          test,
          note,
          answers: toJson(answers),
          data: data ? toJson(data) : null,
          at: instant(this.clock),
          by: who,
        })
        .execute();
      return this.get(caseId, trx);
    });
  }

  async mark(
    kind: "result" | "photo",
    id: number,
    { withdrawn, who }: { readonly withdrawn: boolean; readonly who: string },
  ): Promise<Case> {
    const row = await this.db
      .selectFrom(kind === "result" ? "case_result" : "case_photo")
      .select("case_id")
      .where("id", "=", id)
      .executeTakeFirst();
    if (!row) throw notFound(kind, id);
    const there = await this.get(row.case_id);
    if (there.state === "closed") throw conflict("This case is closed. Take it up again first.", there);
    await this.db
      .insertInto("case_mark")
      .values({ kind, of_id: id, withdrawn: withdrawn ? 1 : 0, at: instant(this.clock), by: who })
      .execute();
    return this.get(row.case_id);
  }

  async addPhoto(
    caseId: number,
    photo: { media: "image/jpeg" | "image/png"; bytes: Buffer; caption: string; finding: FindingId | null },
    who: string,
  ): Promise<Case> {
    const there = await this.get(caseId);
    if (there.state === "closed") throw conflict("This case is closed. Take it up again first.", there);
    await this.db
      .insertInto("case_photo")
      .values({ case_id: caseId, ...photo, at: instant(this.clock), by: who })
      .execute();
    return this.get(caseId);
  }

  async photo(id: number): Promise<{ media: string; bytes: Buffer }> {
    const row = await this.db
      .selectFrom("case_photo")
      .select(["media", "bytes"])
      .where("id", "=", id)
      .executeTakeFirst();
    if (!row) throw notFound("photo", id);
    return row;
  }

  private async withdrawn(db: Db): Promise<ReadonlySet<string>> {
    const marks = await db.selectFrom("case_mark").select(["kind", "of_id", "withdrawn"]).orderBy("id").execute();
    const last = new Map(marks.map((m) => [`${m.kind} ${m.of_id}`, m.withdrawn]));
    return new Set([...last].filter(([, w]) => w === 1).map(([key]) => key));
  }

  private async changing(id: number, version: number, set: Partial<Selectable<Tables["case_file"]>>): Promise<Case> {
    return this.db.transaction().execute(async (trx) => {
      const there = await this.get(id, trx);
      if (there.version !== version) throw conflict(CHANGED, there);
      if (there.state === "closed") throw conflict("This case is closed. Take it up again first.", there);
      await trx
        .updateTable("case_file")
        .set({ ...set, version: version + 1 })
        .where("id", "=", id)
        .execute();
      return this.get(id, trx);
    });
  }
}

function caseOf(row: Selectable<Tables["case_file"]>): Omit<Case, "results" | "photos"> {
  return {
    id: row.id,
    machineId: row.machine_id,
    axisIds: fromJson(row.axis_ids),
    state: row.state,
    openedAt: row.opened_at,
    by: row.by,
    version: row.version,
    context: { ...UNKNOWN_CONTEXT, ...fromJson(row.context) },
    told: fromJson(row.told),
    notes: row.notes,
    closed: row.closed_at
      ? {
          at: row.closed_at,
          by: row.closed_by ?? "",
          found: row.found ? fromJson(row.found) : [],
          words: row.closing_words ?? "",
        }
      : null,
  };
}

/** What was noticed, in words; of several axes each by its letter. */
function toldText(told: ToldByAxis, letters: ReadonlyMap<number, string>): string {
  const each = Object.entries(told).flatMap(([axisId, { answers }]) => {
    const present = Object.entries(answers)
      .filter(([, value]) => value === true)
      .map(([id]) => finding(id as FindingId).text);
    return present.length ? [{ letter: letters.get(Number(axisId)) ?? "?", text: present.join("; ") }] : [];
  });
  if (each.length === 0) return "nothing noted yet";
  return each.length === 1 ? each[0].text : each.map((e) => `${e.letter}: ${e.text}`).join(". ");
}

/** A case is of axes of one machine. */
function refuseForeign(
  machine: { readonly nickname: string; readonly axes: readonly { readonly id: number }[] },
  axisIds: readonly number[],
): void {
  for (const id of axisIds)
    if (!machine.axes.some((a) => a.id === id))
      throw problem(422, { title: "Not valid", detail: `${machine.nickname} has no axis ${id}.` });
}

/** The readings behind a result must be there and of its axis. */
async function requireHandTest(trx: Db, id: number, axisId: number): Promise<void> {
  const row = await trx.selectFrom("series").select("axis_id").where("id", "=", id).executeTakeFirst();
  if (!row) throw notFound("series of readings", id);
  if (row.axis_id !== axisId)
    throw problem(422, { title: "Not valid", detail: `Series ${id} was read on another axis than ${axisId}.` });
}
