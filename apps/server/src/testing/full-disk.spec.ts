import { sql } from "kysely";
import type { Db } from "../store/database";
import { newAxis, startRun, testApp, type TestApp } from "./test-app";

describe("a disk that is full", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp();
  });
  afterEach(() => t.close());

  /** No page more than there are now: a full disk without one. */
  const fill = (pages: number): Promise<unknown> =>
    t.db.executeQuery({
      sql: `pragma max_page_count = ${pages}`,
      parameters: [],
      query: { kind: "RawNode", sqlFragments: [], parameters: [] },
      queryId: { queryId: "fill" },
    } as never);

  it("what is sent is refused with cause and remedy, reads go on, and with room again it is kept", async () => {
    const axis = await newAxis(t);
    await startRun(t, axis.id);
    await fill(1);
    const note = {
      kind: "note",
      text: "x".repeat(450),
      at: "2026-03-01T08:00:00.000Z",
    };
    let refused = 0;
    let kept = 0;
    // What still fits into pages that are there is kept; then nothing more.
    for (let i = 0; i < 60 && refused === 0; i += 1) {
      const answer = await t.api.post(`/api/axes/${axis.id}/events`).send(note);
      if (answer.status === 201) {
        kept += 1;
        continue;
      }
      refused += 1;
      expect([answer.status, answer.headers["content-type"]]).toEqual([503, expect.stringContaining("problem+json")]);
      expect(answer.body.detail).toMatch(/no room left.*make room.*try again/);
      expect(answer.body.detail).not.toContain(t.folder);
    }
    expect(refused).toBe(1);
    const history = await t.api.get(`/api/axes/${axis.id}/history`).expect(200);
    expect(history.body.events).toHaveLength(kept);
    await fill(100_000);
    await t.api.post(`/api/axes/${axis.id}/events`).send(note).expect(201);
  });

  it("is said as such when the disk undoes a transaction by itself, whatever is asked of it then", async () => {
    const axis = await newAxis(t);
    const run = await startRun(t, axis.id);
    // As a disk does that is full at the commit: SQLite has undone it all already.
    const spoil = async (trx: Db): Promise<never> => {
      await sql`rollback`.execute(trx);
      throw Object.assign(new Error("database or disk is full"), {
        code: "SQLITE_FULL",
      });
    };
    await expect(t.db.transaction().execute(spoil)).rejects.toMatchObject({
      code: "SQLITE_FULL",
    });
    await t.api.post(`/api/runs/${run.id}/abandon`).send({ reason: "" }).expect(200);
  });
});
