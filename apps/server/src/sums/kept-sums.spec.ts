import { OPERATIONS, type Floor } from "@iron/contract";
import { randomUUID } from "node:crypto";
import { summariesOf } from "../machine/axis-summary";
import { newAxis, startRun, testApp, type TestApp, USUAL } from "../testing/test-app";
import { rowsWritten } from "../testing/test-store";

describe("what is worked out once and kept", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp();
  });
  afterEach(() => t.close());

  const lines = async () => {
    const { machines } = (await t.api.get("/api/floor").expect(200)).body as Floor;
    return new Map(machines.flatMap((m) => m.axes).map((a) => [a.id, a]));
  };
  /** The floor says what all tests say, and its line was kept with the change that made it. */
  async function isTrue(axisId: number): Promise<void> {
    const kept = await t.db.selectFrom("axis_summary").selectAll().where("axis_id", "=", axisId).execute();
    expect(kept).toHaveLength(1);
    const afresh = (await summariesOf(t.db, [axisId])).get(axisId);
    expect(JSON.parse(kept[0].summary)).toEqual(afresh);
    expect((await lines()).get(axisId)).toEqual(afresh);
  }

  it("the floor’s line of an axis follows every change in the same transaction", async () => {
    const { id } = await newAxis(t);
    await isTrue(id);
    const run = await startRun(t, id, { plan: { runs: 1 } });
    await isTrue(id);
    expect((await lines()).get(id)?.openRunId).toBe(run.id);
    for (const [step, value] of [0, 0.02, 0.004, 0.02, 0.004].entries()) {
      await t.api.post(`/api/runs/${run.id}/readings`).send({
        step,
        value,
        widthMm: 0.001,
        entered: String(value),
        source: "typed",
        spoilt: false,
      });
      await isTrue(id);
    }
    const { state, readings } = (await t.api.get(`/api/runs/${run.id}`)).body as {
      state: string;
      readings: { id: number }[];
    };
    if (state === "running") await t.api.post(`/api/runs/${run.id}/finish`).expect(200);
    await isTrue(id);
    expect((await lines()).get(id)?.last?.runId).toBe(run.id);
    await t.api
      .post(`/api/readings/${readings.at(-1)?.id ?? 0}/discard`)
      .send({ reason: "bumped" })
      .expect(200);
    await isTrue(id);
    expect((await lines()).get(id)?.last).toBeNull();
    await t.api.post(`/api/runs/${run.id}/abandon`).send({ reason: "" }).expect(200);
    await isTrue(id);
    await t.api
      .post(`/api/axes/${id}/events`)
      .send({ kind: "repair", text: "x", at: new Date().toISOString() })
      .expect(201);
    await isTrue(id);
    const axis = (await t.api.get(`/api/axes/${id}`)).body as {
      version: number;
      config: { limits: object };
    };
    const limits = {
      leaveMm: 0.011,
      repairMm: 0.033,
      setBy: "Ama",
      why: "tight work",
    };
    await t.api
      .put(`/api/axes/${id}`)
      .send({ version: axis.version, config: { ...axis.config, limits } })
      .expect(200);
    await isTrue(id);
    expect((await lines()).get(id)).toMatchObject({
      leaveMm: 0.011,
      repairMm: 0.033,
    });
  });

  it("what a writer forgets to settle is worked out when it is looked at: old lines never stand", async () => {
    await t.close();
    t = await testApp({ demo: true });
    const rows = await t.db
      .selectFrom("run")
      .select(["id", "axis_id", "lost_mm"])
      .where("state", "=", "finished")
      .where("lost_mm", "is not", null)
      .execute();
    const last = rows[rows.length - 1];
    await t.db
      .updateTable("run")
      .set({ lost_mm: (last.lost_mm ?? 0) + 0.1 })
      .where("id", "=", last.id)
      .execute();
    const afresh = (await summariesOf(t.db, [last.axis_id])).get(last.axis_id);
    expect((await lines()).get(last.axis_id)).toEqual(afresh);
  });

  it("a point’s facts follow whoever writes: a visit, a move, a photo, a change, a row past the services", async () => {
    const { machineId } = await newAxis(t);
    const [point] = (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL).expect(200)).body as {
      id: number;
      place: string;
    }[];
    const there = async () =>
      (await t.api.get(`/api/lube-points/${point.id}`).expect(200)).body as {
        visits: number;
        lastFound: string | null;
        dose: number;
      };
    expect(await there()).toMatchObject({ visits: 0 });
    await t.db
      .insertInto("lube_visit")
      .values({
        key: randomUUID(),
        point_id: point.id,
        found: "dry",
        dose: 2,
        glitter: 0,
        outlets: null,
        words: "",
        at: new Date().toISOString(),
        by: "Ama",
      })
      .execute();
    expect(await there()).toMatchObject({ visits: 1, lastFound: "dry" });
    const { point: kept } = await t.db
      .selectFrom("lube_point")
      .select("point")
      .where("id", "=", point.id)
      .executeTakeFirstOrThrow();
    await t.db
      .updateTable("lube_point")
      .set({
        point: JSON.stringify({ ...(JSON.parse(kept) as object), dose: 77 }),
      })
      .where("id", "=", point.id)
      .execute();
    expect(await there()).toMatchObject({ visits: 1, dose: 77 });
  });

  it("looking changes nothing, whatever is looked at", async () => {
    await t.close();
    t = await testApp({ demo: true });
    const ids: Record<string, number> = {
      runs: 1,
      cases: 1,
      jobs: 1,
      series: 1,
    };
    const before = await rowsWritten(t.db);
    let looked = 0;
    for (let twice = 0; twice < 2; twice += 1)
      for (const operation of Object.values(OPERATIONS).filter((o) => o.method === "get")) {
        const path = operation.path
          .replace(":id", String(ids[operation.path.split("/")[2]] ?? 1))
          .replace(":key", randomUUID())
          .replace(":cause", "nut-worn");
        const answer = await t.api.get(path);
        expect([path, answer.status < 500]).toEqual([path, true]);
        looked += answer.status === 200 ? 1 : 0;
      }
    expect(looked).toBeGreaterThan(40);
    expect(await rowsWritten(t.db)).toBe(before);
  });
});
