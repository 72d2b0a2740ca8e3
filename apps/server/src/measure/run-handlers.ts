import { writeReadingsCsv, type Run } from "@iron/contract";
import type { RunDevice } from "../devices/run-device";
import type { Handlers } from "../http/mount";
import type { Machines } from "../machine/machines";
import { gcodeOf } from "./gcode-file";
import type { RunImport } from "./run-import";
import type { Runs } from "./runs";

interface RunServices {
  readonly machines: Machines;
  readonly runs: Runs;
  readonly runImport: RunImport;
  readonly runDevice: RunDevice;
}

const runFileName = (run: Run, ending: string): string => `axis-${run.axisId}-test-${run.id}.${ending}`;

export function runHandlersFor(
  s: RunServices,
): Pick<
  Handlers,
  | "startRun"
  | "importRun"
  | "run"
  | "takeReading"
  | "discardReading"
  | "restoreReading"
  | "turnSense"
  | "noteProgram"
  | "finishRun"
  | "abandonRun"
  | "exportRun"
  | "gcode"
> {
  return {
    startRun: ({ params, body, who }) => s.runs.start(params.id, body, who),
    importRun: ({ params, body, who }) => s.runImport.importCsv(params.id, { ...body, who }),
    run: ({ params }) => s.runs.run(params.id),
    takeReading: ({ params, body, who }) => {
      if (body.source === "device")
        return s.runDevice.take(params.id, body.step, { who, source: "device", system: body.system });
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
        text: await gcodeOf(s.machines, run, query),
      };
    },
  };
}
