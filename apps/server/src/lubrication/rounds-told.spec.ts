import type { Rounds } from "@iron/contract";
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
});
