import type { LubricationPointRecord, Rounds } from "@iron/contract";
import { randomUUID } from "node:crypto";
import { newAxis, testApp, type TestApp } from "../testing/test-app";

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
    return (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).expect(200))
      .body as LubricationPointRecord[];
  }

  it("gives a machine its usual points once, due an interval from now", async () => {
    const all = await points();
    expect(all.map((p) => p.place)).toEqual(
      expect.arrayContaining(["X rail carriages, four", "X ball nut", "air unit"]),
    );
    const again = await t.api.post(`/api/machines/${all[0].machineId}/lube-points/usual`).expect(200);
    expect(again.body).toHaveLength(all.length);
    for (const p of all) expect(p.lateDays).toBeLessThan(0);
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
