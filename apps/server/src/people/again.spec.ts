import { DEFAULT_OPTIONS, jobProgress, type PlannedStep } from "@iron/core";
import type { Job, JobAct, Me } from "@iron/contract";
import { randomUUID } from "node:crypto";
import { plainSign } from "../job/job-sign";
import { newAxis, type TestApp } from "../testing/test-app";
import { NAMES, peopleApp, secretOf, signedIn, type SignedIn } from "../testing/test-people";

describe("the PIN again, for what is signed with a name", () => {
  let t: TestApp;
  let teal: SignedIn;
  beforeEach(async () => {
    t = await peopleApp();
    teal = await signedIn(t, "technician");
  });
  afterEach(() => t.close());

  const next = (job: Job): PlannedStep => jobProgress(job.plan, job.events).next as PlannedStep;
  const act = (job: Job, body: JobAct) => teal.api.post(`/api/jobs/${job.id}/acts`).send(body);
  const again = (secret: string, personId?: number) => teal.api.post("/api/me/again").send({ secret, personId });

  /** A job at its first hold: what comes before asks for nothing. */
  async function atTheHold(): Promise<Job> {
    const planner = await signedIn(t, "planner");
    const { machineId, id: axisId } = await newAxis({ ...t, api: planner.api }, "Z");
    const items = [{ axisId, kind: "fixed-bearings" }];
    const made = await teal.api
      .post(`/api/machines/${machineId}/jobs`)
      .send({ items, options: DEFAULT_OPTIONS, caseId: null })
      .expect(201);
    let job = made.body as Job;
    while (!next(job).hold) job = (await act(job, plainSign(next(job))).expect(200)).body as Job;
    return job;
  }

  it("a hold is signed by one PIN of the one who vouches, once; another’s, an old one or none signs nothing", async () => {
    const job = await atTheHold();
    const vouched = (holdBy: string): JobAct => plainSign(next(job), { holdBy });
    const asked = await act(job, vouched("Teal")).expect(403);
    expect(asked.body).toMatchObject({ title: "PIN again", errors: [{ path: "again", message: "Teal" }] });
    await again("000000").expect(401);
    await act(job, vouched("Teal")).expect(403);
    // The planner’s PIN proves the planner, not Teal.
    const { names } = teal.me as Me;
    const pipit = names.find((n) => n.name === NAMES.planner)?.id;
    await again(secretOf("planner"), pipit).expect(200);
    await act(job, vouched("Teal")).expect(403);
    const nobody = await act(job, vouched("Mallow")).expect(422);
    expect(nobody.body.detail).toBe("Mallow cannot sign in here: choose who vouches.");
    const signed = (await act(job, vouched("Pipit")).expect(200)).body as Job;
    expect(signed.events.at(-1)).toMatchObject({ by: "Teal", holdBy: "Pipit" });
    // It was for one signature.
    const back = await act(signed, { kind: "undo", step: next(job).id, key: randomUUID() }).expect(200);
    await act(back.body as Job, plainSign(next(back.body as Job), { holdBy: "Pipit" })).expect(403);
  });

  it("a PIN that was given minutes ago is none any more", async () => {
    const job = await atTheHold();
    await again(secretOf("technician")).expect(200);
    const row = await t.db.selectFrom("session").selectAll().where("data", "like", "%again%").executeTakeFirstOrThrow();
    const old = new Date(Date.now() - 121_000).toISOString();
    const data = row.data.replace(/("again":\{"name":"Teal","at":")[^"]+/, `$1${old}`);
    expect(data).not.toBe(row.data);
    await t.db.updateTable("session").set({ data }).where("id", "=", row.id).execute();
    await act(job, plainSign(next(job), { holdBy: "Teal" })).expect(403);
  });

  it("a refused signature does not use the PIN up", async () => {
    const job = await atTheHold();
    await again(secretOf("technician")).expect(200);
    const wrong = plainSign({ ...next(job), id: "sign-off" } as PlannedStep, { holdBy: "Teal" });
    await act(job, wrong).expect(409);
    await act(job, plainSign(next(job), { holdBy: "Teal" })).expect(200);
  });
});
