import { usualSoundPlan, virtualSound } from "@iron/core";
import {
  LARGEST_SOUND_PART,
  writeWav,
  type Axis,
  type Case,
  type Diagnosis,
  type SisterSound,
  type Sound,
} from "@iron/contract";
import { randomUUID } from "node:crypto";
import { newAxis, testApp, type TestApp } from "../testing/test-app";

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

  async function send(bytes: Uint8Array, plan: Sound["plan"]): Promise<Sound> {
    const begun = await t.api
      .post(`/api/axes/${axis.id}/sounds`)
      .send({ key: randomUUID(), plan, source: "file", bytes: bytes.length, place: "", ownGain: false })
      .expect(201);
    const { id } = begun.body as Sound;
    for (let from = 0; from < bytes.length; from += LARGEST_SOUND_PART)
      await t.api
        .put(`/api/sounds/${id}/parts/${from}`)
        .set("Content-Type", "application/octet-stream")
        .send(Buffer.from(bytes.slice(from, from + LARGEST_SOUND_PART)))
        .expect(200);
    return (await t.api.post(`/api/sounds/${id}/finish`).expect(200)).body as Sound;
  }
  const planned = (passes: number): Sound["plan"] => ({ ...usualSoundPlan(axis.config), stillS: 2, passes });
  /** Records this axis with these parts. */
  function record(parts: Parameters<typeof virtualSound>[1]["parts"], passes = 6): Promise<Sound> {
    const run = { ...planned(passes), accelMmS2: 1800 };
    const { samples } = virtualSound(axis.config, { parts, run, roomDb: -20, machine: 4, seed: 21 });
    return send(writeWav(samples, 48_000), planned(passes));
  }
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
    const silence = await send(writeWav(new Float32Array(48_000 * 20), 48_000), planned(4));
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
});
