import { DEFAULT_OPTIONS, defaultAxis, defaultHandTest, jobProgress, usualCircles, virtualSound } from "@iron/core";
import {
  writeWav,
  type Axis,
  type Case,
  type CircleSession,
  type HandTest,
  type Job,
  type MachineWithAxes,
  type Rounds,
  type Run,
  type Sound,
} from "@iron/contract";
import { plainSign } from "../job/job-sign";
import { SETUP, TWO_SIDED } from "./test-app";
import { shortRun } from "./test-sound";

const BAR = { name: "Bar, 100 mm", resolutionMm: 0.0001, uMm: 0.0005, calibrated: false };

export interface Told {
  readonly who: string;
  readonly method: "get" | "post" | "put";
  readonly path: string;
  readonly body?: unknown;
}

/** Asks a server, and gives its answer’s body; what was asked is on record with whoever made this. */
export type Ask = <T = unknown>(told: Told) => Promise<T>;

interface Day {
  readonly get: <T>(path: string) => Promise<T>;
  readonly ilse: Hand;
  readonly tomas: Hand;
  readonly ama: Hand;
}
interface Hand {
  readonly post: <T>(path: string, body?: unknown) => Promise<T>;
  readonly put: <T>(path: string, body: unknown) => Promise<T>;
}

/**
 * A day of work in the demo shop, from one who opens a case in the morning to one who signs off in the evening: asked of a
 * server, each question with what the answers before say.
 */
export async function workDay(ask: Ask): Promise<void> {
  const as = (who: string): Hand => ({
    post: <T>(path: string, body: unknown = {}) => ask<T>({ who, method: "post", path, body }),
    put: <T>(path: string, body: unknown) => ask<T>({ who, method: "put", path, body }),
  });
  const get = <T>(path: string) => ask<T>({ who: "Rowan", method: "get", path });
  const day: Day = { get, ilse: as("Ilse"), tomas: as("Tomas"), ama: as("Ama") };
  const machine = await added(day);
  await measured(day, machine);
  await told(day, machine);
  await worked(day, machine);
  await walked(day, machine);
  await proved(day, machine);
  await looked(day, machine);
}

/** A machine is added, and lubricated as usual; its axis is changed by two at once. */
async function added({ get, ilse, ama }: Day): Promise<MachineWithAxes> {
  const wren = { nickname: "Wren", bay: "1", kind: "vertical-centre", hoursPerWeek: 40, note: "", letters: ["X", "Z"] };
  const { id } = await ama.post<MachineWithAxes>("/api/machines", wren);
  const machine = await get<MachineWithAxes>(`/api/machines/${id}`);
  const [x] = machine.axes;
  const usual = {
    setUp: { central: "none", carriages: "nipple", nuts: "nipple", board: true },
    factors: [],
    lastDone: null,
  };
  await ama.post(`/api/machines/${machine.id}/lube-points/usual`, usual);
  const longer = { ...x.config, travelMm: 640 };
  await ama.put<Axis>(`/api/axes/${x.id}`, { version: x.version, config: longer });
  await ilse.put(`/api/axes/${x.id}`, { version: x.version, config: longer });
  await ilse.post(`/api/axes/${x.id}/events`, {
    kind: "crash",
    text: "Ran into the vice, 5 mm/s",
    at: "2026-03-01T15:00:00Z",
  });
  return machine;
}

