import { defaultAxis } from "@iron/core";
import type { Floor } from "@iron/contract";
import { newAxis, testApp, type TestApp } from "../testing/test-app";

describe("machines and axes over the API", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp();
  });
  afterEach(() => t.close());

  const wren = {
    nickname: "Wren",
    bay: "5",
    kind: "lathe",
    hoursPerWeek: 40,
    note: "",
    letters: ["X", "Z"],
  };

  it("adds a machine with the defaults of its kind and shows it on the floor", async () => {
    const made = await t.api.post("/api/machines").send(wren).expect(201);
    expect(made.body.axes.map((a: { config: { orientation: string } }) => a.config.orientation)).toEqual([
      "slanted",
      "horizontal",
    ]);
    const floor = (await t.api.get("/api/floor").expect(200)).body as Floor;
    expect(floor.machines[0]).toMatchObject({
      nickname: "Wren",
      axes: [
        { letter: "X", last: null },
        { letter: "Z", last: null },
      ],
    });
  });

  it("answers a wrong value in words at its path, as problem details", async () => {
    const axis = await newAxis(t);
    const config = {
      ...axis.config,
      screw: { ...axis.config.screw, leadMm: 0 },
    };
    const answer = await t.api.put(`/api/axes/${axis.id}`).send({ version: 1, config }).expect(422);
    expect(answer.type).toBe("application/problem+json");
    expect(answer.body).toMatchObject({
      status: 422,
      errors: [
        {
          path: "config.screw.leadMm",
          message: "Lead 0 mm cannot be: a screw moves the table by its lead each turn. Typical: 4 to 20 mm.",
        },
      ],
    });
    expect((await t.api.get(`/api/axes/${axis.id}`)).body.version).toBe(1);
  });

  it("gives the second of two editors both versions and overwrites nothing", async () => {
    const axis = await newAxis(t);
    const mine = { version: 1, config: { ...axis.config, travelMm: 600 } };
    const theirs = { version: 1, config: { ...axis.config, travelMm: 700 } };
    await t.api.put(`/api/axes/${axis.id}`).set("x-working-as", "Tomas").send(theirs).expect(200);
    const answer = await t.api.put(`/api/axes/${axis.id}`).set("x-working-as", "Ilse").send(mine).expect(409);
    expect(answer.body.detail).toBe("Tomas changed this axis while you did. Both versions are here; choose.");
    expect(answer.body.current).toMatchObject({
      version: 2,
      config: { travelMm: 700 },
    });
    await t.api
      .put(`/api/axes/${axis.id}`)
      .send({ ...mine, version: 2 })
      .expect(200);
    expect((await t.api.get(`/api/axes/${axis.id}`)).body.config.travelMm).toBe(600);
  });

  it("duplicates and retires, and brings back", async () => {
    const made = await t.api.post("/api/machines").send(wren);
    const copy = await t.api.post(`/api/machines/${made.body.id}/duplicate`).expect(201);
    expect(copy.body).toMatchObject({
      nickname: "Wren (copy)",
      axes: [{}, {}],
    });
    const axis = await t.api.post(`/api/axes/${made.body.axes[0].id}/duplicate`).expect(201);
    expect(axis.body.config.letter).toBe("Y");
    await t.api.post(`/api/machines/${copy.body.id}/retire`).expect(200);
    const floor = (await t.api.get("/api/floor")).body as Floor;
    expect(floor.machines.map((m) => m.nickname)).toEqual(["Wren"]);
    expect(floor.retired.map((m) => m.nickname)).toEqual(["Wren (copy)"]);
    await t.api.post(`/api/machines/${copy.body.id}/revive`).expect(200);
    expect((await t.api.get("/api/floor")).body.machines).toHaveLength(2);
    await t.api.post(`/api/axes/${axis.body.id}/retire`).expect(200);
    expect((await t.api.get("/api/floor")).body.machines[0].axes).toHaveLength(2);
  });

  it("sees two editors of a machine too", async () => {
    const { id } = (await t.api.post("/api/machines").send(wren)).body;
    const edit = {
      nickname: "Wren",
      bay: "6",
      kind: "lathe",
      hoursPerWeek: 40,
      note: "",
      version: 1,
    };
    await t.api.put(`/api/machines/${id}`).send(edit).expect(200);
    const late = await t.api
      .put(`/api/machines/${id}`)
      .send({ ...edit, bay: "7" })
      .expect(409);
    expect(late.body.current.bay).toBe("6");
  });

  it("keeps text as text, whatever it looks like", async () => {
    const odd = { ...wren, nickname: "[1]", note: '{"a":1}', letters: [] };
    const made = await t.api.post("/api/machines").send(odd).expect(201);
    expect(made.body).toMatchObject({ nickname: "[1]", note: '{"a":1}' });
  });

  it("keeps the shop and the indicators", async () => {
    expect((await t.api.get("/api/shop")).body).toMatchObject({
      currency: "EUR",
      demo: false,
    });
    const shop = {
      name: "Fen",
      currency: "GBP",
      people: ["Ilse", "Ama"],
      version: 0,
    };
    expect((await t.api.put("/api/shop").send(shop).expect(200)).body).toMatchObject({ ...shop, version: 1 });
    const indicator = {
      name: "Dial",
      kind: "plunger",
      resolutionMm: 0.01,
      unit: "mm",
      tipAngleDeg: 0,
      rangeMm: 10,
    };
    const made = await t.api.post("/api/indicators").send(indicator).expect(201);
    const bad = await t.api
      .put(`/api/indicators/${made.body.id}`)
      .send({ ...indicator, resolutionMm: 0, tipAngleDeg: 85, version: 1 })
      .expect(422);
    expect(bad.body.errors.map((e: { path: string }) => e.path)).toEqual(["resolutionMm", "tipAngleDeg"]);
    await t.api.post(`/api/indicators/${made.body.id}/retire`).expect(200);
    expect((await t.api.get("/api/indicators")).body[0].retiredAt).not.toBeNull();
  });

  it("names what is not there", async () => {
    expect((await t.api.get("/api/machines/99").expect(404)).body.detail).toBe("There is no machine 99.");
    expect((await t.api.get("/api/axes/0").expect(422)).body.detail).toBe("The id must be above 0.");
    expect((await t.api.get("/api/nothing").expect(404)).body.detail).toBe("There is nothing at GET /nothing.");
    expect(
      (
        await t.api
          .post("/api/machines/9/axes")
          .send({ config: defaultAxis("lathe", "X") })
          .expect(404)
      ).body.status,
    ).toBe(404);
  });
});
