import { DEFAULT_OPTIONS, defaultAxis, jobProgress, type PlannedStep } from "@iron/core";
import type { Axis, Job, JobAct } from "@iron/contract";
import { execFileSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { sql } from "kysely";
import { plainSign } from "./job-sign";
import { newAxis, startRun, testApp, type TestApp } from "../testing/test-app";

describe("jobs", () => {
  let t: TestApp;
  let z: Axis;
  beforeEach(async () => {
    t = await testApp();
    z = await newAxis(t, "Z");
  });
  afterEach(() => t.close());

  const open = async (kind: string, axis = z): Promise<Job> =>
    (
      await t.api
        .post(`/api/machines/${axis.machineId}/jobs`)
        .set("x-working-as", "Tomas")
        .send({ items: [{ axisId: axis.id, kind }], options: DEFAULT_OPTIONS, caseId: null })
        .expect(201)
    ).body as Job;
  const act = (job: Job, body: JobAct, who = "Tomas") =>
    t.api.post(`/api/jobs/${job.id}/acts`).set("x-working-as", who).send(body);
  const next = (job: Job): PlannedStep | null => jobProgress(job.plan, job.events).next;

  /** Signs step by step until one is reached, or the end. */
  async function signUntil(job: Job, id: string | null): Promise<Job> {
    let now = job;
    for (let step = next(now); step && step.id !== id; step = next(now))
      now = (await act(now, plainSign(step)).expect(200)).body as Job;
    return now;
  }

  it("a vertical bearing job goes step by step to sign-off, and the axis’ log says so", async () => {
    const job = await signUntil(await open("fixed-bearings"), null);
    expect(job.finishedAt).not.toBeNull();
    expect(job.checkOn).toMatch(/^\d{4}-\d\d-\d\d$/);
    expect(new Set(job.events.map((e) => e.by))).toEqual(new Set(["Tomas"]));
    const history = await t.api.get(`/api/axes/${z.id}/history`).expect(200);
    expect(history.body.events[0].text).toContain("renewed: shaft seal, end-bearing set");
    const late = await act(job, { kind: "undo", step: "sign-off", key: randomUUID() }).expect(409);
    expect(late.body.detail).toContain("signed off");
    const listed = (await t.api.get("/api/jobs").expect(200)).body[0];
    expect(listed).toMatchObject({ title: "Replace fixed-end bearings, Z", next: "" });
    expect(listed.done).toBe(listed.steps);
  });

  it("refuses what comes too early, holds without a name, and says why", async () => {
    const job = await open("fixed-bearings");
    const motor = job.plan.steps.find((s) => s.id === "Z:motor-off") as PlannedStep;
    const early = await act(job, plainSign(motor)).expect(409);
    expect(early.body.detail).toContain("It has hands in with the power on.");
    const before = await signUntil(job, "isolate");
    const isolate = next(before) as PlannedStep;
    const nameless = await act(before, plainSign(isolate, { holdBy: " " })).expect(409);
    expect(nameless.body.detail).toContain("say by first name who vouches");
  });

  it("sending twice keeps once; only the last step can be taken back", async () => {
    const job = await open("coupling");
    const first = plainSign(next(job) as PlannedStep);
    const once = (await act(job, first).expect(200)).body as Job;
    const twice = (await act(job, first).expect(200)).body as Job;
    expect(twice.events).toHaveLength(once.events.length);
    const more = await signUntil(once, "isolate");
    const wrong = await act(more, { kind: "undo", step: first.step, key: randomUUID() }).expect(409);
    expect(wrong.body.detail).toContain("Only the step signed last");
    const last = more.events.at(-1);
    const back = (
      await act(more, { kind: "undo", step: last?.kind === "sign" ? last.step : "", key: randomUUID() }).expect(200)
    ).body as Job;
    expect(next(back)?.id).toBe(last?.kind === "sign" ? last.step : "");
  });

  it("loose fasteners: the sheet is planned anew, tightens, closes what is open and retests", async () => {
    const job = await signUntil(await open("fixed-bearings"), "Z:try-end");
    const step = next(job) as PlannedStep;
    const found = (await act(job, plainSign(step, { found: "loose" })).expect(200)).body as Job;
    const anew = (await act(found, { kind: "stop-here", letter: "Z", key: randomUUID() }).expect(200)).body as Job;
    const steps = jobProgress(anew.plan, anew.events).plan.steps.map((s) => s.id);
    expect(steps).toEqual(
      expect.arrayContaining([
        "Z:tighten:retainer",
        "Z:tighten:housing",
        "Z:motor-on",
        "Z:coupling-shut",
        "Z:remove-block",
        "Z:retest-chain",
        "sign-off",
      ]),
    );
    expect(steps).not.toContain("Z:bearing-out");
    const done = await signUntil(anew, null);
    expect(done.finishedAt).not.toBeNull();
  });

  it("nothing is closed before the retest passes, unless somebody accepts it by name", async () => {
    const job = await signUntil(await open("float-bracket"), "Z:retest-chain");
    const covers = jobProgress(job.plan, job.events).plan.steps.find((s) => s.id === "Z:covers-on") as PlannedStep;
    expect((await act(job, plainSign(covers)).expect(409)).body.detail).toContain(
      "It closes the covers before the retest has passed",
    );
    const step = next(job) as PlannedStep;
    const none = await act(job, plainSign(step, { figure: null })).expect(409);
    expect(none.body.detail).toContain("no figure yet");
    const bad = { figure: { reversalValueMm: 0.031, expandedMm: 0.001, runId: null } };
    const fails = await act(job, plainSign(step, bad)).expect(409);
    expect(fails.body.detail).toContain("Above 25 µm, the limit for repair");
    const accepted = await act(
      job,
      plainSign(step, { ...bad, reason: "Screw on order, runs roughing only.", holdBy: "Ama" }),
    ).expect(200);
    expect((await signUntil(accepted.body as Job, null)).finishedAt).not.toBeNull();
  });

  it("what a tablet noted under the older name is taken, and what was kept under it is read", async () => {
    const job = await signUntil(await open("float-bracket"), "Z:retest-chain");
    const { figure: _, ...sign } = plainSign(next(job) as PlannedStep) as Extract<JobAct, { kind: "sign" }>;
    const noted = { ...sign, figure: { lostMm: 0.004, expandedMm: 0.001, runId: null } };
    const taken = await t.api.post(`/api/jobs/${job.id}/acts`).send(noted).expect(200);
    const figures = (of: Job) => of.events.flatMap((e) => (e.kind === "sign" && e.figure ? [e.figure] : []));
    expect(figures(taken.body as Job)).toEqual([{ reversalValueMm: 0.004, expandedMm: 0.001, runId: null }]);
    // As a record of last year has it; only without its guard can one be made here.
    const guards = await sql<{ name: string }>`select name from sqlite_master where type = 'trigger'`.execute(t.db);
    for (const { name } of guards.rows) await sql`drop trigger ${sql.id(name)}`.execute(t.db);
    await sql`update job_event set data = replace(data, '"reversalValueMm"', '"lostMm"')`.execute(t.db);
    await sql`update job set "plan" = replace("plan", '"label":"dry"', '"words":"dry"')`.execute(t.db);
    const read = (await t.api.get(`/api/jobs/${job.id}`).expect(200)).body as Job;
    expect(figures(read)).toEqual(figures(taken.body as Job));
    expect(JSON.stringify(read)).not.toMatch(/lostMm|"words":"dry"/);
    expect((await signUntil(read, null)).finishedAt).not.toBeNull();
  });

  it("shims, pins and spacers go back as they were or their change is said", async () => {
    const job = await signUntil(await open("fixed-bearings"), "Z:shims-in");
    const step = next(job) as PlannedStep;
    expect((await act(job, plainSign(step, { kept: null })).expect(409)).body.detail).toContain(
      "how the shims went back",
    );
    expect((await act(job, plainSign(step, { kept: "changed" })).expect(409)).body.detail).toContain(
      "what was changed",
    );
    await act(job, plainSign(step, { kept: "changed", change: "0.10 mm instead of 0.15" })).expect(200);
  });

  it("an order changed by hand is taken when it works, and refused in words when not", async () => {
    const job = await signUntil(await open("screw"), "Z:covers-off");
    const left = job.plan.steps.slice(jobProgress(job.plan, job.events).done.size).map((s) => s.id);
    const swapped = [...left];
    const [lubrication] = swapped.splice(swapped.indexOf("Z:lube-off"), 1);
    swapped.splice(swapped.indexOf("Z:hub-ease"), 0, lubrication);
    const taken = (await act(job, { kind: "reorder", order: swapped, key: randomUUID() }).expect(200)).body as Job;
    expect(jobProgress(taken.plan, taken.events).plan.steps.map((s) => s.id)).toEqual(swapped);
    const backwards = await act(taken, { kind: "reorder", order: [...swapped].reverse(), key: randomUUID() }).expect(
      409,
    );
    expect(backwards.body.detail).toContain("That order cannot be worked.");
    const short = await act(taken, { kind: "reorder", order: swapped.slice(1), key: randomUUID() }).expect(409);
    expect(short.body.detail).toContain("every step that is left, each once");
    expect((await signUntil(taken, null)).finishedAt).not.toBeNull();
  });

  it("work added in the middle joins the sheet once", async () => {
    const job = await signUntil(await open("coupling"), "Z:coupling-shut");
    const more = (
      await act(job, { kind: "add-work", letter: "Z", job: "fixed-bearings", key: randomUUID() }).expect(200)
    ).body as Job;
    const { plan } = jobProgress(more.plan, more.events);
    expect(plan.steps.map((s) => s.id)).toContain("Z:bearing-in");
    expect(plan.steps.filter((s) => s.id === "Z:renew-coupling")).toEqual([]);
    expect((await signUntil(more, null)).finishedAt).not.toBeNull();
    const wrong = await act(more, { kind: "add-work", letter: "Q", job: "gib", key: randomUUID() });
    expect(wrong.status).toBe(409);
  });

  it("carries the last test as the loss before, refuses work that does not fit, keeps events for good", async () => {
    const x = await newAxis(t, "X");
    const run = await startRun(t, x.id, { plan: { runs: 1 } });
    await t.api
      .post(`/api/axes/${x.id}/device/program`)
      .send({ runId: run.id, feedMmMin: 1000, dwellS: 1 })
      .expect(200);
    const job = await open("float-bracket", x);
    expect(job.axes[0].before).toMatchObject({ kind: "two-sided", placeMm: 180, runId: run.id });
    const gib = await t.api
      .post(`/api/machines/${x.machineId}/jobs`)
      .send({ items: [{ axisId: x.id, kind: "gib" }], options: DEFAULT_OPTIONS, caseId: null })
      .expect(422);
    expect(gib.body.detail).toContain("does not fit X");
    await signUntil(job, "isolate");
    await expect(t.db.deleteFrom("job_event").execute()).rejects.toMatchObject({
      message: expect.stringContaining("append-only"),
    });
    const file = await t.api.get(`/api/jobs/${job.id}/export`).expect(200);
    expect((file.body as Job).events.length).toBeGreaterThan(0);
    expect(defaultAxis("vertical-centre", "X").letter).toBe("X");
  });

  it("three axes share one sheet", async () => {
    const machine = (
      await t.api
        .post("/api/machines")
        .send({
          nickname: "Wren",
          bay: "2",
          kind: "vertical-centre",
          hoursPerWeek: 40,
          note: "",
          letters: ["X", "Y", "Z"],
        })
        .expect(201)
    ).body;
    const items = machine.axes.map((a: Axis) => ({ axisId: a.id, kind: "fixed-bearings" }));
    const job = (
      await t.api
        .post(`/api/machines/${machine.id}/jobs`)
        .send({ items, options: DEFAULT_OPTIONS, caseId: null })
        .expect(201)
    ).body as Job;
    expect(job.title).toBe("Replace fixed-end bearings, X + Y + Z");
    expect(job.plan.steps.filter((s) => s.id === "isolate")).toHaveLength(1);
    expect((await signUntil(job, null)).finishedAt).not.toBeNull();
  });

  it("what is found in a job is evidence in its case at once; a record says what was not renewed", async () => {
    const file = (
      await t.api
        .post(`/api/machines/${z.machineId}/cases`)
        .set("x-working-as", "Tomas")
        .send({ axisIds: [z.id], complaint: "rumbles" })
        .expect(201)
    ).body as { id: number };
    const job = (
      await t.api
        .post(`/api/machines/${z.machineId}/jobs`)
        .send({ items: [{ axisId: z.id, kind: "fixed-bearings" }], options: DEFAULT_OPTIONS, caseId: file.id })
        .expect(201)
    ).body as Job;
    const at = await signUntil(job, "Z:try-end");
    const found = (await act(at, plainSign(next(at) as PlannedStep, { found: "loose" })).expect(200)).body as Job;
    const kept = (await t.api.get(`/api/cases/${file.id}`).expect(200)).body as {
      results: { test: string; answers: Record<string, boolean>; note: string }[];
    };
    expect(kept.results.map((r) => [r.test, r.answers])).toEqual([
      ["fastener-check", { "coupling-turns": false }],
      ["fastener-check", { "retainer-turns": true }],
    ]);
    expect(kept.results[1].note).toContain(`Found in job ${job.id}`);
    const anew = (await act(found, { kind: "stop-here", letter: "Z", key: randomUUID() }).expect(200)).body as Job;
    await signUntil(anew, null);
    const history = await t.api.get(`/api/axes/${z.id}/history`).expect(200);
    expect(history.body.events[0].text).toContain("retainer screws tightened");
    expect(history.body.events[0].text).not.toContain("renewed");
  });

  it("the signed sheet is a PDF file: who, when, found, readings with U, before and after, in our own font", async () => {
    const job = await signUntil(await open("fixed-bearings"), null);
    const answer = await t.api
      .get(`/api/jobs/${job.id}/sheet.pdf`)
      .buffer(true)
      .parse((res, done) => {
        const chunks: Buffer[] = [];
        res.on("data", (chunk: Buffer) => chunks.push(chunk));
        res.on("end", () => done(null, Buffer.concat(chunks)));
      })
      .expect(200);
    expect(answer.headers["content-type"]).toContain("application/pdf");
    const file = answer.body as Buffer;
    // pdftotext (poppler) reads the file apart from what wrote it.
    const text = execFileSync("pdftotext", ["-layout", "-", "-"], { input: file }).toString();
    const flat = text.replace(/\s+/g, " ");
    expect(flat).toContain(`Job ${job.id}: Replace fixed-end bearings, Z`);
    expect(flat).toContain("6.0 ± 1.0 µm after");
    expect(flat).toMatch(/First check on \d{1,2} [A-Z][a-z]+ \d{4}\./);
    expect(flat).toContain("Found: rough or pitted.");
    expect(flat).toContain("Put in: 1 end-bearing set.");
    expect(flat).toContain("“The member stands on its block");
    expect(flat).toMatch(/signed \d+ \w+ \d{4}, \d\d:\d\d, Tomas/);
    expect(flat).toContain("power off · head: block · motor off");
    expect(flat).toMatch(/page 1 of \d/);
    expect(flat).not.toContain("Not signed yet");
    const fonts = execFileSync("pdffonts", ["-"], { input: file }).toString();
    expect(fonts).toMatch(/B612.* yes +yes/);
    const inch = await t.api.get(`/api/jobs/${job.id}/sheet.pdf?system=furlong`).expect(422);
    expect(JSON.stringify(inch.body)).toContain("Units must be one of: metric, inch.");
  });
});
