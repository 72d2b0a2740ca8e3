import type { VirtualSoundAsked } from "@iron/core";
import type { Axis, Floor, FloorAxis, Problem, Sound } from "@iron/contract";
import { newAxis, testApp, type TestApp } from "../testing/test-app";
import { recordSound, sendSound, shortRun } from "../testing/test-sound";
import { summariesOf } from "../machine/axis-summary";

const WORN: VirtualSoundAsked["parts"] = { bearingPitting: 1 };

describe("how an axis sounds when it is well", () => {
  let t: TestApp;
  let axis: Axis;
  beforeEach(async () => {
    t = await testApp();
    axis = await newAxis(t);
  });
  afterEach(() => t.close());

  const record = (parts: VirtualSoundAsked["parts"], more: Partial<Sound> & { readonly seed?: number } = {}) => {
    const { bytes: _, ...rest } = more;
    return recordSound(t, axis, { parts, place: "On the column", ...rest });
  };
  const keep = (id: number, well = true) => t.api.post(`/api/sounds/${id}/well`).send({ well });
  const list = async (): Promise<Sound[]> =>
    (await t.api.get(`/api/axes/${axis.id}/sounds`).expect(200)).body as Sound[];
  /** What the floor says, and that its line was kept with the change that made it. */
  async function floor(): Promise<FloorAxis["sound"]> {
    const { machines } = (await t.api.get("/api/floor").expect(200)).body as Floor;
    const line = machines.flatMap((m) => m.axes).find((a) => a.id === axis.id);
    const [kept] = await t.db.selectFrom("axis_summary").selectAll().where("axis_id", "=", axis.id).execute();
    expect(JSON.parse(kept.summary)).toEqual(line);
    expect((await summariesOf(t.db, [axis.id])).get(axis.id)).toEqual(line);
    return line?.sound ?? null;
  }
  const worked = (): Promise<unknown> =>
    t.api
      .post(`/api/axes/${axis.id}/events`)
      .send({ kind: "repair", at: new Date().toISOString(), text: "new bearings" })
      .expect(201);

  it("a pitted bearing is told on the floor beside it; set aside, it is not", async () => {
    expect(await floor()).toBeNull();
    const well = (await keep((await record({}, { seed: 1 })).id).expect(200)).body as Sound;
    expect(well).toMatchObject({ well: true, drift: null });
    const alike = await record({}, { seed: 2 });
    expect(alike.drift).toMatchObject({ wellId: well.id, grown: false });
    expect(await floor()).toEqual({ lastAt: alike.at, workedAt: null, ever: true, grown: null });
    const worn = await record(WORN, { seed: 3 });
    expect(worn.drift).toMatchObject({ wellId: well.id, grown: true });
    const said = await floor();
    expect(said?.grown).toEqual({
      ...{ soundId: worn.id, midHz: worn.drift?.midHz, louderDb: worn.drift?.louderDb, uDb: worn.drift?.uDb },
      over: worn.drift?.state === "act",
    });
    expect((await list()).map((s) => s.drift?.grown)).toEqual([true, false, undefined]);
    await t.api.post(`/api/sounds/${worn.id}/aside`).send({ reason: "the conveyor ran" }).expect(200);
    expect(await floor()).toMatchObject({ lastAt: alike.at, grown: null });
  });

  it("after work on the axis what was before counts no more; what is recorded then does", async () => {
    const well = await record({}, { seed: 1 });
    await keep(well.id).expect(200);
    await record(WORN, { seed: 2 });
    expect((await floor())?.grown).not.toBeNull();
    await worked();
    expect(await floor()).toMatchObject({ lastAt: null, ever: true, grown: null });
    const mended = await record({}, { seed: 3 });
    expect(mended.drift).toBeNull();
    expect(await floor()).toMatchObject({ lastAt: mended.at, grown: null });
    // What it was before is still held beside what it was then.
    expect((await list()).map((s) => s.drift?.wellId ?? null)).toEqual([null, well.id, null]);
  });

  it("is said again without change, is taken back, and outlives neither", async () => {
    const { id } = await record({}, { seed: 1 });
    const worn = await record(WORN, { seed: 2 });
    await keep(id).expect(200);
    await keep(id).expect(200);
    expect(await t.db.selectFrom("sound_well").selectAll().execute()).toHaveLength(1);
    expect((await floor())?.grown?.soundId).toBe(worn.id);
    expect(((await keep(id, false).expect(200)).body as Sound).well).toBe(false);
    expect((await floor())?.grown).toBeNull();
    await expect(t.db.deleteFrom("sound_well").execute()).rejects.toMatchObject({
      message: expect.stringContaining("append-only") as string,
    });
  });

  it("is none of which nothing can be said, that is set aside, or whose level is its microphone’s", async () => {
    const refused = async (id: number): Promise<string> => ((await keep(id).expect(409)).body as Problem).detail;
    const own = await record({}, { seed: 1, ownGain: null });
    expect(await refused(own.id)).toContain("turned itself up or down");
    const nothing = await sendSound(t, axis.id, {
      bytes: Buffer.from("no WAV file at all".repeat(99)),
      plan: shortRun(axis.config, 2),
    });
    expect(await refused(nothing.id)).toContain("Nothing can be said");
    const { id } = await record({}, { seed: 2 });
    await t.api.post(`/api/sounds/${id}/aside`).send({ reason: "somebody whistled" }).expect(200);
    expect(await refused(id)).toContain("set aside: somebody whistled");
    await keep(999).expect(404);
    expect(((await t.api.post(`/api/sounds/${id}/well`).send({}).expect(422)).body as Problem).title).toBe("Not valid");
  });

  it("a recording that waited was made when it was made; a clock that stands wrong is not believed", async () => {
    const days = (n: number): string => new Date(Date.now() + n * 86_400_000).toISOString();
    const yesterday = days(-1);
    expect((await record({}, { at: yesterday })).at).toBe(yesterday);
    for (const wrong of [days(-400), days(3)]) {
      const before = new Date().toISOString();
      const { at } = await record({}, { at: wrong });
      expect(at >= before && at <= new Date().toISOString()).toBe(true);
    }
  });
});
