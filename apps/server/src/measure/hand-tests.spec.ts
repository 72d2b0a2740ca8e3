import { defaultHandTest } from "@iron/core";
import type { HandTest } from "@iron/contract";
import { randomUUID } from "node:crypto";
import { newAxis, testApp, type TestApp } from "../testing/test-app";

describe("series of readings", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp();
  });
  afterEach(() => t.close());

  async function begin(): Promise<{ handTest: HandTest; axisId: number }> {
    const axis = await newAxis(t);
    const plan = defaultHandTest(axis.config, "crest-run");
    const made = await t.api.post(`/api/axes/${axis.id}/series`).send({ plan }).expect(201);
    return { handTest: made.body as HandTest, axisId: axis.id };
  }
  const point = (step: number, value: number | null, key = randomUUID()) => ({
    key,
    step,
    value,
    entered: String(value),
  });

  it("keeps each reading as it comes, the same key once, and the last of a step", async () => {
    const { handTest } = await begin();
    const at = `/api/series/${handTest.id}/points`;
    const first = point(0, 0.01);
    await t.api.post(at).send(first).expect(201);
    await t.api.post(at).send(first).expect(201);
    const taken = await t.api.post(at).send(point(0, null)).expect(201);
    expect((taken.body as HandTest).points.map((p) => p.value)).toEqual([0.01, null]);
    const wrong = await t.api.post(at).send(point(99, 1)).expect(422);
    expect(wrong.body.detail).toContain("Step 99 is not in this series: it has steps 0 to 17.");
    const far = await t.api.post(at).send(point(1, 1e9)).expect(422);
    expect(far.body.detail).toBe("That reading is out of all reach.");
    await expect(t.db.updateTable("series_point").set({ value: 5 }).execute()).rejects.toMatchObject({
      message: expect.stringContaining("append-only"),
    });
  });

  it("the simulated machine answers every step, and the axis lists the series", async () => {
    const { handTest, axisId } = await begin();
    for (let step = 0; step < 18; step += 1)
      await t.api.post(`/api/series/${handTest.id}/device`).set("x-working-as", "Ama").send({ step }).expect(200);
    const [listed] = (await t.api.get(`/api/axes/${axisId}/series`).expect(200)).body as HandTest[];
    expect(listed.state).toBe("finished");
    expect(listed.points).toHaveLength(18);
    expect(listed.points[0]).toMatchObject({ source: "device", by: "Ama" });
  });

  it("a test by hand is told in words; others are refused by name; its readings stand behind the result", async () => {
    const axis = await newAxis(t);
    const plan = defaultHandTest(axis.config, "coast");
    const { id } = (await t.api.post(`/api/axes/${axis.id}/series`).send({ plan }).expect(201)).body as HandTest;
    const wrong = await t.api.post(`/api/series/${id}/points`).send(point(0, 7)).expect(422);
    expect(wrong.body.detail).toContain("Answer 7 is not there: this step is told in words, 0 to 2: will not turn;");
    for (let step = 0; step < 6; step += 1)
      await t.api.post(`/api/series/${id}/points`).send(point(step, 1)).expect(201);
    expect((await t.api.get(`/api/series/${id}`)).body.state).toBe("finished");
    const opened = (
      await t.api
        .post(`/api/machines/${axis.machineId}/cases`)
        .send({ axisIds: [axis.id] })
        .expect(201)
    ).body as { id: number };
    const result = {
      axisId: axis.id,
      test: "coast",
      answers: { "coasts-free": false },
      note: "",
      data: { kind: "series", seriesId: id },
    };
    await t.api.post(`/api/cases/${opened.id}/results`).send(result).expect(201);
    const gone = await t.api
      .post(`/api/cases/${opened.id}/results`)
      .send({ ...result, data: { kind: "series", seriesId: 999 } })
      .expect(404);
    expect(gone.body.detail).toContain("999");
  });

  it("refuses what the axis does not have and plans out of bounds, in words", async () => {
    const { handTest, axisId } = await begin();
    const gib = await t.api
      .post(`/api/axes/${axisId}/series`)
      .send({ plan: { ...handTest.plan, kind: "gib-curve" } })
      .expect(422);
    expect(gib.body.detail).toBe("This guideway has no gib.");
    const far = await t.api
      .post(`/api/axes/${axisId}/series`)
      .send({ plan: { ...handTest.plan, places: [1, 2, 3, 4, 99999] } })
      .expect(422);
    expect(far.body.detail).toContain("place is 99999: it must be from 0 to 500 mm");
    await t.api.get("/api/series/4711").expect(404);
  });
});
