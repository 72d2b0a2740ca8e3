import { NOTHING_TOLD, type Case, type Knowledge, type Told } from "@iron/contract";
import { newAxis, testApp, type TestApp } from "../testing/test-app";

describe("what closed cases teach", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp();
  });
  afterEach(() => t.close());

  /** A case in which this was told, closed with what it was. */
  async function closed(told: Partial<Told>, found: readonly string[]): Promise<void> {
    const axis = await newAxis(t);
    const made = await t.api
      .post(`/api/machines/${axis.machineId}/cases`)
      .send({ axisIds: [axis.id] })
      .expect(201);
    const { id, version, context, notes } = made.body as Case;
    const kept = await t.api
      .put(`/api/cases/${id}`)
      .send({ version, context, notes, told: { [axis.id]: { ...NOTHING_TOLD, ...told } } })
      .expect(200);
    await t.api
      .post(`/api/cases/${id}/close`)
      .send({ version: (kept.body as Case).version, found, words: "as it was" })
      .expect(200);
  }
  const knowledge = async (): Promise<Knowledge> => (await t.api.get("/api/knowledge").expect(200)).body as Knowledge;
  const learned = async (id: string): Promise<number> =>
    (await knowledge()).causes.find((c) => c.id === id)?.learned ?? NaN;

  it("a cause that was told of, and was it, teaches less than one that nothing spoke for", async () => {
    await closed({ allTold: true, answers: { rumble: true, "tight-turn": false } }, ["end-bearing-worn"]);
    const expected = await learned("end-bearing-worn");
    await t.close();
    t = await testApp();
    await closed({ allTold: true, answers: { rumble: false, "lost-motion": true } }, ["end-bearing-worn"]);
    expect(await learned("end-bearing-worn")).toBeGreaterThan(expected);
    expect(expected).toBeGreaterThan(1);
  });

  it("that nothing was wrong is counted like a cause, most where something seemed to be", async () => {
    expect((await knowledge()).nothingWrong).toBe(1);
    await closed({ allTold: true, answers: { rumble: true, howl: true } }, []);
    const { nothingWrong } = await knowledge();
    expect(nothingWrong).toBeGreaterThan(1.07);
    expect(nothingWrong).toBeLessThan(1.09);
    await closed({ allTold: true, answers: { "no-motion": false } }, ["nut-worn"]);
    expect((await knowledge()).nothingWrong).toBeLessThan(nothingWrong);
  });
});
