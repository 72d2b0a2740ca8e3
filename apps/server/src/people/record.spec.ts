import type { MachineWithAxes, RecordLine, Server } from "@iron/contract";
import { once } from "node:events";
import type { AddressInfo } from "node:net";
import Papa from "papaparse";
import { pino } from "pino";
import supertest from "supertest";
import { newAxis, testApp, type TestApp } from "../testing/test-app";
import { NAMES, peopleApp, secretOf, signedIn } from "../testing/test-people";

interface Page {
  readonly lines: RecordLine[];
  readonly more: boolean;
}
const machine = { nickname: "Wren", bay: "1", kind: "lathe", hoursPerWeek: 40, note: "", letters: ["X"] };

describe("the record of changes", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await peopleApp();
  });
  afterEach(() => t.close());

  it("says who changed what, when and from where; what was refused, and what was only looked at, is none", async () => {
    const [keeper, planner] = [await signedIn(t, "keeper"), await signedIn(t, "planner")];
    const made = (await planner.api.post("/api/machines").send(machine).expect(201)).body as { id: number };
    const { axes } = (await planner.api.get(`/api/machines/${made.id}`).expect(200)).body as MachineWithAxes;
    await planner.api
      .post("/api/machines")
      .send({ ...machine, hoursPerWeek: 900 })
      .expect(422);
    await planner.api
      .post(`/api/axes/${axes[0].id}/events`)
      .send({ kind: "note", text: "100% dry, a_b", at: new Date().toISOString() })
      .expect(201);
    const find = async (query: object): Promise<RecordLine[]> =>
      ((await keeper.api.get("/api/record").query(query).expect(200)).body as Page).lines;
    const all = await find({});
    expect(all.slice(0, 2).map((l) => [l.by, l.subject, l.address])).toEqual([
      ["Pipit", "Wren X", "127.0.0.1"],
      ["Pipit", "", "127.0.0.1"],
    ]);
    expect(all.filter((l) => l.kind === "change")).toHaveLength(2);
    expect(all.filter((l) => l.what === "signed in")).toHaveLength(2);
    expect(Date.parse(all[0].at)).toBeGreaterThanOrEqual(Date.parse(all[1].at));
    // Words stand anywhere, in any order; % and _ are themselves.
    expect(await find({ words: "dry wren" })).toHaveLength(1);
    expect(await find({ words: "0% a_b" })).toHaveLength(1);
    expect(await find({ words: "a%b" })).toHaveLength(0);
    expect(await find({ by: "Knott" })).toHaveLength(1);
    const [oldest, newest] = [all[all.length - 1].at, all[0].at];
    expect((await find({ from: oldest, till: "2100-01-01T00:00:00.000Z" })).length).toBe(all.length);
    expect((await find({ till: newest })).every((l) => l.at < newest)).toBe(true);
    await keeper.api.get("/api/record").query({ from: "yesterday" }).expect(422);
    await planner.api.get("/api/record").expect(403);
  });

  it("is read on page by page without a gap or a line twice, and whole as a table", async () => {
    const keeper = await signedIn(t, "keeper");
    const at = "2026-03-02T08:00:00.000Z";
    const line = (i: number) => ({ at, by: "=Teal()", address: "10.0.0.7", what: `w${i}`, subject: "", detail: "" });
    await t.db
      .insertInto("change_event")
      .values(Array.from({ length: 230 }, (_, i) => line(i)))
      .execute();
    const seen: RecordLine[] = [];
    for (let before: string | undefined; ;) {
      const { lines, more } = (
        await keeper.api
          .get("/api/record")
          .query(before ? { before } : {})
          .expect(200)
      ).body as Page;
      seen.push(...lines);
      const last = seen[seen.length - 1];
      before = `${last.at}|${last.kind}|${last.id}`;
      if (!more) break;
    }
    expect(new Set(seen.map((l) => `${l.kind} ${l.id}`)).size).toBe(seen.length);
    expect(seen.filter((l) => l.kind === "change")).toHaveLength(230);
    // Also of what goes out in parts: refused before the first of them.
    for (const path of ["/api/record", "/api/export/record"])
      for (const wrong of ["x|y|z", `${at}|window|1`, `${at}|door|`, ""])
        await keeper.api.get(path).query({ before: wrong }).expect(422);
    const csv = (await keeper.api.get("/api/export/record").expect(200)).text;
    const rows = Papa.parse<Record<string, string>>(csv, { header: true, skipEmptyLines: true }).data;
    expect(rows).toHaveLength(seen.length);
    // No table program takes a name for a formula.
    expect(rows.find((r) => r["what"] === "w3")?.["by"]).toBe("'=Teal()");
  });

  it("cannot be changed or taken back, and holds no PIN", async () => {
    const keeper = await signedIn(t, "keeper");
    const added = await keeper.api.post("/api/people").send({ name: "Ilse", sign: "IB", role: "look" }).expect(201);
    await keeper.api.put("/api/shop").send({ ...(await keeper.api.get("/api/shop")).body, name: "Lower Mill" });
    const { lines } = (await keeper.api.get("/api/record").expect(200)).body as Page;
    expect(lines.find((l) => l.what === "added as look")?.subject).toBe("Ilse");
    const kept = JSON.stringify(lines);
    expect(kept).toContain("Lower Mill");
    for (const secret of [String(added.body.given), secretOf("keeper")]) expect(kept).not.toContain(secret);
    await expect(t.db.updateTable("change_event").set({ by: "x" }).execute()).rejects.toMatchObject({
      message: expect.stringContaining("append-only") as string,
    });
    await expect(t.db.deleteFrom("change_event").execute()).rejects.toMatchObject({
      message: expect.stringContaining("append-only") as string,
    });
  });

  it("where nobody signs in it notes who says so", async () => {
    const own = await testApp();
    await newAxis(own);
    const { lines } = (await own.api.get("/api/record").expect(200)).body as Page;
    expect(lines.map((l) => l.by)).toEqual(["Rowan", "Rowan"]);
    await own.close();
  });
});

