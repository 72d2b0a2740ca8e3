import { FINDINGS, usualCircles, type CirclePlan } from "@iron/core";
import type { BarBatch, CircleDrawn, Circles, CircleSession, Diagnosis, Floor, MachineWithAxes } from "@iron/contract";
import type { AddressInfo } from "node:net";
import { fromJson, toJson } from "../store/columns";
import { testApp, type TestApp } from "../testing/test-app";
import { inThread, type WorkPool } from "../threads/pool";
import type { CircleAsked } from "../threads/tasks";

const BAR = { name: "Bar, 100 mm", resolutionMm: 0.0001, uMm: 0.0005, calibrated: false };

describe("circles of a machine", () => {
  let t: TestApp;
  beforeAll(async () => (t = await testApp({ simulate: true, demo: true })));
  afterAll(() => t.close());

  const machineOf = async (nickname: string): Promise<MachineWithAxes> => {
    const { machines } = (await t.api.get("/api/floor").expect(200)).body as Floor;
    const { id } = machines.find((m) => m.nickname === nickname) as { id: number };
    return (await t.api.get(`/api/machines/${id}`).expect(200)).body as MachineWithAxes;
  };
  const start = async (
    machine: MachineWithAxes,
    plans: readonly CirclePlan[],
    over: object = {},
  ): Promise<CircleSession> =>
    (
      await t.api
        .post(`/api/machines/${machine.id}/circles`)
        .send({ plans, bar: BAR, temperatureC: 20.5, note: "Middle of the table", ...over })
        .expect(201)
    ).body as CircleSession;
  /** As usual, but with the smallest bar and quicker: less has to be walked. */
  const plansOf = (machine: MachineWithAxes): readonly CirclePlan[] =>
    usualCircles(machine.axes.map((a) => a.config)).map((plan) => ({ ...plan, radiusMm: 50, feedMmMin: 1500 }));
  /** Both ways round of every plane. */
  const readAll = async (session: CircleSession): Promise<CircleSession> => {
    for (const { id } of session.planes)
      for (const direction of [1, -1])
        await t.api.post(`/api/circle-planes/${id}/read`).send({ direction }).expect(200);
    return (await t.api.get(`/api/circles/${session.id}`).expect(200)).body as CircleSession;
  };
  const finding = (session: CircleSession, plane: number, kind: string, letter: string | null = null) =>
    session.planes[plane].analysis?.findings.find((f) => f.kind === kind && f.letter === letter);

  it("a machine that was moved is found out of square, and levelling is where it leads", async () => {
    const machine = await machineOf("Avocet");
    const session = await readAll(await start(machine, plansOf(machine)));
    expect(session.connected).toBe(true);
    expect(session.planes.map((p) => p.plan.letters.join(""))).toEqual(["XY", "ZX", "YZ"]);
    expect(session.planes.flatMap((p) => p.passes.map((q) => [q.source, q.used, q.troubles.length]))).toEqual(
      Array.from({ length: 6 }, () => ["bar", true, 0]),
    );
    const square = finding(session, 0, "square");
    // What was put into the virtual machine, which knows nothing of how it is taken apart.
    expect(Math.abs((square?.value ?? 0) - 160e-6)).toBeLessThan(2 * (square?.u ?? 0));
    expect(square?.u).toBeLessThan(15e-6);
    // Kept as JSON and read again it is what the core made of it.
    expect(session.planes[0].analysis?.shape.lossMm.every((mm) => mm > 0)).toBe(true);
    expect(session.joint?.tests.some((one) => one.kind === "lost" && one.letter === "X")).toBe(true);
    const ended = (await t.api.post(`/api/circles/${session.id}/finish`).expect(200)).body as CircleSession;
    expect(ended.state).toBe("finished");
    const plane = session.planes[0].id;
    await t.api.post(`/api/circle-planes/${plane}/read`).send({ direction: 1 }).expect(409);
    const list = (await t.api.get(`/api/machines/${machine.id}/circles`).expect(200)).body as Circles;
    expect(list.sessions.map((s) => s.id)).toContain(session.id);
  });

  it("ways round that are worked out at once, the first the slower, leave the word of both", async () => {
    const machine = await machineOf("Avocet");
    const session = await start(machine, [plansOf(machine)[0]]);
    const [plane] = session.planes;
    const round = (sign: number) =>
      Array.from({ length: 1500 }, (_, i) => ({
        deg: (sign * i * 360) / 1500,
        mm: 0.001 * Math.sin((i * 2 * Math.PI) / 750),
      }));
    // The first has so many more readings that it takes longer by itself.
    await Promise.all([
      t.api
        .post(`/api/circle-planes/${plane.id}/typed`)
        .send({ direction: 1, readings: round(1) })
        .expect(201),
      t.api
        .post(`/api/circle-planes/${plane.id}/typed`)
        .send({ direction: -1, readings: round(-1).filter((_, i) => i % 40 === 0) })
        .expect(201),
    ]);
    const { planes } = (await t.api.get(`/api/circles/${session.id}`).expect(200)).body as CircleSession;
    expect(planes[0].analysis?.quantities.g).toHaveLength(2);
  });

  it("the axes that tremble are told from the one that is clean", async () => {
    const machine = await machineOf("Bittern");
    const session = await readAll(await start(machine, plansOf(machine)));
    const [xy, zx, yz] = session.planes.map((p) => p.analysis?.tremble.rmsMm ?? [0, 0]);
    const [x, y, z] = [Math.max(xy[0], zx[1]), Math.min(xy[1], yz[0]), Math.min(zx[0], yz[1])];
    expect(y).toBeGreaterThan(2 * x);
    expect(z).toBeGreaterThan(2 * x);
    const line = session.planes[0].analysis?.tremble.lines[0];
    expect(line).toMatchObject({ by: "order", letter: "Y", perTurn: expect.closeTo(5.4, 1) as number });
    // Once it is finished it speaks in a case of the axis that trembles, and in none of the one that is clean.
    await t.api.post(`/api/circles/${session.id}/finish`).expect(200);
    const told = async (letter: string): Promise<readonly string[]> => {
      const axis = machine.axes.find((a) => a.config.letter === letter);
      const axisIds = [axis?.id];
      const opened = await t.api.post(`/api/machines/${machine.id}/cases`).send({ axisIds, context: {} }).expect(201);
      const { body } = await t.api.get(`/api/cases/${(opened.body as { id: number }).id}/assessment`).expect(200);
      const all = (body as Diagnosis).leading.flatMap((c) => [...c.speaksFor, ...c.speaksAgainst]);
      const chatter = FINDINGS.find((f) => f.id === "chatter")?.text ?? "";
      return all
        .filter((one) => one.ref === `circle ${session.id}` && one.message.includes(chatter))
        .map((one) => one.message);
    };
    expect((await told("Y")).length).toBeGreaterThan(0);
    expect(await told("X")).toEqual([]);
  });

  it("what a radio loses stays lost, and is said", async () => {
    const machine = await machineOf("Heron");
    const [plan] = plansOf(machine);
    const session = await readAll(await start(machine, [{ ...plan, feedMmMin: 1000, spanDeg: 360, overrunDeg: 30 }]));
    const troubles = session.planes[0].passes.flatMap((p) => p.troubles.map((q) => q.code));
    expect(troubles).toContain("gap");
    const mismatch = finding(session, 0, "mismatch");
    expect(Math.abs((mismatch?.value ?? 0) - 105e-6)).toBeLessThan(2 * (mismatch?.u ?? 0) + 5e-6);
  });

  it("is drawn, written to CSV and read in again as the same", async () => {
    const machine = await machineOf("Avocet");
    const [plan] = plansOf(machine);
    const session = await readAll(await start(machine, [plan]));
    const drawn = (await t.api.get(`/api/circle-planes/${session.planes[0].id}/drawn`).expect(200)).body as CircleDrawn;
    expect(drawn.traces.map((d) => d.direction)).toEqual([1, -1]);
    expect(drawn.traces[0].angles.length).toBeLessThan(3700);
    const csv = (await t.api.get(`/api/circles/${session.id}/export`).expect(200)).text;
    expect(csv.split("\n")[0]).toBe("plane,direction,run,angle_deg,deviation_um,by");
    const other = await start(machine, [plan]);
    const again = (await t.api.post(`/api/circle-planes/${other.planes[0].id}/import`).send({ text: csv }).expect(201))
      .body as CircleSession;
    expect(again.planes[0].passes.map((p) => [p.source, p.direction])).toEqual([
      ["import", 1],
      ["import", -1],
    ]);
    expect(finding(again, 0, "square")?.value).toBeCloseTo(finding(session, 0, "square")?.value ?? NaN, 6);
    const wrong = await t.api
      .post(`/api/circle-planes/${other.planes[0].id}/import`)
      .send({ text: "angle_deg,deviation_um\n1,x" })
      .expect(422);
    expect(wrong.body).toMatchObject({ errors: [{ path: "line 2, deviation_um", message: "“x” is not a number." }] });
    const json = (await t.api.get(`/api/circles/${session.id}/export?format=json`).expect(200)).body as {
      readings: { passes: unknown[] }[];
    };
    expect(json.readings[0].passes).toHaveLength(2);
    const pdf = await t.api.get(`/api/circles/${session.id}/export?format=pdf&system=inch`).buffer(true).expect(200);
    expect(pdf.headers["content-type"]).toBe("application/pdf");
    const bytes = (pdf.body as Buffer).toString("latin1");
    expect(bytes.startsWith("%PDF")).toBe(true);
    expect(bytes.match(/\/Type \/Page\b/g)).toHaveLength(1);
  });

  it("takes typed readings of an indicator in a ring, and says what they cannot tell", async () => {
    const machine = await machineOf("Avocet");
    const session = await start(machine, [plansOf(machine)[0]]);
    const [plane] = session.planes;
    const readings = Array.from({ length: 36 }, (_, i) => ({
      deg: 10 * i,
      mm: 0.004 * Math.sin((20 * i * Math.PI) / 180),
    }));
    const typed = (
      await t.api.post(`/api/circle-planes/${plane.id}/typed`).send({ direction: 1, readings }).expect(201)
    ).body as CircleSession;
    // One way round tells no servo, ten degrees between readings no spike.
    const kinds = typed.planes[0].analysis?.findings.map((f) => f.kind);
    expect(kinds).toContain("square");
    expect(kinds).not.toContain("spike");
    expect(kinds).not.toContain("servo");
    expect(finding(typed, 0, "square")?.value).toBeCloseTo((2 * 0.004) / plane.plan.radiusMm, 5);
    await t.api.post(`/api/circle-planes/${plane.id}/typed`).send({ direction: 1, readings: [] }).expect(422);
  });

  it("a way round is set aside once, and the plane worked out anew", async () => {
    const machine = await machineOf("Avocet");
    const session = await readAll(await start(machine, [plansOf(machine)[0]]));
    const pass = session.planes[0].passes[1];
    const after = (
      await t.api.post(`/api/circle-passes/${pass.id}/aside`).send({ reason: "coolant came on" }).expect(200)
    ).body as CircleSession;
    expect(after.planes[0].passes[1]).toMatchObject({ used: false, reason: "coolant came on" });
    expect(after.planes[0].analysis?.findings.some((f) => f.kind === "servo")).toBe(false);
    await t.api.post(`/api/circle-passes/${pass.id}/aside`).send({ reason: "" }).expect(409);
    await t.api.post("/api/circle-passes/99999/aside").send({ reason: "" }).expect(404);
  });

  it("a circle that leaves the travel, an axis that is not there, a reading without end are refused by name", async () => {
    const machine = await machineOf("Avocet");
    const [plan] = plansOf(machine);
    const refused = async (over: object) =>
      (
        (
          await t.api
            .post(`/api/machines/${machine.id}/circles`)
            .send({ plans: [{ ...plan, ...over }], bar: BAR, temperatureC: null, note: "" })
            .expect(422)
        ).body as { detail: string }
      ).detail;
    expect(await refused({ centreMm: [20, 90] })).toMatch(/lowest place of X is −?-?\d/);
    expect(await refused({ letters: ["X", "W"] })).toBe("Avocet has no axis W.");
    const slow = await start(machine, [{ ...plan, feedMmMin: 1 }]);
    const long = await t.api.post(`/api/circle-planes/${slow.planes[0].id}/read`).send({ direction: 1 }).expect(422);
    expect((long.body as { detail: string }).detail).toContain("the bar reads for 60 at most");
    await t.api.post(`/api/circles/${slow.id}/finish`).expect(422);
    const given = (
      await t.api.post(`/api/circles/${slow.id}/abandon`).send({ reason: "bar is at the other shop" }).expect(200)
    ).body as CircleSession;
    expect(given).toMatchObject({ state: "abandoned", reason: "bar is at the other shop" });
  });

  it("limits are kept with who and why, and a wrong one is named", async () => {
    const machine = await machineOf("Avocet");
    const { limits } = (await t.api.get(`/api/machines/${machine.id}/circles`).expect(200)).body as Circles;
    expect(limits).toMatchObject({ why: "", at: null });
    const tighter = { ...limits.limits, square: { leave: 10e-6, repair: 20e-6 } };
    const set = await t.api
      .put(`/api/machines/${machine.id}/circle-limits`)
      .set("x-working-as", "Ama")
      .send({ limits: tighter, why: "gauges are milled here" })
      .expect(200);
    expect(set.body).toMatchObject({ why: "gauges are milled here", by: "Ama", limits: { square: { leave: 10e-6 } } });
    const wrong = await t.api
      .put(`/api/machines/${machine.id}/circle-limits`)
      .send({ limits: { ...limits.limits, h: { leave: 0.02, repair: 0.01 } }, why: "x" })
      .expect(422);
    expect(JSON.stringify(wrong.body)).toContain(
      "What can be left must be above 0 and below what is repaired first: 0.02 and 0.01.",
    );
  });

  it("an own machine without a tale is one machine in all its planes: what is of its axes closes over them", async () => {
    const own = { nickname: "Ruff", bay: "11", kind: "router", hoursPerWeek: 40, note: "", letters: ["X", "Y", "Z"] };
    const machine = (await t.api.post("/api/machines").send(own).expect(201)).body as MachineWithAxes;
    const plans = plansOf(machine).map((plan) => ({
      ...plan,
      radiusMm: 50,
      feedMmMin: 2000,
      spanDeg: 360,
      startDeg: 0,
    }));
    const session = await readAll(await start(machine, plans));
    const tests = session.joint?.tests.map((one) => [one.kind, one.letter, one.agrees]) ?? [];
    // Its racks turn once in more than the circle is wide: scales are not told from that, and do not join in.
    expect(tests).toContainEqual(["servo", null, true]);
    expect(tests.filter(([kind, , agrees]) => kind === "servo" && !agrees)).toEqual([]);
  });

  it("the program is the plane’s own", async () => {
    const machine = await machineOf("Avocet");
    const session = await start(machine, [plansOf(machine)[0]]);
    const program = await t.api.get(`/api/circle-planes/${session.planes[0].id}/program?system=inch`).expect(200);
    expect(program.text).toContain("G17 (plane XY)");
    expect(program.text).toContain("G20");
    expect(program.headers["content-disposition"]).toContain(".nc");
  });

  it("the stream numbers its samples, so that what a radio loses is seen as missing", async () => {
    const machine = await machineOf("Heron");
    const [plan] = plansOf(machine);
    const session = await start(machine, [plan]);
    const plane = session.planes[0].id;
    const { model } = await t.db
      .selectFrom("virtual_machine")
      .select("model")
      .where("machine_id", "=", machine.id)
      .executeTakeFirstOrThrow();
    const poor = toJson({ ...fromJson(model), losesBatches: 0.2 });
    await t.db.updateTable("virtual_machine").set({ model: poor }).where("machine_id", "=", machine.id).execute();
    const server = t.app.express.listen(0);
    const { port } = server.address() as AddressInfo;
    const aborting = new AbortController();
    const stream = await fetch(`http://127.0.0.1:${port}/api/circle-planes/${plane}/stream`, {
      signal: aborting.signal,
    });
    await t.api.post(`/api/circle-planes/${plane}/read`).send({ direction: -1 }).expect(200);
    const batches: BarBatch[] = [];
    let text = "";
    for await (const chunk of stream.body as unknown as AsyncIterable<Uint8Array>) {
      text += new TextDecoder().decode(chunk);
      const events = text.split("\n\n");
      text = events.pop() ?? "";
      batches.push(
        ...events.filter((e) => e.startsWith("data: ")).map((e) => JSON.parse(e.slice("data: ".length)) as BarBatch),
      );
      // Whoever comes while nothing is read hears that first.
      if (batches.length > 1 && batches.at(-1)?.ended) break;
    }
    aborting.abort();
    server.close();
    expect(batches.shift()).toMatchObject({ ended: true, of: 0 });
    const holes = batches.slice(1).filter((b, i) => !b.ended && b.from !== batches[i].from + batches[i].values.length);
    const { planes } = (await t.api.get(`/api/circles/${session.id}`).expect(200)).body as CircleSession;
    const [pass] = planes[0].passes;
    expect(holes.length).toBeGreaterThan(0);
    expect(pass.troubles.filter((q) => q.code === "gap").length).toBeGreaterThan(0);
    expect(batches.every((b) => b.rateHz === 200 && b.direction === -1 && b.of === batches[0].of)).toBe(true);
    // The run in and the run out lie beyond the bar’s range: it says nothing there.
    expect(batches[0].values.every((v) => v === null)).toBe(true);
  });
});

