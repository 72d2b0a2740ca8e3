import type { Axis, Case, LubricationPointRecord, MachineWithAxes, Rounds, UsualPoint } from "@iron/contract";
import { defaultAxis } from "@iron/core";
import { randomUUID } from "node:crypto";
import { newAxis, testApp, type TestApp, USUAL } from "../testing/test-app";

describe("lubrication", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp({ demo: true });
  });
  afterEach(() => t.close());
  const visit = (id: number, found: string | null, over: object = {}) =>
    t.api
      .post(`/api/lube-points/${id}/visits`)
      .send({ key: randomUUID(), found, dose: 3, glitter: false, words: "", ...over });

  async function points(): Promise<LubricationPointRecord[]> {
    const { machineId } = await newAxis(t);
    return (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL).expect(200))
      .body as LubricationPointRecord[];
  }

  it("gives a machine its usual points once; nobody knows since when, so they are due within the first weeks", async () => {
    const all = await points();
    expect(all.map((p) => p.place)).toEqual(
      expect.arrayContaining(["X rail carriages, 1 stroke each", "X ball nut", "air unit"]),
    );
    const again = await t.api.post(`/api/machines/${all[0].machineId}/lube-points/usual`).send(USUAL).expect(200);
    // Nothing was added, and nothing is told as if it were: an undo takes back what one has added oneself.
    expect(again.body).toEqual([]);
    for (const p of all) {
      expect(p.neverSeen).toBe(true);
      expect(p.lateDays).toBeLessThan(1);
      expect(-p.lateDays).toBeLessThanOrEqual(14);
      // What does most harm is due at once.
      expect(-p.lateDays < 0.1).toBe(p.weight === 3);
    }
    const now = (await visit(all[0].id, "right").expect(201)).body as LubricationPointRecord;
    expect(now.neverSeen).toBe(false);
    expect(-now.lateDays).toBeGreaterThan(30);
    expect((await visit(all[0].id, null).expect(201)).body).toMatchObject({ neverSeen: true });
  });

  it("where the day is known it counts from there; a day to come is refused; places can be left out", async () => {
    const { machineId } = await newAxis(t);
    const usual = `/api/machines/${machineId}/lube-points/usual`;
    const late = await t.api
      .post(usual)
      .send({ ...USUAL, lastDone: "2199-01-01" })
      .expect(422);
    expect(late.body.detail).toMatch(/^Last done on 2199-01-01 is still to come: today is /);
    const day = new Date(Date.now() - 40 * 86_400_000).toISOString().slice(0, 10);
    const asked = { ...USUAL, lastDone: day, factors: ["dirt"], leaveOut: ["air unit"] };
    const preview = (await t.api.post(`${usual}-preview`).send(asked).expect(200)).body as UsualPoint[];
    const all = (await t.api.post(usual).send(asked).expect(200)).body as LubricationPointRecord[];
    expect(all.map((p) => p.place)).not.toContain("air unit");
    for (const p of all) {
      const before = preview.find((u) => u.place === p.place);
      expect(before).toMatchObject({ intervalDays: p.intervalDays, by: p.by, dueOn: p.dueOn });
      if (p.letter) expect(before?.plainDays).toBeGreaterThan(p.intervalDays);
      expect(p.neverSeen).toBe(false);
    }
    const nut = all.find((p) => p.place === "X ball nut") as LubricationPointRecord;
    expect(nut.lateDays).toBeCloseTo(40 - nut.intervalDays, -0.5);
  });

  it("two people who add them at once add them once, and each is told what it was that one added", async () => {
    const { machineId } = await newAxis(t);
    const add = () => t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL).expect(200);
    const [a, b] = (await Promise.all([add(), add()])).map((r) => r.body as LubricationPointRecord[]);
    const all = (await t.api.get(`/api/machines/${machineId}/lube-points`).expect(200))
      .body as LubricationPointRecord[];
    expect(new Set(all.map((p) => p.place)).size).toBe(all.length);
    expect(a.length + b.length).toBe(all.length);
  });

  it("a point kept no more comes back as it is now usual, with what was found at it", async () => {
    const all = await points();
    const nut = all.find((p) => p.place === "X ball nut") as LubricationPointRecord;
    await visit(nut.id, "dry").expect(201);
    await t.api.post(`/api/lube-points/${nut.id}/retire`).send({ retired: true }).expect(200);
    const asked = { ...USUAL, factors: ["coolant"] };
    const again = (await t.api.post(`/api/machines/${nut.machineId}/lube-points/usual`).send(asked).expect(200))
      .body as LubricationPointRecord[];
    const back = again.filter((p) => p.place === "X ball nut");
    expect(back).toHaveLength(1);
    expect(back[0]).toMatchObject({ id: nut.id, retired: false, visits: 1, factors: ["coolant"] });
    // Whoever has the old one open is told that it changed.
    await t.api.put(`/api/lube-points/${nut.id}`).send(nut).expect(409);
  });

  it("checks are answered one by one: figures with their trend, and what has to be acted on asks for a case", async () => {
    const [point] = await points();
    const checks = ["brush length [mm, at least 6]: worn to the mark", "cover: torn"];
    const changed = { ...point, checks };
    await t.api.put(`/api/lube-points/${point.id}`).send(changed).expect(200);
    const answer = (figure: number, brush = "fine", cover = "fine") =>
      visit(point.id, "right", {
        checks: [
          { name: "brush length", answer: brush, figure },
          { name: "cover", answer: cover },
        ],
        again: true,
      }).expect(201);
    const first = (await answer(12)).body as LubricationPointRecord;
    expect(first.answered[0]).toMatchObject({ unit: "mm", least: 6, answer: "fine", figure: 12, boundOn: null });
    expect(first.asksCase).toBe("");
    const second = (await answer(5.5, "act", "act")).body as LubricationPointRecord;
    expect(second.asksCase).toBe("To act on: brush length 5.5 mm, worn to the mark; cover, torn.");
    expect(second.answered[0].readings.map((r) => r.figure)).toEqual([12, 5.5]);
    const opened = await t.api.post(`/api/lube-points/${point.id}/case`).expect(201);
    const file = (await t.api.get(`/api/cases/${(opened.body as { caseId: number }).caseId}`).expect(200)).body as Case;
    expect(file.notes).toContain("To act on: brush length 5.5 mm, worn to the mark; cover, torn.");
    const back = (await visit(point.id, null).expect(201)).body as LubricationPointRecord;
    expect(back.asksCase).toBe("");
    const wrong = await visit(point.id, "right", { checks: [{ name: "cover", answer: "broken" }] });
    expect(wrong.status).toBe(422);
  });

  it("a point on an axis that can fall says what holds it, whoever made or changed it", async () => {
    const { machineId } = await newAxis(t);
    const { config } = ((await t.api.get(`/api/machines/${machineId}`).expect(200)).body as MachineWithAxes).axes[0];
    const z = { ...defaultAxis("vertical-centre", "Z"), limits: config.limits, brake: false, counterweight: false };
    const made = (await t.api.post(`/api/machines/${machineId}/axes`).send({ config: z }).expect(201)).body as Axis;
    const [x] = (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL).expect(200))
      .body as LubricationPointRecord[];
    const { heldBy: _, ...bare } = { ...x, letter: "Z", place: "Z nut, far side" };
    const own = (await t.api.post(`/api/machines/${machineId}/lube-points`).send(bare).expect(201))
      .body as LubricationPointRecord;
    expect([x.heldBy, own.heldBy]).toEqual([null, "block"]);
    const { heldBy: __, ...edit } = { ...own, minutes: 7 };
    expect((await t.api.put(`/api/lube-points/${own.id}`).send(edit).expect(200)).body.heldBy).toBe("block");
    // A brake that is fitted later is what holds it from then on.
    await t.api
      .put(`/api/axes/${made.id}`)
      .send({ version: made.version, config: { ...z, brake: true } })
      .expect(200);
    expect((await t.api.get(`/api/lube-points/${own.id}`).expect(200)).body.heldBy).toBe("brake");
  });

  it("carriages that are greased one by one are no central line: a dry one is not its doser", async () => {
    const all = await points();
    const carriages = all.find((p) => p.outlets.length === 4) as LubricationPointRecord;
    const told = (await visit(carriages.id, "right", { outlets: [true, false, true, true] }).expect(201)).body;
    expect((told as LubricationPointRecord).asksCase).toBe("");
  });

  it("carriages told one by one are kept each; the same one dry twice asks for a case and is named", async () => {
    const all = await points();
    const carriages = all.find((p) => p.outlets.length === 4) as LubricationPointRecord;
    const told = (dry: number) =>
      carriages.outlets.map((name, i) => ({ name, found: i === dry ? "dry" : "right", dose: i === dry ? 2 : 1 }));
    const asks = async (dry: number) =>
      (await visit(carriages.id, "dry", { places: told(dry), dose: 5 }).expect(201)).body as LubricationPointRecord;
    const first = await asks(1);
    expect([first.asksCase, first.places]).toEqual(["", told(1)]);
    expect((await asks(3)).asksCase).toBe("");
    expect((await asks(3)).asksCase).toBe("Dry twice running at carriage 4.");
    const file = (await t.api.get("/api/export/lube-visits").expect(200)).text;
    expect(file).toContain("carriage 1=right 1|carriage 2=dry 2|carriage 3=right 1|carriage 4=right 1");
    await visit(carriages.id, "dry", { places: [{ name: "carriage 1", found: "damp", dose: 1 }] }).expect(422);
    const back = (await visit(carriages.id, null).expect(201)).body as LubricationPointRecord;
    expect([back.asksCase, back.places]).toEqual(["", told(3)]);
  });

  it("shortens when found dry twice and asks for a case; taking back undoes it; a key counts once", async () => {
    const [carriages] = await points();
    const first = (await visit(carriages.id, "dry").expect(201)).body as LubricationPointRecord;
    expect(first.intervalDays).toBeLessThan(carriages.intervalDays);
    expect(first.asksCase).toBe("");
    const key = randomUUID();
    await visit(carriages.id, "dry", { key }).expect(201);
    const twice = (await visit(carriages.id, "dry", { key }).expect(201)).body as LubricationPointRecord;
    expect(twice.learnt).toBe("found dry twice");
    expect(twice.asksCase).toBe("Dry twice running.");
    const back = (await visit(carriages.id, null).expect(201)).body as LubricationPointRecord;
    expect(back.intervalDays).toBe(first.intervalDays);
    expect((await visit(carriages.id, "right", { glitter: true }).expect(201)).body.asksCase).toContain("glitter");
    expect((await visit(carriages.id, "damp")).status).toBe(422);
    await visit(4711, "dry").expect(404);
  });

  it("plans two weeks in the demo shop: every due point once, nobody there at the weekend, cheaper than when due", async () => {
    const rounds = (await t.api.get("/api/rounds").expect(200)).body as Rounds;
    const planned = rounds.days.flatMap((d) => d.stops.flatMap((s) => s.points.map((p) => p.id)));
    expect(new Set(planned).size).toBe(planned.length);
    expect(planned.length).toBeGreaterThan(10);
    for (const d of rounds.days) if (d.available === 0) expect(d.stops).toEqual([]);
    expect(rounds.late).toBeGreaterThan(0);
    expect(rounds.against).toBeLessThan(1);
    const floor = (await t.api.get("/api/floor").expect(200)).body as {
      machines: { nickname: string; lubrication: string }[];
    };
    const says = (name: string): string => floor.machines.find((m) => m.nickname === name)?.lubrication ?? "";
    expect(says("Heron")).toMatch(/Y counterweight chain: lubrication \d+ days late/);
    expect(says("Godwit")).toContain("X ball nut: found flooded 3 times");
  });

  it("checks a point that is changed, naming what is wrong", async () => {
    const [p] = await points();
    const edit = { ...p, rule: { ...p.rule, leastDays: 400 } };
    const wrong = await t.api.put(`/api/lube-points/${p.id}`).send(edit).expect(422);
    expect(wrong.body.detail).toBe("The least interval is longer than the greatest.");
    const right = await t.api
      .put(`/api/lube-points/${p.id}`)
      .send({ ...p, place: "X carriages" })
      .expect(200);
    expect(right.body.place).toBe("X carriages");
  });
});