/** The loss is measured by hand, one reading set aside and taken back in, one test given up. */
async function measured({ get, ilse, tomas }: Day, machine: MachineWithAxes): Promise<void> {
  const [x, z] = machine.axes;
  const run = await ilse.post<Run>(`/api/axes/${x.id}/runs`, { plan: TWO_SIDED, setup: SETUP });
  for (const [step, value] of [0, 0.012, 0.011, 0.013, 0.0125, 0.0119].entries())
    await ilse.post(`/api/runs/${run.id}/readings`, {
      source: "typed",
      step,
      value,
      widthMm: 0.001,
      entered: String(value),
      spoilt: false,
    });
  const { readings } = await get<Run>(`/api/runs/${run.id}`);
  const last = readings.at(-1)?.id ?? 0;
  await ilse.post(`/api/readings/${last}/discard`, { reason: "leaned on the table" });
  await ilse.post(`/api/readings/${last}/restore`);
  await ilse.post(`/api/runs/${run.id}/finish`);
  const other = await tomas.post<Run>(`/api/axes/${z.id}/runs`, { plan: TWO_SIDED, setup: SETUP });
  await tomas.post(`/api/axes/${z.id}/device/program`, { runId: other.id, feedMmMin: 1000, dwellS: 1 });
  const third = await tomas.post<Run>(`/api/axes/${z.id}/runs`, { plan: TWO_SIDED, setup: SETUP });
  await tomas.post(`/api/runs/${third.id}/abandon`, { reason: "the stand slipped" });
  const series = await ilse.post<HandTest>(`/api/axes/${x.id}/series`, {
    plan: defaultHandTest(defaultAxis("vertical-centre", "X"), "crest-run"),
  });
  for (let step = 0; step < 6; step += 1) {
    const point = { key: key(100 + step), step, value: 0.01 + step / 1000, entered: "0.01" };
    await ilse.post(`/api/series/${series.id}/points`, point);
    if (step === 3) await ilse.post(`/api/series/${series.id}/points`, point);
  }
}

/** A case: told, tested, read, closed, opened again. */
async function told({ get, ilse, ama }: Day, machine: MachineWithAxes): Promise<void> {
  const [x] = machine.axes;
  const made = await ilse.post<Case>(`/api/machines/${machine.id}/cases`, { axisIds: [x.id] });
  await ilse.put(`/api/cases/${made.id}`, {
    ...{ version: made.version, context: made.context, notes: "rumbles in the middle" },
    told: { [x.id]: { answers: { rumble: true }, evidence: {}, allTold: true, place: null } },
  });
  const rocked = { axisId: x.id, test: "rock", answers: { rocks: true }, note: "", data: null };
  const tested = await ilse.post<Case>(`/api/cases/${made.id}/results`, rocked);
  await ilse.post(`/api/results/${tested.results[0]?.id}/withdraw`);
  await ilse.post(`/api/results/${tested.results[0]?.id}/restore`);
  await get(`/api/cases/${made.id}/assessment`);
  const now = await get<Case>(`/api/cases/${made.id}`);
  await ilse.post(`/api/cases/${made.id}/close`, {
    version: now.version,
    found: ["nut-worn"],
    words: "two balls missing",
  });
  await get("/api/knowledge");
  await ama.put("/api/knowledge/nut-worn", { prior: 7, why: "abrasive dust here", version: 0 });
}

/** A job from isolation to sign-off; the same act sent twice is one. */
async function worked({ tomas }: Day, machine: MachineWithAxes): Promise<void> {
  const [, z] = machine.axes;
  const kept = { items: [{ axisId: z.id, kind: "tighten" }], options: DEFAULT_OPTIONS, caseId: null };
  let job = await tomas.post<Job>(`/api/machines/${machine.id}/jobs`, kept);
  for (let at = 0, step = jobProgress(job.plan, job.events).next; step; at += 1) {
    const act = { ...plainSign(step), key: key(200 + at) };
    job = await tomas.post<Job>(`/api/jobs/${job.id}/acts`, act);
    if (at === 2) await tomas.post(`/api/jobs/${job.id}/acts`, act);
    step = jobProgress(job.plan, job.events).next;
  }
}

