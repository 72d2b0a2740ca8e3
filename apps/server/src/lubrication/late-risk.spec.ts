import type { LubricationPointRecord, LubricationSettings, MachineListAnswer, Rounds } from "@iron/contract";
import { randomUUID } from "node:crypto";
import { newAxis, testApp, type TestApp, USUAL } from "../testing/test-app";

describe("what a late point risks", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp();
  });
  afterEach(() => t.close());

  it("is told with each point, in the shop’s money: more for a nut than for a filter, next to nothing once it is done", async () => {
    const { machineId } = await newAxis(t);
    const all = (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL).expect(200))
      .body as LubricationPointRecord[];
    const nut = all.find((p) => p.place === "X ball nut") as LubricationPointRecord;
    expect(nut.risk.week).toBeGreaterThan(Math.max(...all.filter((p) => p.weight === 1).map((p) => p.risk.week)));
    const visit = { key: randomUUID(), found: "right", dose: 2, glitter: false, words: "" };
    const done = (await t.api.post(`/api/lube-points/${nut.id}/visits`).send(visit).expect(201))
      .body as LubricationPointRecord;
    expect(done.risk.dry).toBeLessThan(0.001);
    expect(done.risk.week).toBeLessThan(nut.risk.week / 100);
  });

  it("where there are not minutes for all, those come first that together risk most, and within the minutes", async () => {
    const lines = Array.from({ length: 6 }, (_, i) => `M${i};${i};vertical-centre;X Y Z`);
    const text = ["machine;bay;kind;axes", ...lines].join("\n");
    const made = (await t.api.post("/api/machines/list").send({ text, preview: false }).expect(200))
      .body as MachineListAnswer;
    expect(made.ids).toHaveLength(6);
    const {
      gramsPerStroke: _,
      gunFigures: __,
      ...settings
    } = (await t.api.get("/api/keep-settings").expect(200)).body as LubricationSettings;
    await t.api
      .put("/api/keep-settings")
      .send({ ...settings, minutesByWeekday: [20, 20, 20, 20, 20, 20, 20], bays: ["4", "1"] })
      .expect(200);
    const rounds = (await t.api.post("/api/rounds/plan").expect(200)).body as Rounds;
    expect(rounds.currency).not.toBe("");
    const all = rounds.days.flatMap((d) => d.stops.flatMap((s) => s.points));
    const waits = rounds.unplanned.filter((u) => u.noMinutes);
    expect(waits.length).toBeGreaterThan(0);
    // No day is heaped with what nobody can do; what waits is named with its reason, and in a change.
    const minutes = (of: readonly { readonly minutes: number }[]): number => of.reduce((s, p) => s + p.minutes, 0);
    expect(minutes(all)).toBeLessThanOrEqual(rounds.days.reduce((s, d) => s + d.available, 0));
    expect(new Set([...all, ...rounds.unplanned].map((p) => p.id)).size).toBe(all.length + rounds.unplanned.length);
    expect(waits[0].why).toBe("there are not minutes enough for all that is due");
    // For each of its minutes none that waits risks more than those with a day do in the mean.
    const mean = all.reduce((s, p) => s + p.risk.week, 0) / minutes(all);
    for (const { week, minutes: own } of waits) expect(week / own).toBeLessThan(mean);
    for (const day of rounds.days) {
      // Bays as the shop walks them, the others after those by number.
      const way = ["4", "1", "0", "2", "3", "5"];
      expect(day.stops.map((s) => s.bay)).toEqual(way.filter((b) => day.stops.some((s) => s.bay === b)));
      const points = day.stops.flatMap((s) => s.points);
      expect(day.first.length > 0).toBe(day.minutes > day.available && day.available > 0);
      const first = points.filter((p) => day.first.includes(p.id));
      expect(first.reduce((s, p) => s + p.minutes, 0)).toBeLessThanOrEqual(day.available);
      // Nothing of the rest that would still fit is worth more than nothing.
      const free = day.available - first.reduce((s, p) => s + p.minutes, 0);
      const left = points.filter((p) => !day.first.includes(p.id) && p.minutes <= free && p.risk.week > 0);
      if (day.first.length) expect(left).toEqual([]);
    }
    const more = (await t.api.get("/api/keep-settings").expect(200)).body as LubricationSettings;
    const { gramsPerStroke: ___, gunFigures: ____, ...edit } = more;
    await t.api
      .put("/api/keep-settings")
      .send({ ...edit, minutesByWeekday: [900, 900, 900, 900, 900, 900, 900] })
      .expect(200);
    const roomy = (await t.api.get("/api/rounds").expect(200)).body as Rounds;
    expect(roomy.unplanned).toEqual([]);
    const back = roomy.changes.filter((c) => waits.some((w) => w.id === c.id));
    expect(back.map((c) => c.why)).toEqual(waits.map(() => "there is room for it again"));
  });
});
