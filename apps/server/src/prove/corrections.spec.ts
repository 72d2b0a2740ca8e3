import { defaultVirtualAxis, unevenPlaces, usualCorrectionRules, type VirtualAxis } from "@iron/core";
import {
  parseTypedTable,
  type Axis,
  type CorrectionCreate,
  type CorrectionRecord,
  type Corrections,
  type CorrectionTrial,
  type Run,
} from "@iron/contract";
import { fromJson, toJson } from "../store/columns";
import { newAxis, SETUP, startRun, testApp, type TestApp } from "../testing/test-app";

const SCALE = { ...SETUP.indicator, name: "Scale", resolutionMm: 0.0005, rangeMm: 1000 };

describe("compensation tables", () => {
  let t: TestApp;
  let axis: Axis;
  beforeEach(async () => {
    t = await testApp({ simulate: true });
    axis = await newAxis(t);
  });
  afterEach(() => t.close());

  /** Makes the virtual axis behind the connected indicator what it is in this test. */
  async function truth(over: Partial<VirtualAxis>): Promise<void> {
    await t.api.get(`/api/axes/${axis.id}/device`).expect(200);
    const model = { ...defaultVirtualAxis(axis.config, 7), drift: { totalMm: 0, tauS: 900 }, ...over };
    await t.db
      .updateTable("virtual_axis")
      .set({ model: toJson(model), state: null })
      .execute();
    // A configuration kept anew is opened anew.
    await t.api.put(`/api/axes/${axis.id}`).send({ config: axis.config, version: axis.version }).expect(200);
    axis = (await t.api.get(`/api/axes/${axis.id}`).expect(200)).body as Axis;
  }
  async function profile(over: object = {}): Promise<Run> {
    const plan = {
      kind: "travel-profile" as const,
      targetsMm: unevenPlaces([15, 485], 25, 10),
      runs: 3,
      overTravelMm: 10,
      keepsZero: true,
      ...over,
    };
    const run = await startRun(t, axis.id, { plan, setup: { surface: "reference scale", indicator: SCALE } });
    await t.api
      .post(`/api/axes/${axis.id}/device/program`)
      .send({ runId: run.id, feedMmMin: 3000, dwellS: 2 })
      .expect(200);
    return (await t.api.get(`/api/runs/${run.id}`).expect(200)).body as Run;
  }
  const asked = (runId: number, over: Partial<CorrectionCreate> = {}): CorrectionCreate => ({
    runId,
    rules: usualCorrectionRules(500),
    warmth: { carrierC: 20, referenceC: 20, carrierPerK: 11.5, referencePerK: 8, uK: 0.5 },
    laser: null,
    referenceUPerM: 0.001,
    old: null,
    note: "",
    ...over,
  });
  const keep = async (given: CorrectionCreate): Promise<CorrectionRecord> =>
    (await t.api.post(`/api/axes/${axis.id}/corrections`).send(given).expect(201)).body as CorrectionRecord;
  const record = async (id: number): Promise<CorrectionRecord> =>
    (await t.api.get(`/api/corrections/${id}`).expect(200)).body as CorrectionRecord;

  it("is made, entered in the simulated control, read again, and does what it promised; then a wrong sign is told", async () => {
    await truth({ pitchErrorMm: 0.05, slowError: { amplitudeMm: 0.006, waveMm: 450 } });
    const first = await profile();
    expect(first.state).toBe("finished");
    const tried = (await t.api.post(`/api/axes/${axis.id}/corrections/try`).send(asked(first.id)).expect(200))
      .body as CorrectionTrial;
    expect(tried.may.refused).toEqual([]);
    expect(((await t.api.get(`/api/axes/${axis.id}/corrections`).expect(200)).body as Corrections).versions).toEqual(
      [],
    );
    const made = await keep(asked(first.id, { note: "after the new bearings" }));
    expect(made).toMatchObject({ version: 1, active: false, entered: null, after: [], simulated: true });
    expect(made.prediction.before.meanRange).toBeGreaterThan(0.04);
    const entered = (
      await t.api.post(`/api/corrections/${made.id}/enter`).send({ how: "simulated control" }).expect(200)
    ).body as CorrectionRecord;
    expect(entered).toMatchObject({ active: true, entered: { how: "simulated control", by: "Rowan" } });
    const again = await profile();
    // Which table stood in the control while a profile was read, not which stands there now.
    const { profiles } = (await t.api.get(`/api/axes/${axis.id}/corrections`).expect(200)).body as Corrections;
    expect(profiles.map((p) => [p.runId, p.activeId])).toEqual([
      [again.id, made.id],
      [first.id, null],
    ]);
    const seen = await record(made.id);
    expect(seen.after).toHaveLength(1);
    expect(seen.after[0]).toMatchObject({ runId: again.id, compared: { as: "as-made" } });
    expect(seen.after[0].meanRangeMm).toBeLessThan(0.25 * made.prediction.before.meanRange);
    // Somebody types it in with the other sign.
    const row = await t.db.selectFrom("virtual_axis").selectAll().executeTakeFirstOrThrow();
    const model = fromJson(row.model);
    const { correction } = model;
    if (!correction) throw new Error("the control holds no table");
    await truth({ ...model, correction: { ...correction, upMm: correction.upMm.map((v) => -v) } });
    await profile();
    expect((await record(made.id)).after[0].compared).toMatchObject({ as: "wrong-sign", sure: true });
    // Taken out, it stands in the control no more; its record stays.
    const list = (
      await t.api.post(`/api/axes/${axis.id}/corrections/take-out`).send({ reason: "wrong sign" }).expect(200)
    ).body as Corrections;
    expect(list.versions.map((v) => [v.version, v.active, v.note])).toEqual([[1, false, "after the new bearings"]]);
    expect(
      fromJson((await t.db.selectFrom("virtual_axis").selectAll().executeTakeFirstOrThrow()).model).correction,
    ).toBeUndefined();
    await t.api.post(`/api/axes/${axis.id}/corrections/take-out`).send({ reason: "" }).expect(409);
  }, 60_000);

  it("is refused while the screw is worn in its middle, with what was found; nothing is kept", async () => {
    await truth({ wear: { linkId: "nut", centreMm: 250, widthMm: 60, extraMm: 0.02 } });
    const run = await profile();
    const trial = (await t.api.post(`/api/axes/${axis.id}/corrections/try`).send(asked(run.id)).expect(200))
      .body as CorrectionTrial;
    expect(trial.may.refused.map((r) => r.code)).toContain("worn-at-a-place");
    const refusal = (await t.api.post(`/api/axes/${axis.id}/corrections`).send(asked(run.id)).expect(409)).body as {
      detail: string;
    };
    expect(refusal.detail).toContain("The mechanics come first");
    expect(((await t.api.get(`/api/axes/${axis.id}/corrections`).expect(200)).body as Corrections).versions).toEqual(
      [],
    );
  }, 60_000);

  it("numbers read back are held against the sheet, and the file comes back as what was typed", async () => {
    await truth({ pitchErrorMm: 0.05 });
    const run = await profile({ runs: 2 });
    const rules = { ...usualCorrectionRules(500), form: "step" as const, counted: "-" as const, ways: "two" as const };
    const made = await keep(asked(run.id, { rules }));
    const csv = await t.api.get(`/api/corrections/${made.id}/export`).expect(200);
    const typed = parseTypedTable(csv.text);
    expect(typed.errors).toEqual([]);
    expect(typed.up).toHaveLength(21);
    const enter = (up: readonly number[]) =>
      t.api.post(`/api/corrections/${made.id}/enter`).send({ how: "read back", up, down: typed.down });
    const wrong = typed.up.map((v, i) => (i === 4 ? v + 10 : v));
    expect((await enter(wrong).expect(422)).body.detail).toContain(
      `Point 5 is ${typed.up[4] + 10}: it must be ${typed.up[4]}.`,
    );
    expect((await record(made.id)).active).toBe(false);
    await enter(typed.up).expect(200);
    expect(await record(made.id)).toMatchObject({ active: true, entered: { how: "read back" } });
    // It was only typed, by somebody, into something: the simulated control knows nothing of it.
    expect(
      fromJson((await t.db.selectFrom("virtual_axis").selectAll().executeTakeFirstOrThrow()).model).correction,
    ).toBeUndefined();
    const json = JSON.parse(
      (await t.api.get(`/api/corrections/${made.id}/export?format=json`).expect(200)).text,
    ) as CorrectionRecord;
    expect(json.made.table).toEqual(made.made.table);
  }, 60_000);

  it("says what cannot be: another axis’ test, one without a reference, rules that do not fit, a table that was never", async () => {
    const other = await startRun(t, axis.id);
    const no = async (given: CorrectionCreate): Promise<string> =>
      (await t.api.post(`/api/axes/${axis.id}/corrections/try`).send(given).expect(422)).body.detail as string;
    expect(await no(asked(other.id))).toContain("is no finished travel profile along one reference");
    await truth({});
    const run = await profile({ runs: 1, targetsMm: [100, 250, 400], overTravelMm: 30 });
    expect(await no(asked(run.id, { rules: { ...usualCorrectionRules(500), points: 60 } }))).toContain(
      "last point is 1475: it must be at most 525 mm",
    );
    const short = { rules: usualCorrectionRules(500), up: [0, 1, 2], down: null };
    expect(await no(asked(run.id, { old: short }))).toContain("number of values is 3: it must be 21");
    await t.api.get("/api/corrections/99").expect(404);
    const trial = (await t.api.post(`/api/axes/${axis.id}/corrections/try`).send(asked(run.id)).expect(200))
      .body as CorrectionTrial;
    expect(trial.prediction.unseenRangeMm).toBeNull();
    expect(trial.prediction.missing.length).toBeGreaterThan(0);
  }, 60_000);

  it("a repair since makes it a table for what was there before", async () => {
    await truth({ pitchErrorMm: 0.05 });
    const made = await keep(asked((await profile({ runs: 2 })).id));
    expect(made.workedOnAt).toBeNull();
    const at = new Date(Date.now() + 1000).toISOString();
    await t.api.post(`/api/axes/${axis.id}/events`).send({ kind: "repair", text: "screw renewed", at }).expect(201);
    expect((await record(made.id)).workedOnAt).toBe(at);
  }, 60_000);
});
