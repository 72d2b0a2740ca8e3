import { z } from "zod";
import { axisCreateSchema, axisEventCreateSchema, axisEventSchema, axisSchema, axisUpdateSchema } from "./axis";
import { CASE_OPERATIONS } from "./case-routes";
import { JOB_OPERATIONS } from "./job";
import { KEEP_OPERATIONS } from "./keep";
import { LUBE_OPERATIONS } from "./lubrication";
import { SERIES_OPERATIONS } from "./series";
import { idSchema, oneOf } from "./common";
import { approachSchema, deviceSnapshotSchema, gcodeRequestSchema, jogSchema, programRunSchema } from "./device";
import { indicatorEditSchema, indicatorSchema, indicatorUpdateSchema } from "./indicator";
import {
  backupStateSchema,
  floorSchema,
  machineCreateSchema,
  machineSchema,
  machineUpdateSchema,
  machineWithAxesSchema,
  shopSchema,
  shopUpdateSchema,
} from "./machine";
import {
  commandedSchema,
  discardSchema,
  historySchema,
  importResultSchema,
  importSchema,
  readingCreateSchema,
  runCreateSchema,
  runSchema,
  senseSchema,
} from "./run";
import { operation } from "./operation";

const byId = z.object({ id: idSchema });
const formatQuery = z.object({
  format: oneOf("Format", ["csv", "json"]).default("csv"),
  system: oneOf("Units", ["metric", "inch"]).default("metric"),
});

