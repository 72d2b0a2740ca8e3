import type { LubricationPointRecord, MachineListAnswer, MachineMeter, MachineWithAxes, Rounds } from "@iron/contract";
import { testApp, type TestApp } from "../testing/test-app";

const HEAD = "machine;bay;kind;axes;hours_per_week;meter_hours;last_lubricated;central";

describe("a shop from a list", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await testApp();
  });
  afterEach(() => t.close());
  const send = async (lines: readonly string[], more: object = {}, status = 200): Promise<MachineListAnswer> =>
    (
      await t.api
        .post("/api/machines/list")
        .send({ text: [HEAD, ...lines].join("\n"), ...more })
        .expect(status)
    ).body as MachineListAnswer;
  const floor = async (): Promise<{ machines: { id: number; nickname: string }[] }> =>
    (await t.api.get("/api/floor").expect(200)).body as { machines: { id: number; nickname: string }[] };

  it("is previewed with nothing kept, then made whole: machines, axes, points, meters; and taken back in one", async () => {
    const day = new Date(Date.now() - 20 * 86_400_000).toISOString().slice(0, 10);
    const lines = [`Siskin;31;router;X Y Z;30;1200;${day};`, "Linnet;32;vertical-centre;XYZ;80;;;ways-and-nuts"];
    const before = await send(lines);
    expect(before.ids).toEqual([]);
    expect(before.machines.map((m) => [m.nickname, m.letters, m.there])).toEqual([
      ["Siskin", ["X", "Y", "Z"], false],
      ["Linnet", ["X", "Y", "Z"], false],
    ]);
    expect((await floor()).machines).toEqual([]);
    const made = await send(lines, { preview: false });
    expect(made.ids).toHaveLength(2);
    const [siskin, linnet] = made.ids;
    const machine = (await t.api.get(`/api/machines/${siskin}`).expect(200)).body as MachineWithAxes;
    expect(machine).toMatchObject({ nickname: "Siskin", bay: "31", kind: "router", hoursPerWeek: 30 });
    expect(machine.axes.map((a) => a.config.letter)).toEqual(["X", "Y", "Z"]);
    const points = (await t.api.get(`/api/machines/${siskin}/lube-points`).expect(200))
      .body as LubricationPointRecord[];
    expect(points).toHaveLength(before.machines[0].points);
    // When it was last done is known there, and here it is not.
    expect(points.some((p) => p.neverSeen)).toBe(false);
    const others = (await t.api.get(`/api/machines/${linnet}/lube-points`).expect(200))
      .body as LubricationPointRecord[];
    expect(others.every((p) => p.neverSeen)).toBe(true);
    expect(others.some((p) => p.way === "central line")).toBe(true);
    const meters = (await t.api.get("/api/meters").expect(200)).body as MachineMeter[];
    expect(meters.find((m) => m.machineId === siskin)?.readings[0]).toMatchObject({ hours: 1200 });
    const rounds = (await t.api.get("/api/rounds").expect(200)).body as Rounds;
    expect(rounds.points).toBe(points.length + others.length);
    // Again it is there already, and nothing is made twice.
    const again = await send(lines, { preview: false });
    expect([again.ids, again.machines.map((m) => m.there)]).toEqual([[], [true, true]]);
    expect((await t.api.post("/api/machines/list/back").send({ ids: made.ids }).expect(200)).body).toEqual({
      retired: 2,
    });
    expect((await floor()).machines).toEqual([]);
  });

  it("names each wrong cell by line and column, and makes the good ones beside them", async () => {
    const answer = await send(
      [
        "Siskin;31;router;X Y Z;30;;2199-01-01;",
        "Linnet;32;shaper;X;80;;;",
        "Pipit;33;router;X ?;80;;;",
        "Serin;34;router;X X;80;;;",
        "Twite;35;router;X Y;400;;;",
        "Dunlin;36;router;X Y;40;;;",
        "dunlin;37;router;X Y;40;;;",
      ],
      { preview: false },
    );
    expect(answer.errors.map((e) => [e.line, e.column])).toEqual([
      [2, "last_lubricated"],
      [3, "kind"],
      [4, "axes"],
      [5, "axes"],
      [6, "hours_per_week"],
      [8, "machine"],
    ]);
    expect(answer.errors[5].message).toBe("dunlin is in line 7 already.");
    expect(answer.ids).toHaveLength(1);
    expect((await floor()).machines.map((m) => m.nickname)).toEqual(["Dunlin"]);
    const none = await t.api.post("/api/machines/list").send({ text: "name;bay\nA;1" }).expect(200);
    expect((none.body as MachineListAnswer).errors[0].message).toMatch(/^There is no column machine/);
  });

  it("leaves out what is not wanted; says what the first weeks take", async () => {
    const lines = ["Siskin;31;router;X Y Z;30;;;", "Linnet;32;router;X Y Z;30;;2020-01-01;"];
    const both = await send(lines, { leaveOut: ["Linnet"] });
    expect(both.firstWeeks.minutes).toBe(both.machines[0].minutes);
    const made = await send(lines, { preview: false, leaveOut: ["Linnet"] });
    expect(made.ids).toHaveLength(1);
  });

  it("takes two hundred machines at once", async () => {
    const lines = Array.from({ length: 200 }, (_, i) => `M${i};${i % 20};vertical-centre;X Y Z;40;;;`);
    const made = await send(lines, { preview: false });
    expect(made.ids).toHaveLength(200);
    const rounds = (await t.api.get("/api/rounds").expect(200)).body as Rounds;
    expect(rounds.points).toBe(made.machines.reduce((s, m) => s + m.points, 0));
  });

  it("reads a thousand machines at most, and says so", async () => {
    const lines = Array.from({ length: 1002 }, (_, i) => `M${i};1;router;X;40;;;`);
    const answer = await send(lines);
    expect(answer.machines).toHaveLength(1000);
    expect(answer.errors).toEqual([{ line: 1002, column: "", message: "Only the first 1000 machines are read." }]);
  });

  it("a list that is too large is refused before it is read", async () => {
    await t.api
      .post("/api/machines/list")
      .send({ text: "x".repeat(1_000_001) })
      .expect(422);
  });
});
