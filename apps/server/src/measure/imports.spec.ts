import { dayAfter, dayOf } from "@iron/core";
import type { LubricationImport, LubricationPointRecord } from "@iron/contract";
import { randomUUID } from "node:crypto";
import { inThread, type Given, type Made, type WorkPool } from "../threads/pool";
import type { Tasks } from "../threads/tasks";
import { newAxis, testApp, type TestApp, USUAL } from "../testing/test-app";

const day = (n: number): string => dayAfter(dayOf(new Date()), n);

describe("files of work, meters and points", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp();
  });
  afterEach(() => t.close());

  const send = async (what: string, lines: readonly string[], anyway = false): Promise<LubricationImport> =>
    (
      await t.api
        .post(`/api/${what}/import`)
        .send({ text: lines.join("\n"), anyway })
        .expect(200)
    ).body as LubricationImport;
  const meters = (lines: readonly string[], anyway = false) => send("meters", ["machine;date;hours", ...lines], anyway);
  const work = (lines: readonly string[], anyway = false) =>
    send("lube-visits", ["machine;place;date;found", ...lines], anyway);

  async function machine(nickname: string): Promise<number> {
    const { machineId } = await newAxis(t);
    const now = (await t.api.get(`/api/machines/${machineId}`)).body as object & { version: number };
    await t.api
      .put(`/api/machines/${machineId}`)
      .send({ ...now, nickname })
      .expect(200);
    return machineId;
  }
  async function pointsOf(machineId: number): Promise<LubricationPointRecord[]> {
    return (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL).expect(200))
      .body as LubricationPointRecord[];
  }
  const count = async (table: "meter_reading" | "lube_visit" | "lube_point"): Promise<number> =>
    (
      await t.db
        .selectFrom(table)
        .select((eb) => eb.fn.countAll<number>().as("n"))
        .executeTakeFirstOrThrow()
    ).n;

  it("a row in the middle that cannot be keeps nothing of the whole, and is named", async () => {
    const [point] = await pointsOf(await machine("Wren"));
    await t.api
      .post(`/api/lube-points/${point.id}/visits`)
      .send({
        key: randomUUID(),
        found: "right",
        dose: 1,
        glitter: false,
        words: "",
      })
      .expect(201);
    const said = await work([
      `Wren;${point.place};${day(0)};dry`,
      `Wren;${point.place};${day(-3)};dry`,
      `Wren;${point.place};${day(1)};dry`,
    ]);
    expect(said).toMatchObject({ kept: 0, good: 1, errorLines: 2 });
    expect(said.errors.map((e) => [e.line, e.column])).toEqual([
      [3, "date"],
      [4, "date"],
    ]);
    expect(await count("lube_visit")).toBe(1);
    expect(await work([`Wren;${point.place};${day(0)};dry`, `Wren;${point.place};${day(-3)};dry`], true)).toMatchObject(
      { kept: 1, errorLines: 1 },
    );
    expect(await count("lube_visit")).toBe(2);
  });

  it("Twin is told from twin; what may be either is refused, and so are two of one name", async () => {
    const [upper, lower] = [await machine("Twin"), await machine("twin")];
    const [a, b] = [await pointsOf(upper), await pointsOf(lower)];
    expect(await work([`Twin;${a[0].place};${day(-1)};dry`, `twin;${b[0].place};${day(-1)};flooded`])).toMatchObject({
      kept: 2,
      errorLines: 0,
    });
    const found = async (id: number) =>
      ((await t.api.get(`/api/lube-points/${id}`)).body as LubricationPointRecord).lastFound;
    expect([await found(a[0].id), await found(b[0].id)]).toEqual(["dry", "flooded"]);
    const doubt = await meters([`TWIN;${day(-1)};100`]);
    expect(doubt).toMatchObject({
      kept: 0,
      errors: [
        {
          line: 2,
          column: "machine",
          message: "“TWIN” may be “Twin” or “twin”: write it as it stands there.",
        },
      ],
    });
    await machine("Heron");
    expect(await meters([`HERON;${day(-1)};100`])).toMatchObject({ kept: 1 });
    await machine("Heron");
    expect((await meters([`Heron;${day(-1)};200`])).errors[0].message).toContain("There are 2 machines “Heron”");
  });

  it("a row that was taken back can be brought again, and only once", async () => {
    const id = await machine("Wren");
    const row = [`Wren;${day(-2)};100`];
    expect(await meters(row)).toMatchObject({ kept: 1 });
    expect(await meters(row)).toMatchObject({ kept: 0, known: 1 });
    const [{ readings }] = (await t.api.get("/api/meters")).body as {
      machineId: number;
      readings: { id: number }[];
    }[];
    await t.api.post(`/api/meter-readings/${readings[0].id}/back`).expect(200);
    expect(await meters(row)).toMatchObject({ kept: 1, known: 0 });
    expect(await meters([...row, ...row])).toMatchObject({ kept: 0, known: 2 });

    const [point] = await pointsOf(id);
    const done = [`Wren;${point.place};${day(-2)};dry`];
    expect(await work(done)).toMatchObject({ kept: 1 });
    await t.api
      .post(`/api/lube-points/${point.id}/visits`)
      .send({
        key: randomUUID(),
        found: null,
        dose: 0,
        glitter: false,
        words: "",
      })
      .expect(201);
    expect(await work(done)).toMatchObject({ kept: 1, known: 0 });
    expect(await work(done)).toMatchObject({ kept: 0, known: 1 });
  });

  it("a place that differs in capitals alone, or stands in the file twice, is a doubt and is said", async () => {
    const id = await machine("Wren");
    const [point] = await pointsOf(id);
    const there = await count("lube_point");
    const [head, ...rows] = (await t.api.get("/api/export/lube-points").expect(200)).text.trim().split("\r\n");
    const row = rows[0];
    const said = await send("lube-points", [head, row.replace(point.place, point.place.toUpperCase()), row, row]);
    expect(said.kept).toBe(0);
    expect(said.errors.map((e) => e.line)).toEqual([2, 3, 4]);
    expect(said.errors[0].message).toContain(`There is “${point.place}”, which differs in capitals alone`);
    expect(said.errors[2].message).toContain("stands in line 3 already");
    expect(await count("lube_point")).toBe(there);
    expect(
      await send("lube-points", [head, row.replace(point.place, "tool changer cam"), ...rows.slice(1)]),
    ).toMatchObject({ kept: 1, known: rows.length - 1, errorLines: 0 });
  });

  it("the same file sent twice at once is kept once", async () => {
    await machine("Wren");
    const rows = Array.from({ length: 50 }, (_, i) => `Wren;${day(-60 + i)};${100 + i}`);
    const both = await Promise.all([meters(rows), meters(rows)]);
    expect(both.map((b) => b.kept).sort((a, b) => a - b)).toEqual([0, 50]);
    expect(await count("meter_reading")).toBe(50);
  });

  it("a file that is called off while it is read leaves nothing; the next is read then", async () => {
    await t.close();
    // A thread that is let go by hand.
    let go = (): void => undefined;
    const held = new Promise<void>((done) => {
      go = done;
    });
    const pool: WorkPool = {
      run: async <N extends keyof Tasks>(task: N, given: Given<N>, signal?: AbortSignal): Promise<Made<N>> => {
        if (task !== "plan") await held;
        signal?.throwIfAborted();
        return inThread.run(task, given);
      },
      close: async () => undefined,
    };
    t = await testApp({ pool });
    await machine("Wren");
    const [first, second] = [randomUUID(), randomUUID()];
    const text = ["machine;date;hours", `Wren;${day(-1)};100`].join("\n");
    const sent = Promise.all(
      [first, second].map((key) => t.api.post("/api/meters/import").send({ text, anyway: false, key })),
    );
    const state = async (key: string) => (await t.api.get(`/api/imports/${key}`)).body as { phase?: string };
    while ((await state(first)).phase !== "reading");
    while ((await state(second)).phase !== "waiting");
    await t.api.post("/api/meters/import").send({ text, anyway: false, key: first }).expect(409);
    await t.api.post(`/api/imports/${first}/off`).expect(200);
    go();
    const [called, read] = await sent;
    expect(called.body).toMatchObject({
      status: 409,
      detail: "The file was called off. Nothing was kept.",
    });
    expect(read.body).toMatchObject({ kept: 1 });
    // Whoever sends a file asks about it before it is here, and once more when it is through: no error.
    for (const key of [first, randomUUID()])
      expect((await t.api.get(`/api/imports/${key}`).expect(200)).body).toEqual({ phase: "none", rows: 0, of: 0 });
    expect((await t.api.post(`/api/imports/${second}/off`).expect(200)).body).toMatchObject({ phase: "none" });
  });

  it("what others change while a file is read is looked at again before anything is kept", async () => {
    await t.close();
    let meanwhile: (() => Promise<unknown>) | null = null;
    const pool: WorkPool = {
      run: async <N extends keyof Tasks>(task: N, given: Given<N>): Promise<Made<N>> => {
        const made = await inThread.run(task, given);
        const work = meanwhile;
        meanwhile = null;
        await work?.();
        return made;
      },
      close: async () => undefined,
    };
    t = await testApp({ pool });
    const id = await machine("Wren");
    meanwhile = () =>
      t.api
        .post(`/api/machines/${id}/meter`)
        .send({ key: randomUUID(), date: day(-1), hours: 50, reset: false })
        .expect(201);
    const said = await meters([`Wren;${day(-2)};100`]);
    expect(said).toMatchObject({ kept: 0, errorLines: 1 });
    expect(said.errors[0].message).toContain("at least 100");
    expect(await count("meter_reading")).toBe(1);
  });

  it("thousands of wrong lines are counted, the first told", async () => {
    const said = await meters(Array.from({ length: 3000 }, (_, i) => `Nobody;${day(-1)};${i}`));
    expect(said).toMatchObject({ kept: 0, errorLines: 3000 });
    expect(said.errors).toHaveLength(500);
  });
});