describe("the work of a circle", () => {
  it("is asked how far it is while it goes on, and is nothing before and afterwards", async () => {
    let begun: (done: Float64Array) => void = () => undefined;
    const working = new Promise<Float64Array>((then) => (begun = then));
    let goOn: () => void = () => undefined;
    const held = new Promise<void>((then) => (goOn = then));
    const pool: WorkPool = {
      run: async (task, given, signal) => {
        if (task === "circle") {
          begun((given as CircleAsked).done);
          await held;
        }
        return (await inThread.run(task, given, signal)) as never;
      },
      close: () => inThread.close(),
    };
    const t = await testApp({ simulate: true, demo: true, pool });
    const { machines } = (await t.api.get("/api/floor").expect(200)).body as Floor;
    const machine = (await t.api.get(`/api/machines/${machines[0].id}`).expect(200)).body as MachineWithAxes;
    const plans = usualCircles(machine.axes.map((a) => a.config)).slice(0, 1);
    const body = { plans, bar: BAR, temperatureC: 20, note: "" };
    const made = await t.api.post(`/api/machines/${machine.id}/circles`).send(body).expect(201);
    const { id } = (made.body as CircleSession).planes[0];
    const share = async (): Promise<unknown> => (await t.api.get(`/api/circle-planes/${id}/work`).expect(200)).body;
    expect(await share()).toEqual({ share: null });
    const readings = Array.from({ length: 360 }, (_, i) => ({ deg: i, mm: 0.001 * Math.sin(i / 30) }));
    const typed = t.api.post(`/api/circle-planes/${id}/typed`).send({ direction: 1, readings }).expect(201).then();
    const done = await working;
    done[0] = 0.55;
    expect(await share()).toEqual({ share: 0.55 });
    goOn();
    await typed;
    expect(done[0]).toBe(1);
    expect(await share()).toEqual({ share: null });
    await t.close();
  });
});
