import type { VirtualSoundAsked } from "@iron/core";
import { writeWav, type Axis, type Case, type Diagnosis, type SisterSound, type Sound } from "@iron/contract";
import { newAxis, testApp, type TestApp } from "../testing/test-app";
import { recordSound, sendSound, shortRun } from "../testing/test-sound";

describe("a recording is weighed in the case of its axis", () => {
  let t: TestApp;
  let axis: Axis;
  let file: Case;
  beforeEach(async () => {
    t = await testApp();
    axis = await newAxis(t);
    const made = await t.api
      .post(`/api/machines/${axis.machineId}/cases`)
      .send({ axisIds: [axis.id] })
      .expect(201);
    file = made.body as Case;
  });
  afterEach(() => t.close());

  /** Records this axis with these parts. */
  const record = (parts: VirtualSoundAsked["parts"], passes = 6): Promise<Sound> =>
    recordSound(t, axis, { parts, passes });
  const assess = async (): Promise<Diagnosis> =>
    (await t.api.get(`/api/cases/${file.id}/assessment`).expect(200)).body as Diagnosis;
  const chanceOf = ({ leading }: Diagnosis, id: string): number =>
    leading.find((l) => l.cause.id === id)?.probability ?? 0;

  it("worn bearings are believed more, shown with the recording, and not proven by it", async () => {
    // A sister, to hear it against.
    await newAxis(t);
    const before = await assess();
    expect(before.heard).toBeNull();
    const sound = await record({ bearingPitting: 1 });
    const after = await assess();
    expect(after.heard).toEqual({
      soundId: sound.id,
      said: "recorded, it sounds like worn bearings of the screw",
      at: sound.at,
    });
    expect(chanceOf(after, "end-bearing-worn")).toBeGreaterThan(chanceOf(before, "end-bearing-worn") + 0.1);
    const bearings = after.leading.find((l) => l.cause.id === "end-bearing-worn");
    expect(bearings?.speaksFor).toContainEqual(expect.objectContaining({ ref: `sound ${sound.id}` }));
    expect([after.sure, after.proven]).toEqual([false, []]);
    expect(before.notLookedAt).toContain("Sound comparison");
    expect(after.notLookedAt).not.toContain("Sound comparison");
  });

  it("the latest counts; set aside it counts no more; after work on the axis neither does what was before", async () => {
    const worn = await record({ bearingPitting: 1 });
    const well = await record({});
    expect((await assess()).heard?.soundId).toBe(well.id);
    await t.api.post(`/api/sounds/${well.id}/aside`).send({ reason: "the other machine ran" }).expect(200);
    expect((await assess()).heard?.soundId).toBe(worn.id);
    const at = new Date().toISOString();
    await t.api.post(`/api/axes/${axis.id}/events`).send({ kind: "repair", at, text: "new bearings" }).expect(201);
    expect((await assess()).heard).toBeNull();
  });

  it("one on which the axis was hardly heard is weighed in nothing", async () => {
    const heard = await record({});
    const silence = await sendSound(t, axis.id, {
      bytes: writeWav(new Float32Array(48_000 * 20), 48_000),
      plan: shortRun(axis.config, 4),
    });
    expect(silence.id).toBeGreaterThan(heard.id);
    expect((await assess()).heard?.soundId).toBe(heard.id);
  });

  it("a sister’s recording is offered with whose it is, and compared with more doubt; another kind’s is not", async () => {
    const sound = await record({}, 2);
    const sister = await newAxis(t);
    const offered = async (id: number): Promise<SisterSound[]> =>
      (await t.api.get(`/api/axes/${id}/sister-sounds`).expect(200)).body as SisterSound[];
    const [one, ...more] = await offered(sister.id);
    expect([one.id, one.letter, more]).toEqual([sound.id, axis.config.letter, []]);
    expect(one.machine).not.toBe("");
    expect(await offered(axis.id)).toEqual([]);
    const config = {
      ...axis.config,
      letter: "W",
      screw: { ...axis.config.screw, leadMm: axis.config.screw.leadMm / 2 },
    };
    const other = await t.api.post(`/api/machines/${axis.machineId}/axes`).send({ config }).expect(201);
    expect(await offered((other.body as Axis).id)).toEqual([]);
    await t.api.post(`/api/sounds/${sound.id}/aside`).send({ reason: "a compressor" }).expect(200);
    expect(await offered(sister.id)).toEqual([]);
    await t.api.get("/api/axes/999/sister-sounds").expect(404);
  });

  it("a motor that ran alone is kept and compared, but weighed in no case, and is not how the axis sounds", async () => {
    const parts = { bearingPitting: 1, motorPitting: 0.8 };
    const coupled = await record(parts);
    const plan = { ...shortRun(axis.config, 6), motorAlone: true };
    const alone = await recordSound(t, axis, { parts, plan });
    expect(alone).toMatchObject({ state: "kept", plan: { motorAlone: true } });
    expect(alone.result?.chances).toEqual({});
    expect(new Set(alone.result?.lines.map((l) => l.family))).toEqual(new Set(["turn", "deep-groove"]));
    expect((await assess()).heard?.soundId).toBe(coupled.id);
    await t.api.get(`/api/sounds/${alone.id}/beside/${coupled.id}`).expect(200);
    await t.api.post(`/api/sounds/${alone.id}/well`).send({ well: true }).expect(409);
    const sister = await newAxis(t);
    const offered = (await t.api.get(`/api/axes/${sister.id}/sister-sounds`).expect(200)).body as SisterSound[];
    expect(offered.map((s) => s.id)).toEqual([coupled.id]);
  });
});
