import type { LubricationPointRecord, PartRecord, Parts } from "@iron/contract";
import { randomUUID } from "node:crypto";
import { newAxis, testApp, type TestApp, USUAL } from "../testing/test-app";

describe("spare parts", () => {
  let t: TestApp;
  let machineId: number;
  beforeEach(async () => {
    t = await testApp();
    ({ machineId } = await newAxis(t));
  });
  afterEach(() => t.close());

  const list = async (): Promise<Parts> => (await t.api.get("/api/parts").expect(200)).body as Parts;
  const named = ({ parts }: Parts, part: string): PartRecord => {
    const one = parts.find((p) => p.part === part);
    if (!one) throw new Error(`no ${part} among ${parts.map((p) => p.part).join("; ")}`);
    return one;
  };
  const insert = (parts: Parts): PartRecord =>
    parts.parts.find((p) => p.part.startsWith("coupling insert")) as PartRecord;
  const count = (part: string, n: number, kind = "count", key = randomUUID()) =>
    t.api.post("/api/parts/count").send({ key, part, kind, count: n });
  const order = (more: object = {}) =>
    t.api
      .post("/api/part-orders")
      .send({ key: randomUUID(), part: "brushes, spindle motor", count: 2, why: "", ...more });
  const state = (id: number, to: string, key = randomUUID()) =>
    t.api.post(`/api/part-orders/${id}/state`).send({ key, state: to });

  it("are those of the shop’s axes, with how many to hold and why", async () => {
    const all = await list();
    const set = all.parts.find((p) => p.part.startsWith("end-bearing set")) as PartRecord;
    expect(set.axes).toHaveLength(1);
    expect(set).toMatchObject({ built: 1, stock: 0, countedAt: null, onOrder: 0, usual: true });
    expect(set.order).toBe(set.hold);
    expect(set.why).toMatch(/^While an order takes its 10 days, one is wanted in \d+ of 1,000 cases; without one/);
    // A machine that is gone wants none.
    await t.api.post(`/api/machines/${machineId}/retire`).expect(200);
    expect((await list()).parts).toEqual([]);
  });

  it("counted, taken out, come in: the shelf is what is left; what is on its way is not ordered again", async () => {
    const before = insert(await list());
    expect(before.hold).toBeGreaterThan(0);
    await count(before.part, 3).expect(201);
    await count(before.part, 1, "out").expect(201);
    expect(insert(await list())).toMatchObject({ stock: 2, order: Math.max(0, before.hold - 2) });
    await count(before.part, 0).expect(201);
    const ordered = (await order({ part: before.part, count: 4 }).expect(201)).body as Parts;
    expect(insert(ordered)).toMatchObject({ stock: 0, onOrder: 4, order: Math.max(0, before.hold - 4) });
    const [{ id }] = ordered.orders;
    await state(id, "ordered").expect(201);
    expect(insert((await state(id, "came").expect(201)).body as Parts)).toMatchObject({ stock: 4, onOrder: 0 });
    // Taken back it is on its way again.
    expect(insert((await state(id, "ordered").expect(201)).body as Parts)).toMatchObject({ stock: 0, onOrder: 4 });
    await state(id, "came").expect(201);
    expect(insert((await count(before.part, 1).expect(201)).body as Parts).stock).toBe(1);
  });

  it("taken out before anybody has counted, the shelf owes nothing for it", async () => {
    const { part } = insert(await list());
    await count(part, 2, "out").expect(201);
    const ordered = (await order({ part, count: 3 }).expect(201)).body as Parts;
    expect(insert((await state(ordered.orders[0].id, "came").expect(201)).body as Parts).stock).toBe(3);
    expect(insert((await count(part, 1, "out").expect(201)).body as Parts).stock).toBe(2);
  });

  it("sent twice is kept once; a key that was something else’s is refused", async () => {
    const part = insert(await list()).part;
    const key = randomUUID();
    await count(part, 5, "count", key).expect(201);
    expect(insert((await count(part, 2, "count", key).expect(201)).body as Parts).stock).toBe(5);
    const other = await count("another", 2, "count", key).expect(409);
    expect(other.body.detail).toMatch(/Nothing was kept here/);
    const again = randomUUID();
    await order({ key: again }).expect(201);
    const orders = ((await order({ key: again }).expect(201)).body as Parts).orders;
    expect(orders).toHaveLength(1);
    expect((await order({ key: again, count: 3 }).expect(409)).body.detail).toMatch(/Nothing was kept here/);
    const moved = randomUUID();
    await state(orders[0].id, "ordered", moved).expect(201);
    await order({ part: "belt" }).expect(201);
    const second = (await list()).orders.find((o) => o.part === "belt");
    expect((await state(second?.id ?? 0, "came", moved).expect(409)).body.detail).toMatch(/kept for something else/);
    expect((await state(9999, "came").expect(404)).body.detail).toMatch(/9999/);
  });

  it("an order from a point names its machine, and a part nobody’s axis has is on the list all the same", async () => {
    const points = (await t.api.post(`/api/machines/${machineId}/lube-points/usual`).send(USUAL).expect(200))
      .body as LubricationPointRecord[];
    const all = (await order({ pointId: points[0].id, why: "brush length 4 mm, worn to the mark" }).expect(201))
      .body as Parts;
    expect(all.orders[0]).toMatchObject({ machineId, pointId: points[0].id, state: "wanted", count: 2 });
    expect(all.orders[0].nickname).not.toBe("");
    expect(named(all, "brushes, spindle motor")).toMatchObject({ axes: [], hold: 0, onOrder: 2, order: 0, why: "" });
    const dropped = (await state(all.orders[0].id, "dropped").expect(201)).body as Parts;
    expect(named(dropped, "brushes, spindle motor").onOrder).toBe(0);
    expect(dropped.orders[0].state).toBe("dropped");
    await order({ machineId: 9999 }).expect(404);
  });

  it("the shop’s own figures come before what is usual; two who change them at once do not lose each other’s", async () => {
    const one = insert(await list());
    const terms = { ...one.terms, price: 50_000, least: 0, waitDays: 0.1 };
    const dear = (await t.api.put("/api/parts/terms").send(terms).expect(200)).body as Parts;
    expect(insert(dear)).toMatchObject({ hold: 0, usual: false, order: 0 });
    expect(insert(dear).why).toMatch(/it is ordered when it is wanted\.$/);
    const late = await t.api.put("/api/parts/terms").send(terms).expect(409);
    expect(late.body.current).toMatchObject({ version: 1, price: 50_000 });
    const least = { ...terms, version: 1, least: 2 };
    expect(insert((await t.api.put("/api/parts/terms").send(least).expect(200)).body as Parts).hold).toBe(2);
    const bad = await t.api
      .put("/api/parts/terms")
      .send({ ...least, version: 2, leadDays: 400 })
      .expect(422);
    expect(JSON.stringify(bad.body)).toMatch(/Days to arrive must be from 0 to 365/);
  });

  it("goes out as CSV, formulas disarmed", async () => {
    await order({ part: "=1+1" }).expect(201);
    const { text } = await t.api.get("/api/export/parts").expect(200);
    expect(text.split("\r\n")[0]).toBe(
      "part,axes,built_in,wanted_a_year,hold,stock,on_order,order,price,currency,lead_days",
    );
    expect(text).toContain("end-bearing set, ");
    expect(text).toContain("'=1+1");
  });
});