describe("what is changed is told at once", () => {
  it("to every browser that is signed in, by address and page, after it was kept", async () => {
    const t = await peopleApp();
    const server = t.app.express.listen(0, "127.0.0.1");
    await once(server, "listening");
    const { port } = server.address() as AddressInfo;
    const teal = await signedIn(t, "technician");
    const planner = await signedIn(t, "planner");
    const stream = (cookie: string, after = "") =>
      fetch(`http://127.0.0.1:${port}/api/changes${after}`, { headers: { cookie } });
    const at = async (): Promise<string> => (await planner.api.get("/api/machines/1")).headers["x-changes"] as string;
    const first = await at();
    const [began] = first.split(".");
    expect((await stream("")).status).toBe(401);
    const reader = (await stream(teal.cookie)).body?.getReader();
    const read = async (): Promise<string> => new TextDecoder().decode((await reader?.read())?.value);
    expect(await read()).toContain("retry:");
    await planner.api.post("/api/machines").set("x-page", "p1").send(machine).expect(201);
    expect(await read()).toBe('data: {"path":"/api/machines","page":"p1"}\n\n');
    await planner.api
      .post("/api/machines")
      .send({ ...machine, hoursPerWeek: 900 })
      .expect(422);
    await planner.api
      .post("/api/machines")
      .send({ ...machine, nickname: "Ibis" })
      .expect(201);
    expect(await read()).toBe('data: {"path":"/api/machines","page":""}\n\n');
    // A page whose first answer is older than its stream is told what came between; of an earlier start: everything.
    const missed = async (after: string): Promise<string> => {
      const late = (await stream(planner.cookie, `?after=${after}`)).body?.getReader();
      await planner.api
        .post("/api/machines")
        .set("x-page", "mark")
        .send({ ...machine, nickname: after || "none" });
      let text = "";
      while (!text.includes("mark")) text += new TextDecoder().decode((await late?.read())?.value);
      await late?.cancel();
      return text.replace("retry: 1000\n\n", "").replace(/data: [^\n]*mark[^\n]*\n\n$/, "");
    };
    expect(await missed(first)).toBe(
      'data: {"path":"/api/machines","page":"p1"}\n\ndata: {"path":"/api/machines","page":""}\n\n',
    );
    expect(await missed(await at())).toBe("");
    for (const other of ["earlier.3", "", "x", `${began}.99`, `${began}.-1`])
      expect(await missed(other)).toBe('data: {"path":"","page":""}\n\n');
    // Whoever goes sees no more: the stream ends before it next says that it is there.
    await teal.api.post("/api/sign-out").send({}).expect(200);
    let rest = await reader?.read();
    while (rest && !rest.done) {
      expect(new TextDecoder().decode(rest.value)).not.toContain("still here");
      rest = await reader?.read();
    }
    server.close();
    await t.close();
  });
});

