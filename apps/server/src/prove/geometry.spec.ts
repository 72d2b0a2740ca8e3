import type { Axis, Geometry, GeometryCreate } from "@iron/contract";
import { newAxis, testApp, type TestApp } from "../testing/test-app";

describe("how a machine stands", () => {
  let t: TestApp;
  let x: Axis;
  beforeEach(async () => {
    t = await testApp();
    x = await newAxis(t);
    const { config } = x;
    await t.api
      .post(`/api/machines/${x.machineId}/axes`)
      .send({ config: { ...config, letter: "Y" } })
      .expect(201);
  });
  afterEach(() => t.close());

  const of = async (): Promise<Geometry> =>
    (await t.api.get(`/api/machines/${x.machineId}/geometry`).expect(200)).body as Geometry;
  const keep = (taken: GeometryCreate["taken"], note = "") =>
    t.api.post(`/api/machines/${x.machineId}/geometry`).send({ taken, note });
  const leg = (slope: number) => [0, 150, 300].map((atMm) => ({ atMm, mm: slope * atMm }));
  const SWEEP: Extract<GeometryCreate["taken"], { kind: "sweep" }> = {
    kind: "sweep",
    letters: ["X", "Y"],
    setting: [],
    sweep: leg(5e-5),
    flippedSetting: [],
    flipped: leg(3e-5),
    squareU: 0,
    resolutionMm: 0.001,
  };
  const LEVELS: Extract<GeometryCreate["taken"], { kind: "levels" }> = {
    kind: "levels",
    feet: [
      { name: "1", xMm: 0, yMm: 0 },
      { name: "2", xMm: 1600, yMm: 0 },
      { name: "3", xMm: 1600, yMm: 900 },
      { name: "4", xMm: 0, yMm: 900 },
    ],
    readings: [
      { along: "X", xMm: 800, yMm: 450, mmPerM: 0.06, turnedMmPerM: 0.06 },
      { along: "Y", xMm: 800, yMm: 450, mmPerM: 0, turnedMmPerM: 0 },
    ],
    divisionMmPerM: 0.02,
    soft: null,
    pitchMm: 2,
  };

  it("keeps a square, diagonals and levels by who and when; what is set aside stays on record with why", async () => {
    expect(await of()).toEqual({ square: [], levels: [] });
    await keep(SWEEP, "granite square").expect(201);
    const diagonals = { kind: "diagonals" as const, letters: ["X", "Y"] as const, sidesMm: [300, 400] as const };
    await keep({ ...diagonals, diagonalsMm: [500.0192, 500], uMm: 0.003 }).expect(201);
    await keep(LEVELS).expect(201);
    const { square, levels } = await of();
    expect(square.map((s) => [s.way, s.by, s.note, Number((1e6 * s.value).toFixed(1))])).toEqual([
      ["sweep", "Rowan", "granite square", 40],
      ["diagonals", "Rowan", "", 40],
    ]);
    expect(square[0].ownError?.value).toBeCloseTo(1e-5, 9);
    // 0.06 mm/m over 1.6 m.
    expect(levels[0].result.turns.map((f) => Number(f.raiseMm.toFixed(4)))).toEqual([0.096, 0, 0, 0.096]);
    const aside = await t.api
      .post(`/api/geometry/${square[0].id}/aside`)
      .send({ reason: "square was dropped" })
      .expect(200);
    expect((aside.body as Geometry).square[0].aside).toBe("square was dropped");
    await t.api.post(`/api/geometry/${square[0].id}/aside`).send({ reason: "again" }).expect(409);
    await t.api.post("/api/geometry/99/aside").send({ reason: "none" }).expect(404);
    await expect(t.db.deleteFrom("geometry").execute()).rejects.toMatchObject({
      message: expect.stringContaining("append-only") as string,
    });
  });

  it("refuses what cannot be, with value and bound, and keeps nothing", async () => {
    const no = async (taken: GeometryCreate["taken"]): Promise<string> =>
      (await keep(taken).expect(422)).body.detail as string;
    expect(await no({ ...SWEEP, letters: ["X", "W"] })).toBe("Wren has no axis W.");
    expect(await no({ ...SWEEP, letters: ["X", "X"] })).toContain("not square to itself");
    expect(
      await no({ kind: "diagonals", letters: ["X", "Y"], sidesMm: [300, 400], diagonalsMm: [560, 500], uMm: 0.01 }),
    ).toContain("first diagonal is 560: it must be within 2 % of 500.000 mm");
    expect(await no({ ...LEVELS, readings: [LEVELS.readings[0], LEVELS.readings[0]] })).toContain(
      "readings along Y is 0",
    );
    expect(await of()).toEqual({ square: [], levels: [] });
    await t.api.get("/api/machines/99/geometry").expect(404);
  });
});
