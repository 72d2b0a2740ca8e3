import type {
  Horizon,
  LubricationSettings,
  LubricationPointRecord,
  LubricantRecord,
  MachineMeter,
  Rounds,
} from "@iron/contract";
import { dayAfter, dayOf } from "@iron/core";
import { randomUUID } from "node:crypto";
import * as ical from "node-ical";
import { newAxis, testApp, type TestApp, USUAL } from "../testing/test-app";

const dayFrom = (days: number): string => dayAfter(dayOf(new Date()), days);

describe("keeping the shop lubricated", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp();
  });
  afterEach(() => t.close());
  const get = async <T>(at: string): Promise<T> => (await t.api.get(at).expect(200)).body as T;
  const hold = (id: number, body: object) =>
    t.api
      .post(`/api/lube-points/${id}/holds`)
      .set("x-working-as", "Ama")
      .send({ key: randomUUID(), reason: "", date: null, ...body });
  const visit = (id: number, who: string, over: object = {}) =>
    t.api
      .post(`/api/lube-points/${id}/visits`)
      .set("x-working-as", who)
      .send({ key: randomUUID(), found: "right", dose: 3, glitter: false, words: "", ...over });

  async function demo(): Promise<Rounds> {
    await t.close();
    t = await testApp({ demo: true });
    t.app.tend();
    return get<Rounds>("/api/rounds");
  }
  const placed = (r: Rounds): Map<number, string> =>
    new Map(r.days.flatMap((d) => d.stops.flatMap((s) => s.points.map((p) => [p.id, d.date] as const))));

  it("refuses a pin on a closed day by name; a skip wants a reason and takes the point off the plan", async () => {
    const before = await demo();
    const closed = before.days.find((d) => d.available === 0)?.date ?? "";
    const [id] = [...placed(before).keys()];
    expect((await hold(id, { kind: "pin", date: closed }).expect(422)).body.detail).toContain(
      "nobody is there on that day",
    );
    expect((await hold(id, { kind: "pin", date: dayFrom(60) }).expect(422)).body.detail).toContain(
      "the plan runs from",
    );
    expect((await hold(id, { kind: "skip", date: dayFrom(40) }).expect(422)).body.detail).toBe(
      "Say why it is left out.",
    );
    expect((await hold(id, { kind: "skip", date: dayFrom(-1), reason: "x" }).expect(422)).body.detail).toContain(
      "is not after today",
    );
    const skipped = (await hold(id, { kind: "skip", date: dayFrom(40), reason: "machine sold" }).expect(200))
      .body as Rounds;
    expect(placed(skipped).has(id)).toBe(false);
    expect(skipped.changes.find((c) => c.id === id)?.why).toBe("left out by Ama: machine sold");
    // A visit ends the hold.
    const done = (await visit(id, "Ama").expect(201)).body as LubricationPointRecord;
    expect(done.hold).toBeNull();
  });

  it("heeds holidays, minutes of each weekday and machine windows; two editors get both versions", async () => {
    const before = await demo();
    const settings = await get<LubricationSettings>("/api/keep-settings");
    const busy = before.days.find((d) => d.stops.length > 0);
    const { gramsPerStroke, gunFigures, ...edit } = settings;
    expect(gramsPerStroke).toBeCloseTo(0.8, 6);
    expect(gunFigures[0].expandedGrams).toBeLessThan(0.1);
    const holidays = [{ date: busy?.date ?? "", words: "stocktaking" }];
    const changed = (
      await t.api
        .put("/api/keep-settings")
        .send({ ...edit, holidays })
        .expect(200)
    ).body as LubricationSettings;
    const stale = await t.api
      .put("/api/keep-settings")
      .send({ ...edit, holidays: [] })
      .expect(409);
    expect((stale.body as { current: LubricationSettings }).current.holidays).toEqual(holidays);
    const after = await get<Rounds>("/api/rounds");
    expect(after.days.find((d) => d.date === busy?.date)).toMatchObject({ available: 0, stops: [] });
    expect(after.changes.length).toBeGreaterThan(0);
    // One machine may be stopped on no weekday but that of the last open day.
    const machineId = before.days.flatMap((d) => d.stops)[0].machineId;
    const last = after.days.filter((d) => d.available > 0).at(-1)?.date ?? "";
    const weekday = (new Date(`${last}T12:00:00Z`).getUTCDay() + 6) % 7;
    const windows = [{ machineId, days: Array.from({ length: 7 }, (_, i) => i === weekday) }];
    await t.api
      .put("/api/keep-settings")
      .send({ ...edit, version: changed.version, holidays, windows })
      .expect(200);
    const shut = await get<Rounds>("/api/rounds");
    for (const d of shut.days)
      if (d.stops.some((s) => s.machineId === machineId))
        expect((new Date(`${d.date}T12:00:00Z`).getUTCDay() + 6) % 7).toBe(weekday);
    const bad = await t.api
      .put("/api/keep-settings")
      .send({ ...edit, minutesByWeekday: [9000, 0, 0, 0, 0, 0, 0] })
      .expect(422);
    expect(bad.body.detail).toBe("Minutes must be from 0 to 1440.");
  });

  it("two people on one round do no point twice", async () => {
    const [point] = [...placed(await demo()).keys()];
    await visit(point, "Ama").expect(201);
    const twice = await visit(point, "Rowan").expect(409);
    expect(twice.body.detail).toBe("Ama has done this point already: found right. Nothing was kept twice.");
    await visit(point, "Rowan", { again: true }).expect(201);
    expect((await get<LubricationPointRecord>(`/api/lube-points/${point}`)).visits).toBeGreaterThan(1);
  });

  it("paper is typed in under its own day, never one to come nor before the last visit", async () => {
    await demo();
    // One that nobody has seen to for a week, whatever the day on which this runs.
    const points = await get<readonly LubricationPointRecord[]>("/api/machines/6/lube-points");
    const { id: point } = points.find((p) => p.lastAt && dayOf(p.lastAt) < dayFrom(-7)) as LubricationPointRecord;
    expect((await visit(point, "Ama", { date: dayFrom(3) }).expect(422)).body.detail).toContain("still to come");
    expect((await visit(point, "Ama", { date: "2019-01-01" }).expect(409)).body.detail).toContain("was visited since");
    const done = (await visit(point, "Ama", { date: dayFrom(-1), found: "dry" }).expect(201))
      .body as LubricationPointRecord;
    expect(done.lastAt && dayOf(done.lastAt)).toBe(dayFrom(-1));
  });

  it("a dry far outlet with wet near ones says where to look, and more friction offers a case", async () => {
    const { machineId } = await newAxis(t);
    const made = (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL))
      .body as LubricationPointRecord[];
    const { id, ...first } = made[0];
    const point = (
      await t.api
        .post(`/api/machines/${machineId}/lube-points`)
        .send({ ...first, place: "X ways, central", way: "central line", outlets: ["a", "b", "c", "d"] })
        .expect(201)
    ).body as LubricationPointRecord;
    const far = (await visit(point.id, "Ama", { outlets: [true, true, false, false] }).expect(201))
      .body as LubricationPointRecord;
    expect(far.asksCase).toContain("Wet as far as b, dry from c on: the line between them.");
    expect((await visit(id, "Ama", { friction: true }).expect(201)).body.asksCase).toBe(
      "More friction than the time before.",
    );
    expect(
      (
        await t.api
          .post(`/api/machines/${machineId}/lube-points`)
          .send({ ...first, place: "X ways, central" })
          .expect(409)
      ).body.detail,
    ).toContain("already");
    const gone = (await t.api.post(`/api/lube-points/${id}/retire`).send({ retired: true }).expect(200))
      .body as LubricationPointRecord;
    expect(gone.retired).toBe(true);
  });

  it("meters: typed, from the simulated machine, taken back; a reset is said; the interval follows", async () => {
    const { machineId } = await newAxis(t);
    const at = `/api/machines/${machineId}/meter`;
    const put = (days: number, hours: number, reset = false) =>
      t.api.post(at).send({ key: randomUUID(), date: dayFrom(days), hours, reset });
    await put(-100, 5000).expect(201);
    const low = await put(-50, 4000).expect(422);
    expect(low.body.detail).toContain("hours is 4000: it must be at least 5000, as read before");
    await put(3, 5100).expect(422);
    await put(-50, 20, true).expect(201);
    const read = (await put(-10, 820).expect(201)).body as MachineMeter[];
    // 800 h in 40 days after the reset.
    expect(read[0]).toMatchObject({
      from: "meter",
      hoursPerDay: 20,
      notes: [],
    });
    await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL);
    const [fast] = await get<LubricationPointRecord[]>(`/api/machines/${machineId}/lube-points`);
    const back = (await t.api.post(`/api/meter-readings/${read[0].readings[0].id}/back`).expect(200))
      .body as MachineMeter[];
    expect(back[0].from).toBe("working week");
    const [slow] = await get<LubricationPointRecord[]>(`/api/machines/${machineId}/lube-points`);
    expect(fast.intervalDays).toBeLessThan(slow.intervalDays);
    expect((await t.api.post(`${at}/device`).expect(200)).body[0].readings[0].date).toBe(dayFrom(0));
    const { travel } = await get<LubricationSettings>("/api/keep-settings");
    expect(travel).toMatchObject([{ machineId, letter: "X", from: "simulated machine" }]);
    expect(travel[0].kmPerHour).toBeGreaterThan(0.01);
  });

  it("lubricants: stock falls by what is given, says when to order; a new name goes to the points", async () => {
    await demo();
    const all = await get<LubricantRecord[]>("/api/lubricants");
    const grease = all.find((l) => l.name.startsWith("grease, lithium"));
    if (!grease) throw new Error("no grease");
    expect(grease.points).toBeGreaterThan(5);
    expect(grease.daysLeft).toBeGreaterThan(0);
    const points = await get<LubricationPointRecord[]>("/api/machines/2/lube-points");
    const nut = points.find((p) => p.lubricant === grease.name && p.doseUnit === "strokes");
    await visit(nut?.id ?? 0, "Ama", { dose: 5 }).expect(201);
    const less = (await get<LubricantRecord[]>("/api/lubricants")).find((l) => l.id === grease.id);
    expect(grease.stockG - (less?.stockG ?? 0)).toBeCloseTo(5 * 0.8, 6);
    const move = (kind: string, grams: number) =>
      t.api.post(`/api/lubricants/${grease.id}/stock`).send({ key: randomUUID(), kind, grams });
    await move("count", 10).expect(201);
    const low = ((await move("in", 2).expect(201)).body as LubricantRecord[]).find((l) => l.id === grease.id);
    expect(low?.stockG).toBeCloseTo(12, 6);
    expect(low?.orderBy).toBe(dayFrom(0));
    const { id, points: _, stockG, countedAt, gramsPerDay, daysLeft, orderBy, ...edit } = grease;
    expect([stockG, countedAt, gramsPerDay, daysLeft, orderBy]).toHaveLength(5);
    await t.api
      .put(`/api/lubricants/${id}`)
      .send({ ...edit, name: "lithium two" })
      .expect(200);
    expect((await get<LubricationPointRecord>(`/api/lube-points/${nut?.id ?? 0}`)).lubricant).toBe("lithium two");
    await t.api
      .post("/api/lubricants")
      .send({ ...edit, name: "lithium two" })
      .expect(409);
  });

  it("the calendar is read back by an independent parser (RFC 5545): one all-day event a visit, updates not duplicates", async () => {
    const before = await demo();
    const read = async () => {
      const answer = await t.api.get("/api/rounds/calendar").expect(200);
      expect(answer.headers["content-type"]).toContain("text/calendar");
      // Lines end in CRLF and none is longer than 75 octets.
      for (const line of answer.text.split("\r\n")) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
      return Object.values(ical.sync.parseICS(answer.text)).filter((e) => e?.type === "VEVENT") as ical.VEvent[];
    };
    const first = await read();
    const days = placed(before);
    expect(first).toHaveLength(days.size);
    for (const [id, date] of days) {
      const event = first.find((e) => e.uid.startsWith(`point-${id}-`));
      expect(event?.datetype).toBe("date");
      const start = event?.start as Date;
      const local = `${start.getFullYear()}-${String(start.getMonth() + 1).padStart(2, "0")}-${String(start.getDate()).padStart(2, "0")}`;
      expect(local).toBe(date);
    }
    // Moved by hand: the same UID, a higher sequence, the new day.
    const [id, was] = [...days][days.size - 1];
    const to = before.days.find((d) => d.available > 0 && d.date !== was)?.date ?? "";
    await hold(id, { kind: "pin", date: to }).expect(200);
    const second = await read();
    const uid = (list: readonly ical.VEvent[]) => list.find((e) => e.uid.startsWith(`point-${id}-`));
    expect(uid(second)?.uid).toBe(uid(first)?.uid);
    expect(Number(uid(second)?.sequence)).toBeGreaterThan(Number(uid(first)?.sequence));
    expect(new Set(second.map((e) => e.uid)).size).toBe(second.length);
  });

  it("a finding opens a case on the axis with its evidence, once; a point of no axis does not", async () => {
    await demo();
    const all = await get<LubricationPointRecord[]>("/api/machines/2/lube-points");
    const nut = all.find((p) => p.place === "X ball nut");
    const air = all.find((p) => p.letter === null);
    await visit(nut?.id ?? 0, "Ama", { found: "dry", glitter: true }).expect(201);
    const made = (await t.api.post(`/api/lube-points/${nut?.id ?? 0}/case`).expect(201)).body as {
      caseId: number;
      axisId: number;
    };
    const again = await t.api.post(`/api/lube-points/${nut?.id ?? 0}/case`).expect(201);
    expect(again.body).toEqual(made);
    const file = await get<{ notes: string; told: Record<string, { answers: object }>; axisIds: number[] }>(
      `/api/cases/${made.caseId}`,
    );
    expect(file.told[file.axisIds[0]].answers).toEqual({ dry: true });
    expect(file.axisIds).toEqual([made.axisId]);
    expect(file.notes.match(/Metal glitter or chips/g)).toHaveLength(1);
    const no = await t.api.post(`/api/lube-points/${air?.id ?? 0}/case`).expect(422);
    expect(no.body.detail).toContain("belongs to no axis");
  });

  it("a photo of a point is kept once; bounds are moved only under a name", async () => {
    const { machineId } = await newAxis(t);
    const [point] = (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL))
      .body as LubricationPointRecord[];
    const dot = Buffer.from(
      "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==",
      "base64",
    );
    const key = randomUUID();
    const send = (body: Buffer) =>
      t.api
        .post(`/api/lube-points/${point.id}/photos?key=${key}&caption=nipple&shows=wiper`)
        .set("content-type", "image/png")
        .set("x-working-as", "Ama")
        .send(body);
    await send(dot).expect(201);
    const kept = (await send(dot).expect(201)).body as LubricationPointRecord;
    expect(kept.photos).toMatchObject([{ caption: "nipple", of: "wiper", by: "Ama" }]);
    const picture = await t.api.get(`/api/lube-photos/${kept.photos[0].id}`).expect(200);
    expect(picture.headers["content-type"]).toBe("image/png");
    await send(Buffer.from("no picture")).expect(422);
    const { id, ...edit } = kept;
    const same = await t.api
      .put(`/api/lube-points/${id}`)
      .set("x-working-as", "Ama")
      .send({ ...edit, minutes: 9 })
      .expect(200);
    expect((same.body as LubricationPointRecord).provenance).toBe("common practice, no source");
    const moved = await t.api
      .put(`/api/lube-points/${id}`)
      .set("x-working-as", "Ama")
      .send({ ...edit, version: edit.version + 1, rule: { ...edit.rule, mostDays: 500 } })
      .expect(200);
    expect((moved.body as LubricationPointRecord).provenance).toContain(
      `bounds ${edit.rule.leastDays} to 500 days by Ama`,
    );
  });

  it("a point that took twice its dose is due sooner, and says so", async () => {
    const { machineId } = await newAxis(t);
    const [point] = (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL))
      .body as LubricationPointRecord[];
    const much = (await visit(point.id, "Ama", { dose: 2 * point.dose }).expect(201)).body as LubricationPointRecord;
    expect(much.intervalDays).toBeLessThan(point.intervalDays);
    expect(much.learnt).toBe("took much more than its dose once");
    const wiped = (await visit(point.id, "Ama", { found: null }).expect(201)).body as LubricationPointRecord;
    expect(wiped.learnt).toBe("");
  });

  it("gives the half-year plan what it needs", async () => {
    await demo();
    const { weeks, points } = await get<Horizon>("/api/horizon");
    expect(weeks).toHaveLength(26);
    expect(weeks[1].minutes).toBe(4 * 90 + 60);
    expect(points.length).toBeGreaterThan(50);
  });
});