/** The round: points done, one moved by hand, one skipped; meters, stock and parts. */
async function walked({ get, ama }: Day, machine: MachineWithAxes): Promise<void> {
  const { days } = await get<Rounds>("/api/rounds");
  const ids = days.flatMap((day) => day.stops.flatMap((s) => s.points.map((p) => p.id)));
  for (const [i, id] of ids.slice(0, 6).entries())
    await ama.post(`/api/lube-points/${id}/visits`, {
      ...{ key: key(300 + i), found: i % 2 ? "right" : "dry", dose: 3, glitter: false, words: "" },
    });
  await ama.post(`/api/lube-points/${ids[7]}/holds`, {
    key: key(320),
    kind: "skip",
    reason: "covered",
    date: "2026-03-04",
  });
  await get("/api/rounds");
  await ama.post(`/api/machines/${machine.id}/meter`, { key: key(330), date: "2026-03-01", hours: 1204, reset: false });
  await ama.post("/api/meters/import", {
    text: "machine,date,hours\nWren,2026-02-01,1100\nWren,2026-02-15,1150\n",
    anyway: false,
  });
  const insert = "coupling insert, 16 mm screw";
  await ama.post("/api/parts/count", { key: key(340), part: insert, kind: "count", count: 3 });
  await ama.post("/api/part-orders", { key: key(341), part: "brushes, spindle motor", count: 2, why: "" });
  await get("/api/parts");
}

/** A circle, both ways round, and a recording. */
async function proved({ ilse }: Day, machine: MachineWithAxes): Promise<void> {
  const [x] = machine.axes;
  const plans = usualCircles(machine.axes.map((a) => a.config)).map((plan) => ({
    ...plan,
    radiusMm: 50,
    feedMmMin: 1500,
  }));
  const circle = await ilse.post<CircleSession>(`/api/machines/${machine.id}/circles`, {
    ...{ plans, bar: BAR, temperatureC: 20.5, note: "" },
  });
  for (const direction of [1, -1]) {
    const readings = Array.from({ length: 360 }, (_, i) => ({ deg: direction * i, mm: 0.001 * Math.sin(i / 28.6) }));
    await ilse.post(`/api/circle-planes/${circle.planes[0]?.id}/typed`, { direction, readings });
  }
  await ilse.post(`/api/circles/${circle.id}/finish`);
  const plan = shortRun(x.config, 2);
  const moved = { ...plan, accelMmS2: 1800 };
  const wav = writeWav(
    virtualSound(x.config, { parts: {}, run: moved, roomDb: -20, machine: 4, seed: 21 }).samples,
    48_000,
  );
  const sound = await ilse.post<Sound>(`/api/axes/${x.id}/sounds`, {
    ...{ key: key(400), source: "file", place: "On the column", ownGain: false, plan, bytes: wav.length },
  });
  await ilse.put(`/api/sounds/${sound.id}/parts/0`, Buffer.from(wav));
  await ilse.post(`/api/sounds/${sound.id}/finish`);
  await ilse.post(`/api/sounds/${sound.id}/well`, { well: true });
}

/** How it stands, and everything once more as the evening looks at it. */
async function looked({ get, ilse }: Day, machine: MachineWithAxes): Promise<void> {
  const leg = (slope: number) => [0, 150, 300].map((atMm) => ({ atMm, mm: slope * atMm }));
  const sweep = {
    kind: "sweep",
    letters: ["X", "Z"],
    setting: [],
    sweep: leg(5e-5),
    flippedSetting: [],
    flipped: leg(3e-5),
  };
  await ilse.post(`/api/machines/${machine.id}/geometry`, {
    taken: { ...sweep, squareU: 0, resolutionMm: 0.001 },
    note: "",
  });
  for (const path of [
    "floor",
    "machines/1",
    "jobs",
    "cases",
    "rounds",
    "horizon",
    "record",
    "lubricants",
    "meters",
    "shop",
  ])
    await get(`/api/${path}`);
  await get("/api/record?words=WREN%20axes");
}

/** A key that whoever sends makes: the same each day. */
export const key = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, "0")}`;
