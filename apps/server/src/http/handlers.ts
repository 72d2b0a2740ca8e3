import { BoundError, gcodeProgram, hasProgram, needsLift, wordWrong, type AxisConfig, type TipLift } from "@iron/core";
import {
  writeReadingsCsv,
  type AxisEvent,
  type CaseOperationName,
  type JOB_OPERATIONS,
  type KEEP_OPERATIONS,
  type LUBE_OPERATIONS,
  type SERIES_OPERATIONS,
  type Run,
} from "@iron/contract";
import type { DeviceHub } from "../devices/device-hub";
import type { RunDevice } from "../devices/run-device";
import { conflict, problem } from "./problem-error";
import type { Handlers } from "./mount";
import type { Indicators } from "../measure/indicators";
import type { Machines } from "../machine/machines";
import { settleAxes } from "../machine/axis-summary";
import { readFloor } from "../shop/floor";
import type { Lubrication } from "../lubrication/lubrication";
import { historyFile } from "../measure/history-export";
import type { RunImport } from "../measure/run-import";
import type { Runs } from "../measure/runs";
import type { ShopSettings } from "../shop/shop";
import type { BackupKeeper } from "../store/backups";
import type { Db } from "../store/database";
import { UntilWritten } from "../store/until-written";

export interface Services {
  readonly db: Db;
  readonly shop: ShopSettings;
  readonly machines: Machines;
  readonly indicators: Indicators;
  readonly lube: Lubrication;
  readonly runs: Runs;
  readonly runImport: RunImport;
  readonly hub: DeviceHub;
  readonly runDevice: RunDevice;
  readonly version: string;
  readonly backups: BackupKeeper | null;
}

async function eventsOf(db: Db, axisId: number): Promise<AxisEvent[]> {
  return db
    .selectFrom("axis_event")
    .select(["id", "kind", "text", "at", "by"])
    .where("axis_id", "=", axisId)
    .orderBy("at")
    .execute();
}

type GcodeQuery = Parameters<Handlers["gcode"]>[0]["query"];

/** An axis in a program, as its control writes it; refused in words where it cannot be. */
function wordOf(axes: readonly AxisConfig[], axis: AxisConfig, asked: string | undefined, path: string): string {
  const word = asked ?? axis.letter;
  const others = axes.filter((a) => a !== axis).map((a) => a.letter);
  const wrong = wordWrong(axis.letter, word, others);
  if (wrong)
    throw problem(422, "Not valid", wrong, {
      errors: [{ path, message: wrong }],
    });
  return word;
}

/** How the tip is lifted: as asked, by the axis that was named, else by hand where it must be. */
function liftOf(run: Run, query: GcodeQuery, tested: AxisConfig, axes: readonly AxisConfig[]): TipLift {
  const { clearanceLetter, clearMm, readMm } = query;
  const asked = query.lift ?? (clearanceLetter ? "axis" : needsLift(run.plan) ? "by-hand" : "none");
  if (asked !== "axis") return { way: asked };
  const refuse = (message: string) =>
    problem(422, "Not valid", message, {
      errors: [{ path: "clearanceLetter", message }],
    });
  if (!clearanceLetter) throw refuse("Name the axis that lifts the tip: clearanceLetter is missing.");
  if (clearanceLetter === tested.letter)
    throw refuse(`The tip cannot be lifted by ${tested.letter}, the axis that is tested.`);
  const lifter = axes.find((a) => a.letter === clearanceLetter);
  if (!lifter)
    throw refuse(`This machine has no axis ${clearanceLetter}: it has ${axes.map((a) => a.letter).join(", ")}.`);
  return {
    way: "axis",
    letter: wordOf(axes, lifter, query.clearanceWord, "clearanceWord"),
    travelMm: lifter.travelMm,
    clearMm,
    readMm,
  };
}

/** What each operation does: thin, the work is in the services. */
export function handlersFor(
  s: Services,
): Omit<
  Handlers,
  | CaseOperationName
  | keyof typeof SERIES_OPERATIONS
  | keyof typeof JOB_OPERATIONS
  | keyof typeof LUBE_OPERATIONS
  | keyof typeof KEEP_OPERATIONS
