import { DEFAULT_OPTIONS, jobProgress, type PlannedStep } from "@iron/core";
import { readSeal, writeSeal, type Job, type JobAct, type Me, type Person, type RecordLine } from "@iron/contract";
import { generateKeyPairSync, randomUUID } from "node:crypto";
import supertest from "supertest";
import { plainSign } from "../job/job-sign";
import { newAxis, type TestApp } from "../testing/test-app";
import { NAMES, peopleApp, secretOf, signedIn, type SignedIn } from "../testing/test-people";
import { sealing, type Made } from "../testing/test-seals";

const { technician: TEAL, planner: PIPIT } = NAMES;

describe("what waited on a device says under which session it was made", () => {
  let t: TestApp;
  let teal: SignedIn;
  let pipit: SignedIn;
  let job: Job;
  let seal: (made: Made) => Promise<string>;
  beforeEach(async () => {
    t = await peopleApp();
    [teal, pipit] = [await signedIn(t, "technician"), await signedIn(t, "planner")];
    const { machineId, id: axisId } = await newAxis({ ...t, api: pipit.api }, "Z");
    const data = { items: [{ axisId, kind: "fixed-bearings" }], options: DEFAULT_OPTIONS, caseId: null };
    job = (await teal.api.post(`/api/machines/${machineId}/jobs`).send(data).expect(201)).body as Job;
    ({ seal } = await sealing(teal));
  });
  afterEach(() => t.close());

  const next = (): PlannedStep => jobProgress(job.plan, job.events).next as PlannedStep;
  const acts = (): string => `/api/jobs/${job.id}/acts`;
  const note = (words: string): string =>
    JSON.stringify({ kind: "note", step: next().id, words, key: randomUUID() } satisfies JobAct);
  /** Sends what Teal made from a device on which another is signed in now. */
  const bring = (by: SignedIn, made: { address?: string; body: string; seal?: string }) => {
    const sent = by.api.post(made.address ?? acts()).set({ "x-working-as": TEAL, "content-type": "application/json" });
    return (made.seal === undefined ? sent : sent.set("x-made-under", made.seal)).send(made.body);
  };

  it("is theirs whoever brings it, and the record says who did; without a seal it waits for them", async () => {
    const body = note("a chip in the wiper");
    const waits = await bring(pipit, { body }).expect(403);
    expect(waits.body).toMatchObject({ title: "Another’s work", detail: expect.stringContaining("waits for Teal") });
    const done = (await bring(pipit, { body, seal: await seal({ address: acts(), body }) }).expect(200)).body as Job;
    expect(done.events.at(-1)).toMatchObject({ by: TEAL, words: "a chip in the wiper" });
    // Sent twice it is there once.
    const twice = (await bring(pipit, { body, seal: await seal({ address: acts(), body }) }).expect(200)).body as Job;
    expect(twice.events).toHaveLength(done.events.length);
    const keeper = await signedIn(t, "keeper");
    const { lines } = (await keeper.api.get("/api/record?words=chip").expect(200)).body as { lines: RecordLine[] };
    expect(lines[0]).toMatchObject({
      by: TEAL,
      detail: expect.stringMatching(/^made \S+Z, sealed, brought by Pipit /),
    });
  });

  it("one who may only look can bring it, and it is not lost on one who has none: it waits", async () => {
    const lark = await signedIn(t, "look");
    const body = note("heard by day");
    expect((await bring(lark, { body }).expect(403)).body.title).toBe("Another’s work");
    await bring(lark, { body, seal: await seal({ address: acts(), body }) }).expect(200);
    expect((await lark.api.post(acts()).send(note("mine")).set("content-type", "application/json")).status).toBe(403);
  });

  it("is good for what was made, to where, by a session that stood then", async () => {
    const body = note("as it was");
    const good = await seal({ address: acts(), body });
    const other = note("as it was not");
    expect((await bring(pipit, { body: other, seal: good }).expect(403)).body.detail).toContain("not what was sealed");
    const forged = readSeal(good);
    if (!forged) throw new Error("no seal");
    const of = async (made: Partial<Made>): Promise<string> => seal({ address: acts(), body, ...made });
    const refused: readonly [string, string][] = [
      ["another key", writeSeal({ ...forged, key: "A".repeat(43) })],
      ["another instant", writeSeal({ ...forged, at: forged.at + 1 })],
      ["another body", writeSeal({ ...forged, body: "A".repeat(43) })],
      ["another hand", writeSeal({ ...forged, signature: "A".repeat(86) })],
      ["another job", await of({ address: "/api/jobs/77/acts" })],
      ["another question", await of({ address: `${acts()}?a=1` })],
      ["another method", await of({ method: "PUT" })],
      ["before its key", await of({ ago: 400_000 })],
      ["tomorrow", await of({ ago: -86_400_000 })],
      ["no seal at all", "made by Teal, honestly"],
    ];
    for (const [what, bad] of refused) {
      const answer = await bring(pipit, { body, seal: bad });
      expect([what, answer.status, answer.body.title]).toEqual([what, 403, "Another’s work"]);
    }
    await teal.api.post("/api/sign-out").expect(200);
    // Made while they were in, it is theirs; after they left, anybody’s.
    expect((await bring(pipit, { body, seal: await of({ ago: -60_000 }) }).expect(403)).body.title).toBe(
      "Another’s work",
    );
    await bring(pipit, { body, seal: await of({ ago: 60_000 }) }).expect(200);
  });

  it("whoever was given another PIN since, and has chosen none, did it all the same", async () => {
    const body = note("made before");
    const keeper = await signedIn(t, "keeper");
    const id = teal.me.person?.id;
    const sealed = await seal({ address: acts(), body });
    await keeper.api.post(`/api/people/${id}/secret`).send({}).expect(200);
    await bring(pipit, { body, seal: sealed }).expect(200);
    // Retired since, nobody is: it waits, for somebody to ask about it.
    const later = note("made before, too");
    const again = await seal({ address: acts(), body: later });
    const all = (await keeper.api.get("/api/people").expect(200)).body as { people: Person[] };
    const { name, sign, role, version } = all.people.find((p) => p.id === id) as Person;
    await keeper.api.put(`/api/people/${id}`).send({ name, sign, role, version, retired: true }).expect(200);
    expect((await bring(pipit, { body: later, seal: again }).expect(403)).body.title).toBe("Another’s work");
  });

  it("of what does not wait there is no seal: nobody is made another by one", async () => {
    const body = JSON.stringify({
      nickname: "Wren",
      bay: "",
      kind: "lathe",
      hoursPerWeek: 40,
      note: "",
      letters: ["X"],
    });
    const keeper = await sealing(await signedIn(t, "keeper"));
    const sealed = await keeper.seal({ address: "/api/people", body });
    const answer = await teal.api
      .post("/api/people")
      .set({ "x-working-as": NAMES.keeper, "x-made-under": sealed, "content-type": "application/json" })
      .send(body);
    expect([answer.status, answer.body.title]).toEqual([403, "Another’s work"]);
  });

  it("a name under a hold is proven by it where nobody could be asked, and never once a PIN was asked for", async () => {
    while (!next().hold) job = (await teal.api.post(acts()).send(plainSign(next())).expect(200)).body as Job;
    const hold = (holdBy: string): string => JSON.stringify(plainSign(next(), { holdBy }));
    const asked = hold(TEAL);
    // Made this moment: somebody stands there, and is asked.
    const now = await bring(teal, { body: asked, seal: await seal({ address: acts(), body: asked, ago: 1_000 }) });
    expect([now.status, now.body.title]).toEqual([403, "PIN again"]);
    const later = await bring(teal, { body: asked, seal: await seal({ address: acts(), body: asked }) });
    expect([later.status, later.body.title]).toEqual([403, "PIN again"]);
    // Another vouches: their own PIN proves that.
    const others = hold(PIPIT);
    const vouched = await bring(pipit, { body: others, seal: await seal({ address: acts(), body: others }) });
    expect(vouched.body).toMatchObject({ title: "PIN again", errors: [{ path: "again", message: PIPIT }] });
    const made = hold(TEAL);
    const signed = await bring(pipit, { body: made, seal: await seal({ address: acts(), body: made }) }).expect(200);
    expect((signed.body as Job).events.at(-1)).toMatchObject({ by: TEAL, holdBy: TEAL });
  });

  it("a photo too: its bytes and what it is called", async () => {
    const jpeg = Buffer.from("not a photo, and read only by who may");
    const address = `/api/jobs/${job.id}/photos?caption=the+chip&key=${randomUUID()}&step=${next().id}`;
    const send = (sealed: string) =>
      pipit.api
        .post(address)
        .set({ "x-working-as": encodeURIComponent(TEAL), "content-type": "image/jpeg", "x-made-under": sealed })
        .send(jpeg);
    expect((await send(await seal({ address: `/api/jobs/${job.id}/photos`, body: jpeg }))).status).toBe(403);
    const read = await send(await seal({ address, body: jpeg }));
    expect([read.status, read.body.title]).toEqual([422, "Not a photo"]);
  });

  it("only a key of the kind that is agreed on is kept, of who is signed in", async () => {
    const spki = (pair: { publicKey: { export(o: object): unknown } }): string =>
      (pair.publicKey.export({ type: "spki", format: "der" }) as Buffer).toString("base64");
    const keep = (key: string) => teal.api.post("/api/me/seal").send({ key });
    const p384 = spki(generateKeyPairSync("ec", { namedCurve: "P-384" }));
    expect((await keep(p384).expect(422)).body.errors[0].message).toBe("The key is no public key of ECDSA on P-256.");
    await keep("A".repeat(120)).expect(422);
    await keep("not base64!").expect(422);
    expect((await sealing(teal)).me.seals).toHaveLength(2);
    await t.api.post("/api/me/seal").send({ key: p384 }).expect(401);
  });

  it("one comes where another has been, who could not leave: no token of theirs, and no name, is asked for", async () => {
    const personId = teal.me.names.find((n) => n.name === PIPIT)?.id;
    const bare = supertest(t.app.express);
    const came = await bare
      .post("/api/sign-in")
      .set({ cookie: teal.cookie, "x-working-as": PIPIT })
      .send({ personId, secret: secretOf("planner") })
      .expect(200);
    expect((came.body as Me).person?.name).toBe(PIPIT);
    // To leave, though somebody else had gone on there, takes the token of the session alone.
    const leave = (token: string) =>
      bare.post("/api/sign-out").set({ cookie: pipit.cookie, "x-working-as": TEAL, "x-token": token }).send({});
    await leave("").expect(403);
    const left = await leave(pipit.me.token ?? "").expect(200);
    expect((left.body as Me).person).toBeNull();
  });
});
