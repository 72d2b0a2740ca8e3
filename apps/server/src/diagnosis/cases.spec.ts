import { NOTHING_TOLD, type Diagnosis, type Case, type Knowledge, type Told, type ToldByAxis } from "@iron/contract";
import { newAxis, startRun, testApp, type TestApp } from "../testing/test-app";

/** A PNG of one pixel with a text chunk that tells where it was taken. */
function png(): Buffer {
  const pixel = Buffer.from(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
    "base64",
  );
  const text = Buffer.from("tEXtPlace\0Harrow Fen");
  const chunk = Buffer.alloc(text.length + 8);
  chunk.writeUInt32BE(text.length - 4, 0);
  text.copy(chunk, 4);
  return Buffer.concat([pixel.subarray(0, 33), chunk, pixel.subarray(33)]);
}

describe("cases over the API", () => {
  let t: TestApp;
  beforeAll(async () => {
    t = await testApp();
  });
  afterAll(() => t.close());

  async function opened(): Promise<{ file: Case; axisId: number }> {
    const axis = await newAxis(t);
    const made = await t.api
      .post(`/api/machines/${axis.machineId}/cases`)
      .set("x-working-as", "Ama")
      .send({ axisIds: [axis.id] })
      .expect(201);
    return { file: made.body as Case, axisId: axis.id };
  }
  const diagnose = async (id: number, query = ""): Promise<Diagnosis> =>
    (await t.api.get(`/api/cases/${id}/assessment${query}`).expect(200)).body as Diagnosis;
  const put = (file: Case, over: Partial<Case>) =>
    t.api
      .put(`/api/cases/${file.id}`)
      .send({ version: file.version, context: file.context, told: file.told, notes: file.notes, ...over });
  /** Answers of the first axis of a case. */
  const told = (file: Case, over: Partial<Told>): ToldByAxis => ({
    [file.axisIds[0]]: { ...(file.told[file.axisIds[0]] ?? NOTHING_TOLD), ...over },
  });
  const answersOf = (file: Case) => file.told[file.axisIds[0]]?.answers;

  it("keep answers and give the second writer both versions", async () => {
    const { file } = await opened();
    expect(file).toMatchObject({ state: "open", by: "Ama", version: 1 });
    const kept = await put(file, { told: told(file, { answers: { rumble: true, howl: false } }) }).expect(200);
    expect(answersOf(kept.body as Case)).toEqual({ rumble: true, howl: false });
    const evidence = { rumble: { note: "at 12 m/min, cold", ref: "run 7" } };
    const shown = await put(kept.body, { told: told(kept.body, { evidence }) }).expect(200);
    expect(shown.body.told[file.axisIds[0]].evidence).toEqual(evidence);
    await put(shown.body, {
      told: told(file, { evidence: { rumble: { note: "", ref: "hearsay" } } as never }),
    }).expect(422);
    const late = await put(file, { told: told(file, { answers: { knock: true } }) }).expect(409);
    expect(answersOf(late.body.current as Case)).toEqual({ rumble: true, howl: false });
    const bad = await put(shown.body, { told: told(file, { answers: { nonsense: true } as never }) }).expect(422);
    expect(bad.body.errors[0].path).toContain("told");
    const age = await put(shown.body, { context: { ...file.context, ageYears: 200 } }).expect(422);
    expect(age.body.detail).toBe("Age must be from 0 to 80 years.");
  });

  it("what one axis of a case does is not said of the others", async () => {
    const { file, axisId } = await opened();
    const { config } = (await t.api.get(`/api/axes/${axisId}`).expect(200)).body;
    const other = (
      await t.api
        .post(`/api/machines/${file.machineId}/axes`)
        .send({ config: { ...config, letter: "W" } })
        .expect(201)
    ).body as { id: number };
    const both = { axisIds: [axisId, other.id], told: told(file, { answers: { rumble: true } }) };
    const kept = (await put(file, both).expect(200)).body as Case;
    const chanceAt = async (id: number): Promise<number> => {
      const { leading } = await diagnose(file.id, `?axis=${id}`);
      return leading.find((l) => l.cause.id === "end-bearing-worn")?.probability ?? 0;
    };
    expect(await chanceAt(axisId)).toBeGreaterThan(2 * (await chanceAt(other.id)));
    const csv = (await t.api.get(`/api/cases/${file.id}/export?format=csv`).expect(200)).text;
    expect(csv).toMatch(/,X,symptom,"rumbles, worst in rapid",yes\n/);
    expect(csv).toMatch(/,W,likely,/);
    expect(csv).not.toMatch(/,W,symptom/);
    const json = await t.api.get(`/api/cases/${file.id}/export?format=json`).expect(200);
    expect(json.body.diagnoses.map((d: Diagnosis) => d.axisId)).toEqual([axisId, other.id]);
    await put(kept, { told: { 9999: NOTHING_TOLD } }).expect(422);
    await put(kept, { axisIds: [9999] }).expect(422);
    const alone = await put(kept, { axisIds: [other.id], told: {} }).expect(200);
    expect(alone.body.axisIds).toEqual([other.id]);
  });

  it("a part in the hand is a finding, not hearsay", async () => {
    const { file } = await opened();
    await put(file, { told: told(file, { answers: { "rough-finger": true, "retainer-turns": false } }) }).expect(200);
    const { leading, proven } = await diagnose(file.id);
    expect(leading[0].cause.id).toBe("end-bearing-worn");
    expect(proven.join()).not.toContain("nobody");
  });

  it("the opening is undone while a case holds answers alone", async () => {
    const { file, axisId } = await opened();
    await put(file, { told: told(file, { answers: { rumble: true } }) }).expect(200);
    await t.api.post(`/api/cases/${file.id}/drop`).expect(200, { dropped: true });
    await t.api.get(`/api/cases/${file.id}`).expect(404);
    const again = await opened();
    const result = { axisId: again.axisId, test: "rock", answers: { rocks: false }, note: "", data: null };
    await t.api.post(`/api/cases/${again.file.id}/results`).send(result).expect(201);
    const kept = await t.api.post(`/api/cases/${again.file.id}/drop`).expect(409);
    expect(kept.body.detail).toContain("more than answers");
    expect(axisId).not.toBe(again.axisId);
  });

  it("says what each outcome of the next test would mean, and what would overturn the verdict", async () => {
    const { file } = await opened();
    await put(file, { told: told(file, { answers: { rumble: true, "lost-motion": true } }) }).expect(200);
    const now = await diagnose(file.id);
    expect(now.meanings.length).toBeGreaterThan(1);
    expect(now.questions[0].bits).toBeGreaterThan(0);
    expect(now.questions.map((q) => q.finding)).not.toContain("rumble");
    expect(now.mind?.names[0]).not.toBe(now.leading[0].cause.name);
    expect(now.impossible.find((x) => x.id === "control-check")?.why).toContain("moves on command");
  });

  it("weigh symptoms, results and measurements together, and take results back", async () => {
    const { file, axisId } = await opened();
    await put(file, { told: told(file, { answers: { rumble: true, "lost-motion": true } }) }).expect(200);
    const before = await diagnose(file.id);
    expect(before.tests.filter((x) => x.next)).toHaveLength(1);
    expect(before.impossible.map((x) => x.id)).toContain("wheel-turn");
    const result = await t.api
      .post(`/api/cases/${file.id}/results`)
      .send({
        axisId,
        test: "fastener-check",
        answers: { "retainer-turns": true, "coupling-turns": false },
        note: "",
        data: {
          kind: "fasteners",
          found: [{ name: "Retainer", torqueNm: 12, state: "turned" }],
        },
      })
      .expect(201);
    const after = await diagnose(file.id);
    expect(after.leading[0].cause.id).toBe("retainer-loose");
    expect(after.leading[0].probability).toBeGreaterThan(before.leading[0].probability);
    expect(after.leading[0].speaksFor.map((e) => e.ref)).toContain(`result ${result.body.results[0].id}`);
    await t.api.post(`/api/results/${result.body.results[0].id}/withdraw`).expect(200);
    const undone = await diagnose(file.id);
    expect(undone.leading.map((l) => l.probability)).toEqual(before.leading.map((l) => l.probability));
    await t.api.post(`/api/results/${result.body.results[0].id}/restore`).expect(200);
    expect((await diagnose(file.id)).leading[0].cause.id).toBe("retainer-loose");
    await t.api
      .post(`/api/cases/${file.id}/results`)
      .send({ axisId: 9999, test: "rock", answers: {}, note: "", data: null })
      .expect(422);
  });

  it("take split tests into the ledger and the chain", async () => {
    const { file, axisId } = await opened();
    const measure = async (kind: string): Promise<void> => {
      const run = await startRun(t, axisId, {
        plan: { kind: kind as never, targetsMm: [250], runs: 3, overTravelMm: 10 },
      });
      await t.api
        .post(`/api/axes/${axisId}/device/program`)
        .send({ runId: run.id, feedMmMin: 1000, dwellS: 1 })
        .expect(200);
    };
    await measure("two-sided");
    await measure("end-float");
    const { ledger, links, measured } = await diagnose(file.id);
    expect(measured.map((m) => m.kind).sort()).toEqual(["end-float", "two-sided"]);
    expect(ledger.total?.reversalValueMm).toBeGreaterThan(0);
    const sum = ledger.lines.reduce((s, l) => s + (l.shareMm ?? 0), 0);
    expect(sum + (ledger.rest?.mm ?? NaN)).toBeCloseTo(ledger.total?.reversalValueMm ?? NaN, 9);
    expect(links.find((l) => l.link === "end-bearings")?.lookedAt).not.toBeNull();
    expect(links.find((l) => l.link === "bracket")?.shareMm).toBeNull();
    const alone = await t.api.get(`/api/axes/${axisId}/ledger`).expect(200);
    expect(alone.body.links).toEqual(links);
    const floor = await t.api.get("/api/floor").expect(200);
    const axis = floor.body.machines
      .flatMap((m: { axes: { id: number }[] }) => m.axes)
      .find((a: { id: number }) => a.id === axisId);
    expect(axis.last.reversalValueMm).toBe(measured.find((m) => m.kind === "two-sided")?.reversalValueMm);
  });

  it("close with what it was, teach the priors a little, and unteach when taken up again", async () => {
    const { file } = await opened();
    const learned = async (id: string): Promise<number> =>
      ((await t.api.get("/api/knowledge")).body as Knowledge).causes.find((c) => c.id === id)?.learned ?? NaN;
    const before = await learned("nut-worn");
    const closed = await t.api
      .post(`/api/cases/${file.id}/close`)
      .send({ version: file.version, found: ["nut-worn"], words: "two balls missing" })
      .expect(200);
    expect(closed.body.closed.found).toEqual(["nut-worn"]);
    const after = await learned("nut-worn");
    expect(after).toBeGreaterThan(before);
    expect(after).toBeLessThan(before * 1.1);
    await put(closed.body, { notes: "late" }).expect(409);
    await t.api.post(`/api/cases/${file.id}/reopen`).expect(200);
    expect(await learned("nut-worn")).toBeCloseTo(before, 12);
  });

  it("let the shop weigh a cause itself, with why, and take it back", async () => {
    await t.api.put("/api/knowledge/nut-worn").send({ prior: 7, why: "", version: 0 }).expect(422);
    await t.api.put("/api/knowledge/nut-worn").send({ prior: 70, why: "x", version: 0 }).expect(422);
    await t.api.put("/api/knowledge/gremlins").send({ prior: 1, why: "x", version: 0 }).expect(404);
    const own = await t.api
      .put("/api/knowledge/nut-worn")
      .set("x-working-as", "Ilse")
      .send({ prior: 7, why: "abrasive dust here", version: 0 })
      .expect(200);
    const cause = (k: Knowledge) => k.causes.find((c) => c.id === "nut-worn");
    expect(cause(own.body)).toMatchObject({ prior: 3, override: 7, overrideBy: "Ilse" });
    const back = await t.api.put("/api/knowledge/nut-worn").send({ prior: null, why: "", version: 1 }).expect(200);
    expect(cause(back.body)?.override).toBeNull();
  });

  it("keep photos clean, show them, and export everything", async () => {
    const { file } = await opened();
    const kept = await t.api
      .post(`/api/cases/${file.id}/photos?caption=Chips&finding=tight-spot`)
      .set("content-type", "image/png")
      .send(png())
      .expect(201);
    const [photo] = (kept.body as Case).photos;
    expect(photo).toMatchObject({ caption: "Chips", finding: "tight-spot", media: "image/png" });
    const shown = await t.api.get(`/api/photos/${photo.id}`).expect(200);
    expect(shown.headers["content-type"]).toBe("image/png");
    expect((shown.body as Buffer).includes("Harrow Fen")).toBe(false);
    await t.api
      .post(`/api/cases/${file.id}/photos`)
      .set("content-type", "image/png")
      .send(Buffer.from("no"))
      .expect(422);
    await t.api.post(`/api/cases/${file.id}/photos`).set("content-type", "text/html").send("<b>").expect(415);
    const json = await t.api.get(`/api/cases/${file.id}/export?format=json`).expect(200);
    expect(json.body.case.id).toBe(file.id);
    const csv = await t.api.get(`/api/cases/${file.id}/export?format=csv`).expect(200);
    expect(csv.text.split("\n")[0].trim()).toBe("at,by,axis,source,what,answer");
    const gone = await t.api.post(`/api/photos/${photo.id}/withdraw`).expect(200);
    expect(gone.body.photos).toEqual([]);
  });

  it("never changes or deletes evidence, whatever is asked of the database", async () => {
    const { file, axisId } = await opened();
    await t.api
      .post(`/api/cases/${file.id}/results`)
      .send({ axisId, test: "rock", answers: { rocks: true }, note: "", data: null })
      .expect(201);
    await expect(t.db.deleteFrom("case_result").execute()).rejects.toMatchObject({
      message: expect.stringContaining("append-only"),
    });
    await expect(t.db.updateTable("case_result").set({ note: "x" }).execute()).rejects.toMatchObject({
      message: expect.stringContaining("append-only"),
    });
  });
});