> {
  const runFileName = (run: Run, ending: string): string => `axis-${run.axisId}-test-${run.id}.${ending}`;
  const gcodeOf = async (run: Run, query: GcodeQuery): Promise<string> => {
    if (!hasProgram(run.plan.kind)) {
      throw conflict("A test that counts steps by hand has no program.");
    }
    const axis = await s.machines.axis(run.axisId);
    const { config } = axis;
    const { nickname, axes: all } = await s.machines.withAxes(axis.machineId);
    const axes = all
      .filter((a) => a.retiredAt === null && a.id !== axis.id)
      .map((a) => a.config)
      .concat(config);
    if (query.letter !== config.letter)
      throw problem(422, "Not valid", `This test is of axis ${config.letter}: its program moves no ${query.letter}.`, {
        errors: [{ path: "letter", message: `The axis is ${config.letter}.` }],
      });
    const title = `${nickname} ${config.letter} ${run.plan.kind} test ${run.id}`;
    return gcodeProgram(run.plan, {
      ...query,
      letter: wordOf(axes, config, query.word, "word"),
      lift: liftOf(run, query, config, axes),
      title,
      travelMm: config.travelMm,
      rapidMmMin: config.rapidMmMin,
    });
  };
  const floor = new UntilWritten(s.db, async () => readFloor(s.db, new Date(), await s.lube.notes()));
  return {
    health: async () => {
      await s.db.selectFrom("setting").select("key").limit(1).execute();
      return { status: "ok", version: s.version };
    },
    shop: () => s.shop.get(),
    updateShop: ({ body }) => s.shop.update(body),
    floor: async () => ({
      ...(await floor.get()),
      backup: s.backups?.state() ?? null,
    }),
    backups: async () => s.backups?.state() ?? null,
    createMachine: ({ body, who }) => s.machines.createWithDefaults(body, body.letters, who, body.units),
    machine: ({ params }) => s.machines.withAxes(params.id),
    updateMachine: ({ params, body }) => s.machines.update(params.id, body.version, body),
    duplicateMachine: ({ params, who }) => s.machines.duplicate(params.id, who),
    retireMachine: ({ params }) => s.machines.setRetired(params.id, true),
    reviveMachine: ({ params }) => s.machines.setRetired(params.id, false),
    createAxis: ({ params, body, who }) => s.machines.createAxis(params.id, body.config, who),
    axis: ({ params }) => s.machines.axis(params.id),
    updateAxis: async ({ params, body, who }) => {
      const axis = await s.machines.updateAxis(params.id, body.version, body.config, who);
      await s.hub.forget(params.id);
      return axis;
    },
    duplicateAxis: ({ params, who }) => s.machines.duplicateAxis(params.id, who),
    retireAxis: ({ params }) => s.machines.setAxisRetired(params.id, true),
    reviveAxis: ({ params }) => s.machines.setAxisRetired(params.id, false),
    indicators: () => s.indicators.all(),
    createIndicator: ({ body }) => s.indicators.create(body),
    updateIndicator: ({ params, body }) => s.indicators.update(params.id, body.version, body),
    retireIndicator: ({ params }) => s.indicators.setRetired(params.id, true),
    reviveIndicator: ({ params }) => s.indicators.setRetired(params.id, false),
    history: async ({ params }) => {
      await s.machines.axis(params.id);
      return {
        runs: await s.runs.summaries(params.id),
        typed: await s.runs.typedLosses(params.id),
        events: await eventsOf(s.db, params.id),
      };
    },
    exportHistory: async ({ params, query }) => {
      const axis = await s.machines.axis(params.id);
      const history = {
        runs: await s.runs.summaries(params.id),
        typed: await s.runs.typedLosses(params.id),
        events: await eventsOf(s.db, params.id),
      };
      return historyFile(axis, history, s.runs.allReadings(params.id), query.format, query.system);
    },
    createEvent: async ({ params, body, who }) => {
      await s.machines.axis(params.id);
      const row = { axis_id: params.id, ...body, by: who };
      return s.db.transaction().execute(async (trx) => {
        const kept = await trx
          .insertInto("axis_event")
          .values(row)
          .returning(["id", "kind", "text", "at", "by"])
          .executeTakeFirstOrThrow();
        await settleAxes(trx, [params.id]);
        return kept;
      });
    },
    startRun: ({ params, body, who }) => s.runs.start(params.id, body, who),
    importRun: ({ params, body, who }) =>
      s.runImport.importCsv(params.id, body.text, body.setup, body.keepsZero, body.overTravelMm, who),
    run: ({ params }) => s.runs.run(params.id),
    takeReading: ({ params, body, who }) => {
      if (body.source === "device") return s.runDevice.take(params.id, body.step, who, "device", body.system);
      const reason = body.spoilt ? "The target was passed before stopping, as seen by the technician." : "";
      return s.runs.keep(params.id, { ...body, reason }, who);
    },
    discardReading: ({ params, body, who }) => s.runs.discard(params.id, body.reason, who),
    restoreReading: ({ params, who }) => s.runs.restore(params.id, who),
    turnSense: ({ params, body, who }) => s.runs.turnSense(params.id, body.sense, who),
    noteProgram: ({ params, body }) => s.runs.noteProgram(params.id, body),
    finishRun: ({ params }) => s.runs.finish(params.id),
    abandonRun: ({ params, body }) => s.runs.abandon(params.id, body.reason),
    exportRun: async ({ params, query }) => {
      const run = await s.runs.run(params.id);
      if (query.format === "json") {
        return {
          fileName: runFileName(run, "json"),
          media: "application/json",
          text: JSON.stringify(run, null, 2),
        };
      }
      return {
        fileName: runFileName(run, "csv"),
        media: "text/csv",
        text: writeReadingsCsv(run, query.system),
      };
    },
    gcode: async ({ params, query }) => {
      const run = await s.runs.run(params.id);
      return {
        fileName: runFileName(run, "nc"),
        media: "text/plain",
        text: await gcodeOf(run, query),
      };
    },
    device: async ({ params }) => (await s.hub.device(params.id)).snapshot(),
    jog: async ({ params, body }) => {
      const device = await s.hub.device(params.id);
      const { config } = await s.machines.axis(params.id);
      if (body.feedMmMin > config.rapidMmMin) {
        throw new BoundError("feed", body.feedMmMin, `at most the rapid feed of ${config.rapidMmMin} mm/min`);
      }
      await device.command([
        {
          kind: "move",
          toMm: device.destinationMm() + body.byMm,
          feedMmMin: body.feedMmMin,
        },
      ]);
      return device.snapshot();
    },
    approach: async ({ body }) => (await s.runDevice.approach(body.runId, body.feedMmMin)).snapshot(),
    stopDevice: async ({ params }) => {
      const device = await s.hub.device(params.id);
      await device.stop();
      return device.snapshot();
    },
    zeroDevice: async ({ params }) => {
      const device = await s.hub.device(params.id);
      await device.zero();
      return device.snapshot();
    },
    runProgram: async ({ body }) => (await s.runDevice.program(body.runId, body.feedMmMin, body.dwellS)).snapshot(),
  };
}
