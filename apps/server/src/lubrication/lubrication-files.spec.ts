import type { LubricationImport, LubricationPointRecord, Rounds } from "@iron/contract";
import { dayAfter, dayOf } from "@iron/core";
import { testApp, type TestApp } from "../testing/test-app";

const dayFrom = (days: number): string => dayAfter(dayOf(new Date()), days);

describe("lubrication in files, out and in", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp({ demo: true });
  });
  afterEach(() => t.close());
  const get = async <T>(at: string): Promise<T> => (await t.api.get(at).expect(200)).body as T;

  it("a meter file with two bad lines: both are named, nothing is kept until asked; the same file again keeps nothing", async () => {
    const file = (anyway: boolean) =>
      t.api.post("/api/meters/import").send({
        text: `machine;date;hours\nBittern;${dayFrom(0)};12000,5\nGodwit;${dayFrom(-400)};1\nNightjar;${dayFrom(0)};7\nKnot;${dayFrom(0)};99999999\n`,
        anyway,
      });
    const first = (await file(false).expect(200)).body as LubricationImport;
    expect(first.kept).toBe(0);
    expect(first.errors.map((e) => `${e.line} ${e.column}`)).toEqual(["2 hours", "4 machine", "5 hours"]);
    expect(first.errors[1].message).toBe("There is no machine “Nightjar”.");
    const kept = (await file(true).expect(200)).body as LubricationImport;
    expect(kept.kept).toBe(1);
    expect((await file(true).expect(200)).body).toMatchObject({ kept: 0, known: 1 });
    const out = await t.api.get("/api/export/meters").expect(200);
    expect(out.text).toMatch(/^machine,date,hours,reset\r\n[\s\S]*\r\nBittern,\d{4}-\d\d-\d\d,\d+,no\r\n/);
    const round = (await t.api.post("/api/meters/import").send({ text: out.text }).expect(200))
      .body as LubricationImport;
    expect(round.kept).toBe(0);
    expect(round.errors).toEqual([]);
  });

  it("points and completed work go out as CSV and come back the same; wrong cells are named", async () => {
    const before = await get<Rounds>("/api/rounds");
    const points = await t.api.get("/api/export/lube-points").expect(200);
    const again = (await t.api.post("/api/lube-points/import").send({ text: points.text }).expect(200))
      .body as LubricationImport;
    expect(again).toMatchObject({ kept: 0, errors: [] });
    expect(again.known).toBe(points.text.trim().split("\r\n").length - 1);
    const more = points.text
      .split("\r\n")
      .slice(0, 2)
      .join("\n")
      .replace("X ways, central system", "X ways, hand pump")
      .replace(/"?X rail carriages, 1 stroke each"?/, "X rail");
    expect((await t.api.post("/api/lube-points/import").send({ text: more }).expect(200)).body.kept).toBe(1);
    const bad = (
      await t.api
        .post("/api/lube-points/import")
        .send({ text: points.text.replace(/,nipple,/, ",funnel,") })
        .expect(200)
    ).body as LubricationImport;
    expect(bad.errors[0]).toMatchObject({ column: "way" });
    expect(bad.kept).toBe(0);
    const work = await t.api.get("/api/export/lube-visits").expect(200);
    expect((await t.api.post("/api/lube-visits/import").send({ text: work.text }).expect(200)).body).toMatchObject({
      kept: 0,
      errors: [],
    });
    const stop = before.days.flatMap((d) => d.stops)[0];
    const line = `machine,place,date,found\n${stop.nickname},"${stop.points[0].place}",${dayFrom(0)},dry\n`;
    expect((await t.api.post("/api/lube-visits/import").send({ text: line }).expect(200)).body).toMatchObject({
      kept: 1,
      errors: [],
    });
    expect((await get<LubricationPointRecord>(`/api/lube-points/${stop.points[0].id}`)).lastFound).toBe("dry");
  });

  it("places told one by one come in with the work as they went out", async () => {
    const before = await get<Rounds>("/api/rounds");
    const stops = before.days.flatMap((d) => d.stops);
    const stop = stops.find((s) => s.points.some((p) => p.outlets.length === 4));
    const point = stop?.points.find((p) => p.outlets.length === 4);
    const send = async (cell: string): Promise<LubricationImport> => {
      const text = `machine,place,date,found,places\n${stop?.nickname ?? ""},"${point?.place ?? ""}",${dayFrom(0)},dry,"${cell}"\n`;
      return (await t.api.post("/api/lube-visits/import").send({ text }).expect(200)).body as LubricationImport;
    };
    for (const [cell, says] of [
      ["carriage 2=damp 1", /is no place: write “carriage 2=dry 1\.5”/],
      ["carriage 2=dry 501", /a dose is from 0 to 500/],
    ] as const)
      expect((await send(cell)).errors[0]).toMatchObject({
        line: 2,
        column: "places",
        message: expect.stringMatching(says),
      });
    expect(await send("carriage 1=right 1|carriage 2=dry 1,5")).toMatchObject({ kept: 1, errors: [] });
    const now = await get<LubricationPointRecord>(`/api/lube-points/${point?.id ?? 0}`);
    expect(now.places).toEqual([
      { name: "carriage 1", found: "right", dose: 1 },
      { name: "carriage 2", found: "dry", dose: 1.5 },
    ]);
    const out = await t.api.get("/api/export/lube-visits").expect(200);
    expect(out.text).toContain("carriage 1=right 1|carriage 2=dry 1.5");
  });

  it("what was looked at goes out with the work and comes in with it", async () => {
    const before = await get<Rounds>("/api/rounds");
    const stops = before.days.flatMap((d) => d.stops);
    const stop = stops.find((s) => s.points.some((p) => p.answered.length > 0));
    const point = stop?.points.find((p) => p.answered.length > 0);
    const check = point?.answered[0].name ?? "";
    const send = async (cell: string): Promise<LubricationImport> => {
      const text = `machine,place,date,found,checks\n${stop?.nickname ?? ""},"${point?.place ?? ""}",${dayFrom(0)},right,"${cell}"\n`;
      return (await t.api.post("/api/lube-visits/import").send({ text }).expect(200)).body as LubricationImport;
    };
    const bad = await send(`${check}=broken`);
    expect(bad.errors[0]).toMatchObject({ line: 2, column: "checks" });
    expect(bad.errors[0].message).toMatch(/is no check: write “brush length=act 4\.5”/);
    expect(await send(`${check}=act 4,5`)).toMatchObject({ kept: 1, errors: [] });
    const now = await get<LubricationPointRecord>(`/api/lube-points/${point?.id ?? 0}`);
    expect(now.answered[0]).toMatchObject({ name: check, answer: "act", figure: 4.5 });
    const out = await t.api.get("/api/export/lube-visits").expect(200);
    expect(out.text).toContain(`${check}=act 4.5`);
    const again = (await t.api.post("/api/lube-visits/import").send({ text: out.text }).expect(200))
      .body as LubricationImport;
    expect(again).toMatchObject({ kept: 0, errors: [] });
  });
});
