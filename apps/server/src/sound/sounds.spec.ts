import { usualSoundPlan, virtualSound, type SoundComparison, type SoundPlan } from "@iron/core";
import { LARGEST_SOUND_PART, writeWav, type Axis, type Problem, type Sound } from "@iron/contract";
import { randomUUID } from "node:crypto";
import { newAxis, testApp, type TestApp } from "../testing/test-app";

/** As short as a recording may be. */
const shortPlan = (axis: Axis): SoundPlan => ({ ...usualSoundPlan(axis.config), stillS: 2, passes: 2 });

describe("recordings of an axis", () => {
  let t: TestApp;
  let axis: Axis;
  let plan: SoundPlan;
  let file: Uint8Array;
  beforeAll(async () => {
    t = await testApp({ simulate: true });
    axis = await newAxis(t);
    plan = shortPlan(axis);
    const run = { ...plan, accelMmS2: 1800 };
    const heard = virtualSound(axis.config, { parts: { bearingPitting: 1 }, run, roomDb: -20, machine: 3, seed: 8 });
    file = writeWav(heard.samples, 48_000);
  });
  afterAll(() => t.close());

  const begin = async (over: object = {}): Promise<Sound> =>
    (
      await t.api
        .post(`/api/axes/${axis.id}/sounds`)
        .send({
          key: randomUUID(),
          plan,
          source: "file",
          bytes: file.length,
          place: "On the column",
          ownGain: false,
          ...over,
        })
        .expect(201)
    ).body as Sound;
  const part = (id: number, from: number, to: number) =>
    t.api
      .put(`/api/sounds/${id}/parts/${from}`)
      .set("Content-Type", "application/octet-stream")
      .send(Buffer.from(file.slice(from, to)));
  const sendAll = async (sound: Sound): Promise<Sound> => {
    for (let from = 0; from < file.length; from += LARGEST_SOUND_PART)
      await part(sound.id, from, Math.min(file.length, from + LARGEST_SOUND_PART)).expect(200);
    return (await t.api.post(`/api/sounds/${sound.id}/finish`).expect(200)).body as Sound;
  };

  it("come in parts, are worked out, and go as they came", async () => {
    const sound = await sendAll(await begin());
    expect(sound).toMatchObject({ state: "kept", why: "", source: "file", received: file.length });
    expect(sound.result?.lines.find((l) => l.family === "end-bearing")?.chance).toBeLessThan(1e-6);
    expect(sound.result?.orders.length).toBeGreaterThan(100);
    expect(sound.result?.troubles).toEqual([]);
    const wav = await t.api.get(`/api/sounds/${sound.id}/wav`).expect(200).expect("Content-Type", "audio/wav");
    expect(Buffer.from(wav.body as Buffer).equals(Buffer.from(file))).toBe(true);
    const list = (await t.api.get(`/api/axes/${axis.id}/sounds`).expect(200)).body as Sound[];
    expect(list[0].id).toBe(sound.id);
    expect((await t.api.post(`/api/sounds/${sound.id}/finish`).expect(200)).body).toEqual(sound);
  });

  it("broken off are gone on with where they were: the same part again changes nothing, a gap is refused", async () => {
    const key = randomUUID();
    const begun = await begin({ key });
    await part(begun.id, 0, 400_000).expect(200);
    expect((await begin({ key })).received).toBe(400_000);
    expect(((await part(begun.id, 0, 400_000).expect(200)).body as Sound).received).toBe(400_000);
    const gap = (await part(begun.id, 500_000, 600_000).expect(409)).body as Problem;
    expect(gap.detail).toContain("from byte 400000 on comes first");
    const early = (await t.api.post(`/api/sounds/${begun.id}/finish`).expect(409)).body as Problem;
    expect(early.detail).toBe(`${file.length - 400_000} bytes of it are still to come.`);
    const long = (await part(begun.id, 400_000, 400_001).expect(200)).body as Sound;
    expect(long).toMatchObject({ received: 400_001, state: "arriving" });
  });

  it("longer than they were announced, or empty, are refused by name and bound", async () => {
    const begun = await begin({ bytes: 2000 });
    expect(((await part(begun.id, 0, 2001).expect(422)).body as Problem).detail).toContain("2000 bytes");
    expect(((await part(begun.id, 0, 0).expect(422)).body as Problem).detail).toContain("this one has 0");
    const before = t.api.put(`/api/sounds/${begun.id}/parts/-1`).set("Content-Type", "application/octet-stream");
    expect(((await before.send("x").expect(422)).body as Problem).detail).toContain("0 or more");
  });

  it("that are no WAV file are kept, refused, with why", async () => {
    const begun = await begin({ bytes: 1500 });
    await t.api
      .put(`/api/sounds/${begun.id}/parts/0`)
      .set("Content-Type", "application/octet-stream")
      .send(Buffer.alloc(1500, 65))
      .expect(200);
    const refused = (await t.api.post(`/api/sounds/${begun.id}/finish`).expect(200)).body as Sound;
    expect(refused).toMatchObject({ state: "refused", result: null, why: "it is no WAV file, or not a whole one" });
  });

  it("of a run that the axis cannot make are not begun", async () => {
    const no = async (over: Partial<SoundPlan>): Promise<string> =>
      (
        (
          await t.api
            .post(`/api/axes/${axis.id}/device/sound`)
            .send({ plan: { ...plan, ...over }, place: "" })
            .expect(422)
        ).body as Problem
      ).detail;
    expect(await no({ feedMmMin: 90_000 })).toContain("at most the rapid feed");
    expect(await no({ strokeMm: 9000 })).toContain("at most the travel");
    expect(await no({ passes: 30 })).toContain("at most 60 s are recorded");
  });

  it("are held beside others at the same feed alone, and only where no gain moved by itself", async () => {
    const simulate = async (over: Partial<SoundPlan> = {}): Promise<Sound> =>
      (
        await t.api
          .post(`/api/axes/${axis.id}/device/sound`)
          .send({ plan: { ...plan, ...over }, place: "On the column" })
          .expect(201)
      ).body as Sound;
    const [one, slow] = [await simulate(), await simulate({ feedMmMin: 0.8 * plan.feedMmMin })];
    expect(one).toMatchObject({ source: "simulated", state: "kept", ownGain: false });
    const beside = async (a: Sound, b: Sound): Promise<SoundComparison> =>
      (await t.api.get(`/api/sounds/${a.id}/beside/${b.id}`).expect(200)).body as SoundComparison;
    const worn = await sendAll(await begin());
    const said = await beside(worn, one);
    expect(said.code === "compared" && said.whole.differenceDb > 0).toBe(true);
    expect((await beside(one, slow)).code).toBe("feed-differs");
    expect((await beside(one, await sendAll(await begin({ ownGain: null })))).code).toBe("own-gain");
  });

  it("are set aside with a reason, once, and stay", async () => {
    const begun = await begin();
    const aside = `/api/sounds/${begun.id}/aside`;
    expect(((await t.api.post(aside).send({ reason: " " }).expect(422)).body as Problem).title).toBeTruthy();
    const kept = (await t.api.post(aside).send({ reason: "The compressor ran" }).expect(200)).body as Sound;
    expect(kept.aside).toBe("The compressor ran");
    await t.api.post(aside).send({ reason: "again" }).expect(409);
    await expect(t.db.deleteFrom("sound").execute()).rejects.toMatchObject({
      message: expect.stringContaining("append-only") as string,
    });
  });
});
