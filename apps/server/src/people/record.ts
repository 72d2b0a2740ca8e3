import {
  PAGE_HEADER,
  RECORD_PAGE,
  type OperationName,
  type RecordLine,
  type RecordQuery,
  OPERATIONS,
} from "@iron/contract";
import type { Request } from "express";
import { sql } from "kysely";
import Papa from "papaparse";
import { instant, type Clock } from "../shop/clock";
import type { Db } from "../store/database";
import { like } from "../store/in-dialect";
import { addressOf } from "./doorway";

/** What is sent is kept so far: enough to know it again, not a second store of readings. */
const LONGEST_DETAIL = 600;
const LONGEST_TEXT = 120;

/** A change as it is noted. */
export interface Changed {
  readonly operation: OperationName;
  readonly request: Request;
  readonly who: string;
  readonly body: unknown;
}

/** Who changed what, when, and from where: append-only, beside what happened at the door. */
export class ChangeRecord {
  constructor(
    private readonly db: Db,
    private readonly clock: Clock,
    private readonly news: { tell(changed: { readonly path: string; readonly page: string }): void },
  ) {}

  /** Notes what has been done, before it is answered as done. */
  async note({ operation, request, who, body }: Changed): Promise<void> {
    await this.noteAs(OPERATIONS[operation].summary.split(/[;:]/)[0], { request, who, body });
  }

  /** Notes what is no operation of JSON: a photo. */
  async noteAs(
    what: string,
    { request, who, body }: { readonly request: Request; readonly who: string; readonly body: unknown },
  ): Promise<void> {
    await this.db
      .insertInto("change_event")
      .values({
        ...{ at: instant(this.clock), by: who, address: addressOf(request), what },
        ...{ subject: await this.subjectOf(request.path), detail: `${carriedBy(request)}${detailOf(body)}` },
      })
      .execute();
    this.news.tell({ path: request.path, page: (request.get(PAGE_HEADER) ?? "").slice(0, 40) });
  }

  /** A page of lines, the newest first. */
  async page(query: RecordQuery): Promise<{ lines: RecordLine[]; more: boolean }> {
    const lines = await this.lines(query, RECORD_PAGE + 1);
    return { lines: lines.slice(0, RECORD_PAGE), more: lines.length > RECORD_PAGE };
  }

  /** All lines, as a table. */
  async *csv(query: RecordQuery): AsyncGenerator<string> {
    yield "at,by,from,what,of,detail\r\n";
    for (let before = query.before; ;) {
      const { lines, more } = await this.page({ ...query, ...(before === undefined ? {} : { before }) });
      if (lines.length)
        yield `${Papa.unparse(
          lines.map((l) => [l.at, l.by, l.address, l.what, l.subject, l.detail]),
          { escapeFormulae: true },
        )}\r\n`;
      const last = lines.at(-1);
      if (!more || !last) return;
      before = placeOf(last);
    }
  }

  private lines({ words, by, from, till, before }: RecordQuery, most: number): Promise<RecordLine[]> {
    let rows = this.db.selectFrom("record_line").selectAll();
    for (const word of (words ?? "").split(/\s+/).filter(Boolean)) {
      const wanted = `%${word.replace(/[\\%_]/g, "\\$&")}%`;
      rows = rows.where(
        sql<boolean>`(what || ' ' || subject || ' ' || detail || ' ' || address || ' ' || "by") ${like(this.db)} ${wanted} escape '\\'`,
      );
    }
    if (by) rows = rows.where("by", "=", by);
    if (from) rows = rows.where("at", ">=", from);
    if (till) rows = rows.where("at", "<", till);
    if (before !== undefined) {
      const [at, kind, id] = before.split("|") as [string, RecordLine["kind"], string];
      rows = rows.where((e) =>
        e.or([
          e("at", "<", at),
          e.and([e("at", "=", at), e("kind", "<", kind)]),
          e.and([e("at", "=", at), e("kind", "=", kind), e("id", "<", Number(id))]),
        ]),
      );
    }
    return rows.orderBy("at", "desc").orderBy("kind", "desc").orderBy("id", "desc").limit(most).execute();
  }

  /** What an address is of, as the shop calls it. */
  private async subjectOf(path: string): Promise<string> {
    const [, of, id] = /^\/api\/([a-z-]+)\/(\d+)/.exec(path) ?? [];
    if (of === undefined) return "";
    const machines = this.db.selectFrom("machine").select("nickname");
    if (of === "machines") return (await machines.where("id", "=", Number(id)).executeTakeFirst())?.nickname ?? "";
    if (of === "axes") {
      const axis = await this.db
        .selectFrom("axis")
        .innerJoin("machine", "machine.id", "axis.machine_id")
        .select(["machine.nickname", sql<string>`json_extract(axis.config, '$.letter')`.as("letter")])
        .where("axis.id", "=", Number(id))
        .executeTakeFirst();
      return axis ? `${axis.nickname} ${axis.letter}` : "";
    }
    return `${NAMES[of] ?? of.replaceAll("-", " ").replace(/s$/, "")} ${id}`;
  }
}

/** How the addresses’ words are called on the pages. */
const NAMES: Readonly<Record<string, string>> = {
  runs: "test",
  series: "row of readings",
  sounds: "recording",
  "circle-planes": "circle",
  "lube-points": "lubrication point",
};

export const placeOf = (line: RecordLine): string => `${line.at}|${line.kind}|${line.id}`;

/** What was sent, shortened; long texts by their beginning. */
function detailOf(body: unknown): string {
  if (body === undefined || body === null) return "";
  const text = JSON.stringify(body, (key, value: unknown) => {
    if (key === "secret" || key === "wanted" || key === "code") return undefined;
    if (typeof value === "string" && value.length > LONGEST_TEXT) return `${value.slice(0, LONGEST_TEXT)}…`;
    return Array.isArray(value) && value.length > 12 ? [...value.slice(0, 12), `${value.length} in all`] : value;
  });
  if (text === "{}") return "";
  return text.length > LONGEST_DETAIL ? `${text.slice(0, LONGEST_DETAIL)}…` : text;
}

/** What waited says when it was made, and who brought it. */
function carriedBy({ sealed }: Request): string {
  if (!sealed) return "";
  const brought = sealed.carrier.name === sealed.person.name ? "" : `, brought by ${sealed.carrier.name}`;
  return `made ${sealed.at}, sealed${brought} `;
}