describe("a calendar’s own address", () => {
  it("is open to who knows it, until it is renewed or its person retires; the file does not hold it", async () => {
    const t = await peopleApp();
    const teal = await signedIn(t, "technician");
    const bare = () => supertest(t.app.express);
    await bare().get("/api/rounds/calendar").expect(401);
    expect((await teal.api.get("/api/me/calendar").expect(200)).body).toEqual({ has: false });
    const renew = async (): Promise<string> =>
      String((await teal.api.post("/api/me/calendar").send({}).expect(200)).body.path);
    const first = await renew();
    expect((await bare().get(first).expect(200)).text).toMatch(/^BEGIN:VCALENDAR/);
    expect((await teal.api.get("/api/me/calendar")).body).toEqual({ has: true });
    const second = await renew();
    expect(second).not.toBe(first);
    for (const path of [first, "/api/calendars/x", `/api/calendars/${"a".repeat(43)}`])
      await bare().get(path).expect(404);
    await bare().get(second).expect(200);
    const row = await t.db
      .selectFrom("person")
      .selectAll()
      .where("name", "=", NAMES.technician)
      .executeTakeFirstOrThrow();
    expect(JSON.stringify(row)).not.toContain(second.split("/").at(-1));
    await t.db.updateTable("person").set({ retired_at: "2026-03-02T08:00:00Z" }).where("id", "=", row.id).execute();
    await bare().get(second).expect(404);
    await t.close();
  });
});

describe("the log", () => {
  it("holds no calendar’s secret address, no PIN, and nothing by which one is let in", async () => {
    const lines: string[] = [];
    const log = pino({ level: "debug" }, { write: (line: string) => lines.push(line) });
    const t = await peopleApp({ log });
    const teal = await signedIn(t, "technician");
    const { path } = (await teal.api.post("/api/me/calendar").send({}).expect(200)).body as { path: string };
    await supertest(t.app.express).get(`${path}?x=1`).expect(200);
    await t.close();
    const all = lines.join("");
    expect(all).toContain("/api/calendars/…?x=1");
    for (const secret of [path.slice("/api/calendars/".length), secretOf("technician")])
      expect(all).not.toContain(secret);
  });
});

describe("how the server stands", () => {
  it("is told to the keeper: versions, storage", async () => {
    const t = await peopleApp();
    const keeper = await signedIn(t, "keeper");
    const server = (await keeper.api.get("/api/server").expect(200)).body as Server;
    expect(server.runsOn.find((r) => r.name === "Node")?.version).toBe(process.versions.node);
    expect(server.store).toMatch(/^\d{4}_/);
    // This one keeps no backups.
    expect([server.storage.backups, server.lastBackup]).toEqual([null, null]);
    await keeper.api.get("/api/backups/last").expect(404);
    await t.close();
  });
});
