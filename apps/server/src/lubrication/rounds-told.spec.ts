import type { LubricationPointRecord, Rounds } from "@iron/contract";
import { randomUUID } from "node:crypto";
import { systemClock } from "../shop/clock";
import { testApp, type TestApp } from "../testing/test-app";

describe("rounds that are told", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp({ demo: true });
    t.app.tend();
    // No two looks at the clock see the same.
    let now = Date.now();
    jest.spyOn(systemClock, "now").mockImplementation(() => new Date((now += 7)));
  });
  afterEach(async () => {
    jest.restoreAllMocks();
    await t.close();
  });
  const get = async (): Promise<Rounds> => (await t.api.get("/api/rounds").expect(200)).body as Rounds;
  const placed = (r: Rounds): Map<number, string> =>
    new Map(r.days.flatMap((d) => d.stops.flatMap((s) => s.points.map((p) => [p.id, d.date] as const))));
  const hold = (id: number, body: object) =>
    t.api
      .post(`/api/lube-points/${id}/holds`)
      .set("x-working-as", "Ama")
      .send({ key: randomUUID(), reason: "", date: null, ...body });

  it("a pin is respected, the rest keeps its day, and the plan says what changed and why", async () => {
    const before = await get();
    const open = before.days.filter((d) => d.available > 0);
    const was = placed(before);
    const [id] = [...was.keys()].slice(-1);
    const to = open.find((d) => d.date !== was.get(id))?.date ?? "";
    const after = (await hold(id, { kind: "pin", date: to, reason: "machine free then" }).expect(200)).body as Rounds;
    const now = placed(after);
    expect(now.get(id)).toBe(to);
    expect([...was].filter(([p, d]) => p !== id && now.get(p) !== d)).toEqual([]);
    expect(after.changes).toHaveLength(1);
    expect(after.changes[0].why).toBe("put there by Ama: machine free then");
    // Again the same: nothing moves, the last change still stands to be read.
    const again = await get();
    expect([...placed(again)].sort()).toEqual([...now].sort());
    expect(again.changes).toEqual(after.changes);
    const afresh = (await t.api.post("/api/rounds/plan").expect(200)).body as Rounds;
    expect(placed(afresh).get(id)).toBe(to);
    const free = (await hold(id, { kind: "free" }).expect(200)).body as Rounds;
    // Let go it may stay where it is, which follows from today: then what changed last still stands to be read.
    const told = placed(free).get(id) === to ? afresh.changes : [{ id, why: "no longer held by hand" }];
    expect(free.changes).toMatchObject(told);
  });

  it("who looks right after a change is told the same as whoever looks later", async () => {
    const [id] = placed(await get()).keys();
    await t.api
      .post(`/api/lube-points/${id}/visits`)
      .send({ key: randomUUID(), found: "right", dose: 3, glitter: false, words: "" })
      .expect(201);
    const first = await get();
    expect(first.changes.map((c) => c.id)).toEqual([id]);
    // Any write has the next answer made anew; this one is no matter of the rounds.
    await t.api
      .post("/api/machines/1/cases")
      .send({ axisIds: [1], symptoms: [] })
      .expect(201);
    const again = await get();
    expect([...placed(again)]).toEqual([...placed(first)]);
    expect([again.changes, again.changedAt, again.against]).toEqual([first.changes, first.changedAt, first.against]);
  });

  it("who takes a visit back that was never kept takes nobody else’s back instead", async () => {
    const [id] = placed(await get()).keys();
    const visit = (who: string, over: object) =>
      t.api
        .post(`/api/lube-points/${id}/visits`)
        .set("x-working-as", who)
        .send({ key: randomUUID(), found: "right", dose: 3, glitter: false, words: "", ...over });
    const [hers, mine] = [randomUUID(), randomUUID()];
    await visit("Rowan", { key: hers }).expect(201);
    await visit("Ama", { key: mine, found: "dry" }).expect(409);
    const refused = await visit("Ama", { found: null, takesBack: mine }).expect(409);
    expect((refused.body as { detail: string }).detail).toMatch(
      /^The last visit to this point is another, of .* by Rowan: nothing was taken back\.$/,
    );
    const there = async () => (await t.api.get(`/api/lube-points/${id}`).expect(200)).body as LubricationPointRecord;
    const { visits, lastFound } = await there();
    expect(lastFound).toBe("right");
    await visit("Rowan", { found: null, takesBack: hers }).expect(201);
    expect((await there()).visits).toBe(visits - 1);
  });
});