/** Every operation the server offers; the server mounts it and the OpenAPI document lists it. */
export const OPERATIONS = {
  health: operation("get", "/api/health", "Is the server up and its database readable?", {
    response: z.object({ status: z.literal("ok"), version: z.string() }),
  }),
  backups: operation("get", "/api/backups", "How the backups stand: null where none are kept, as in the demo", {
    response: backupStateSchema.nullable(),
  }),
  shop: operation("get", "/api/shop", "The shop: name, currency, people", {
    response: shopSchema,
  }),
  updateShop: operation("put", "/api/shop", "Change the shop; 409 with the present one when somebody was faster", {
    body: shopUpdateSchema,
    response: shopSchema,
  }),
  floor: operation("get", "/api/floor", "Every machine with the state of its axes", { response: floorSchema }),
  createMachine: operation("post", "/api/machines", "Add a machine with axes of its kind’s defaults", {
    body: machineCreateSchema,
    response: machineWithAxesSchema,
    created: true,
  }),
  machine: operation("get", "/api/machines/:id", "One machine with its axes", {
    params: byId,
    response: machineWithAxesSchema,
  }),
  updateMachine: operation("put", "/api/machines/:id", "Change a machine", {
    params: byId,
    body: machineUpdateSchema,
    response: machineSchema,
  }),
  duplicateMachine: operation("post", "/api/machines/:id/duplicate", "Add a machine like this one", {
    params: byId,
    response: machineWithAxesSchema,
    created: true,
  }),
  retireMachine: operation("post", "/api/machines/:id/retire", "Take a machine off the floor; its records stay", {
    params: byId,
    response: machineSchema,
  }),
  reviveMachine: operation("post", "/api/machines/:id/revive", "Put a retired machine back", {
    params: byId,
    response: machineSchema,
  }),
  createAxis: operation("post", "/api/machines/:id/axes", "Add an axis", {
    params: byId,
    body: axisCreateSchema,
    response: axisSchema,
    created: true,
  }),
  axis: operation("get", "/api/axes/:id", "One axis", {
    params: byId,
    response: axisSchema,
  }),
  updateAxis: operation("put", "/api/axes/:id", "Change an axis; 409 with the present one when somebody was faster", {
    params: byId,
    body: axisUpdateSchema,
    response: axisSchema,
  }),
  duplicateAxis: operation("post", "/api/axes/:id/duplicate", "Add an axis like this one", {
    params: byId,
    response: axisSchema,
    created: true,
  }),
  retireAxis: operation("post", "/api/axes/:id/retire", "Retire an axis; its records stay", {
    params: byId,
    response: axisSchema,
  }),
  reviveAxis: operation("post", "/api/axes/:id/revive", "Put a retired axis back", {
    params: byId,
    response: axisSchema,
  }),
  indicators: operation("get", "/api/indicators", "The shop’s indicators", {
    response: z.array(indicatorSchema),
  }),
  createIndicator: operation("post", "/api/indicators", "Add an indicator", {
    body: indicatorEditSchema,
    response: indicatorSchema,
    created: true,
  }),
  updateIndicator: operation(
    "put",
    "/api/indicators/:id",
    "Change an indicator; 409 with the present one when somebody was faster",
    { params: byId, body: indicatorUpdateSchema, response: indicatorSchema },
  ),
  retireIndicator: operation("post", "/api/indicators/:id/retire", "Retire an indicator", {
    params: byId,
    response: indicatorSchema,
  }),
  reviveIndicator: operation("post", "/api/indicators/:id/revive", "Put a retired indicator back", {
    params: byId,
    response: indicatorSchema,
  }),
  history: operation("get", "/api/axes/:id/history", "All tests and events of an axis, oldest first", {
    params: byId,
    response: historySchema,
  }),
  exportHistory: operation("get", "/api/axes/:id/history/export", "History with all readings as a file", {
    params: byId,
    query: formatQuery,
    media: "text/csv",
  }),
  createEvent: operation("post", "/api/axes/:id/events", "Note what happened to an axis", {
    params: byId,
    body: axisEventCreateSchema,
    response: axisEventSchema,
    created: true,
  }),
  startRun: operation("post", "/api/axes/:id/runs", "Begin a test", {
    params: byId,
    body: runCreateSchema,
    response: runSchema,
    created: true,
  }),
  importRun: operation(
    "post",
    "/api/axes/:id/import",
    "Keep the readings of a CSV file as a test; the same file again answers the first one",
    {
      params: byId,
      body: importSchema,
      response: importResultSchema,
      created: true,
    },
  ),
  run: operation("get", "/api/runs/:id", "One test with all its readings", {
    params: byId,
    response: runSchema,
  }),
  takeReading: operation("post", "/api/runs/:id/readings", "Take the reading of a step", {
    params: byId,
    body: readingCreateSchema,
    response: runSchema,
    created: true,
  }),
  discardReading: operation("post", "/api/readings/:id/discard", "Set a reading aside", {
    params: byId,
    body: discardSchema,
    response: runSchema,
  }),
  restoreReading: operation("post", "/api/readings/:id/restore", "Take a reading that was set aside back in", {
    params: byId,
    response: runSchema,
  }),
  turnSense: operation(
    "put",
    "/api/runs/:id/sense",
    "Say which way the needle counts: readings stay as shown, the result follows",
    { params: byId, body: senseSchema, response: runSchema },
  ),
  noteProgram: operation(
    "put",
    "/api/runs/:id/commanded",
    "Note in which units and decimals a program commands the places",
    { params: byId, body: commandedSchema, response: runSchema },
  ),
  finishRun: operation("post", "/api/runs/:id/finish", "End a test with what has been read", {
    params: byId,
    response: runSchema,
  }),
  abandonRun: operation("post", "/api/runs/:id/abandon", "Give a test up; its readings stay", {
    params: byId,
    body: discardSchema,
    response: runSchema,
  }),
  exportRun: operation("get", "/api/runs/:id/export", "Readings of a test as a file", {
    params: byId,
    query: formatQuery,
    media: "text/csv",
  }),
  gcode: operation("get", "/api/runs/:id/gcode", "Test program for the machine’s control", {
    params: byId,
    query: gcodeRequestSchema.omit({ runId: true }).extend({
      feedMmMin: z.coerce.number(),
      dwellS: z.coerce.number(),
      clearMm: z.coerce.number().default(20),
      readMm: z.coerce.number().default(5),
    }),
    media: "text/plain",
  }),
  device: operation("get", "/api/axes/:id/device", "What the connected axis and indicator say now", {
    params: byId,
    response: deviceSnapshotSchema,
  }),
  jog: operation("post", "/api/axes/:id/device/jog", "Jog the axis by a distance", {
    params: byId,
    body: jogSchema,
    response: deviceSnapshotSchema,
  }),
  approach: operation("post", "/api/axes/:id/device/approach", "Make the approach that a test’s next step asks for", {
    params: byId,
    body: approachSchema,
    response: deviceSnapshotSchema,
  }),
  stopDevice: operation("post", "/api/axes/:id/device/stop", "Stop the axis", {
    params: byId,
    response: deviceSnapshotSchema,
  }),
  zeroDevice: operation("post", "/api/axes/:id/device/zero", "Set the indicator to zero", {
    params: byId,
    response: deviceSnapshotSchema,
  }),
  runProgram: operation(
    "post",
    "/api/axes/:id/device/program",
    "Run the rest of a test as a program, reading at each dwell",
    { params: byId, body: programRunSchema, response: deviceSnapshotSchema },
  ),
  ...CASE_OPERATIONS,
  ...SERIES_OPERATIONS,
  ...JOB_OPERATIONS,
  ...LUBE_OPERATIONS,
  ...KEEP_OPERATIONS,
} as const;
export type OperationName = keyof typeof OPERATIONS;