describe("the demo shop’s cases, worked through the simulated machine", () => {
  let t: TestApp;
  beforeAll(async () => {
    t = await testApp({ demo: true });
  });
  afterAll(() => t.close());

  /** Symptoms as they show, then whatever is next, until there is nothing worth doing. */
  async function workThrough(machineId: number, axisId: number): Promise<Diagnosis> {
    let file = (
      await t.api
        .post(`/api/machines/${machineId}/cases`)
        .send({ axisIds: [axisId] })
        .expect(201)
    ).body as Case;
    const seen = await t.api.post(`/api/axes/${axisId}/device/observe`).send({ test: null }).expect(200);
    expect(Object.keys(seen.body.answers).length).toBeGreaterThan(15);
    file = (
      await t.api
        .put(`/api/cases/${file.id}`)
        .send({
          version: file.version,
          context: file.context,
          told: { [axisId]: { ...NOTHING_TOLD, answers: seen.body.answers } },
          notes: "",
        })
        .expect(200)
    ).body as Case;
    const axis = (await t.api.get(`/api/axes/${axisId}`)).body;
    for (let i = 0; i < 20; i += 1) {
      const now = (await t.api.get(`/api/cases/${file.id}/assessment`).expect(200)).body as Diagnosis;
      const next = now.tests.find((x) => x.next);
      if (!next) return now;
      if (next.guided) {
        const over = Math.min(10, axis.config.travelMm / 10);
        const profile = next.id === "travel-profile";
        const targetsMm = profile
          ? [0.1, 0.3, 0.5, 0.7, 0.9].map((x) => Math.round(x * axis.config.travelMm))
          : [Math.round(axis.config.travelMm / 2)];
        const run = await startRun(t, axisId, {
          plan: {
            kind: (next.id === "whole-chain" ? "two-sided" : next.id) as never,
            targetsMm,
            runs: 3,
            overTravelMm: over,
          },
        });
        await t.api
          .post(`/api/axes/${axisId}/device/program`)
          .send({ runId: run.id, feedMmMin: 1000, dwellS: 1 })
          .expect(200);
      }
      if (!next.guided || next.id === "coupling-slip") {
        const { body } = await t.api.post(`/api/axes/${axisId}/device/observe`).send({ test: next.id }).expect(200);
        await t.api
          .post(`/api/cases/${file.id}/results`)
          .send({ axisId, test: next.id, answers: body.answers, note: "", data: null })
          .expect(201);
      }
    }
    throw new Error("it never came to an end");
  }

  it.each([
    ["loose retainer posing as worn bearings", 1, 3, "retainer-loose"],
    ["worn end bearings", 2, 6, "end-bearing-worn"],
    ["a gib too tight", 1, 2, "gib-tight"],
    ["a coupling that slips", 5, 14, "coupling-screw"],
    ["a screw out of line", 2, 5, "screw-misaligned"],
    ["a spot in the rack", 3, 7, "rack-spot"],
    ["a cage that has crept", 8, 20, "cage-crept"],
  ])("%s", async (_, machineId, axisId, cause) => {
    const end = await workThrough(machineId, axisId);
    expect(end.leading[0].cause.id).toBe(cause);
  });

  it("a screw worn where it works most", async () => {
    const end = await workThrough(2, 4);
    expect(["screw-worn-middle", "nut-worn"]).toContain(end.leading[0].cause.id);
  });

  it("nothing wrong", async () => {
    const end = await workThrough(5, 13);
    expect(end.headline).toMatch(/^(No fault found|Nothing has to be mended)/);
  });
});
