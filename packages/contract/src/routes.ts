import * as z from "zod";
import { axisCreateSchema, axisEventCreateSchema, axisEventSchema, axisSchema, axisUpdateSchema } from "./machine/axis";
import { CASE_OPERATIONS } from "./diagnosis/case-routes";
import { JOB_OPERATIONS } from "./job/job";
import { KEEP_OPERATIONS } from "./lubrication/rounds";
import { LUBE_OPERATIONS } from "./lubrication/lubrication";
import { LIST_OPERATIONS } from "./machine/machine-list";
import { CIRCLE_OPERATIONS } from "./prove/circle";
import { CORRECTION_OPERATIONS } from "./prove/correction";
import { GEOMETRY_OPERATIONS } from "./prove/geometry";
import { KEEPING_OPERATIONS } from "./people/keeping";
import { PEOPLE_OPERATIONS } from "./people/people";
import { RECORD_OPERATIONS } from "./people/record";
import { PART_OPERATIONS } from "./stock/parts";
import { SOUND_OPERATIONS } from "./sound/sound";
import { SERIES_OPERATIONS } from "./measure/hand-test";
import { idSchema, oneOf } from "./wire/common";
import {
  approachSchema,
  deviceSnapshotSchema,
  stoppedSchema,
  gcodeRequestSchema,
  jogSchema,
  programRunSchema,
} from "./measure/device";
import { indicatorEditSchema, indicatorSchema, indicatorUpdateSchema } from "./measure/indicator";
import {
  backupStateSchema,
  floorSchema,
  machineCreateSchema,
  machineSchema,
  machineUpdateSchema,
  machineWithAxesSchema,
  shopSchema,
  shopUpdateSchema,
} from "./machine/machine";
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
} from "./measure/run";
import { operation } from "./wire/operation";

const byId = z.object({ id: idSchema });
const formatQuery = z.object({
  format: oneOf("Format", ["csv", "json"]).default("csv"),
  system: oneOf("Units", ["metric", "inch"]).default("metric"),
});

/** Every operation the server offers; the server mounts it and the OpenAPI document lists it. */
export const OPERATIONS = {
  health: operation("health", "Is the server up and its database readable?", {
    response: z.object({ status: z.literal("ok"), version: z.string() }),
  }),
  backups: operation("backups", "How the backups stand: null where none are kept, as in the demo", {
    response: backupStateSchema.nullable(),
  }),
  shop: operation("shop", "The shop: name, currency, people", {
    response: shopSchema,
  }),
  updateShop: operation("updateShop", "Change the shop; 409 with the present one when somebody was faster", {
    body: shopUpdateSchema,
    response: shopSchema,
  }),
  floor: operation("floor", "Every machine with the state of its axes", { response: floorSchema }),
  createMachine: operation("createMachine", "Add a machine with axes of its kind’s defaults", {
    body: machineCreateSchema,
    response: machineWithAxesSchema,
    created: true,
  }),
  machine: operation("machine", "One machine with its axes", {
    params: byId,
    response: machineWithAxesSchema,
  }),
  updateMachine: operation("updateMachine", "Change a machine", {
    params: byId,
    body: machineUpdateSchema,
    response: machineSchema,
  }),
  duplicateMachine: operation("duplicateMachine", "Add a machine like this one", {
    params: byId,
    response: machineWithAxesSchema,
    created: true,
  }),
  retireMachine: operation("retireMachine", "Take a machine off the floor; its records stay", {
    params: byId,
    response: machineSchema,
  }),
  reviveMachine: operation("reviveMachine", "Put a retired machine back", {
    params: byId,
    response: machineSchema,
  }),
  createAxis: operation("createAxis", "Add an axis", {
    params: byId,
    body: axisCreateSchema,
    response: axisSchema,
    created: true,
  }),
  axis: operation("axis", "One axis", {
    params: byId,
    response: axisSchema,
  }),
  updateAxis: operation("updateAxis", "Change an axis; 409 with the present one when somebody was faster", {
    params: byId,
    body: axisUpdateSchema,
    response: axisSchema,
  }),
  duplicateAxis: operation("duplicateAxis", "Add an axis like this one", {
    params: byId,
    response: axisSchema,
    created: true,
  }),
  retireAxis: operation("retireAxis", "Retire an axis; its records stay", {
    params: byId,
    response: axisSchema,
  }),
  reviveAxis: operation("reviveAxis", "Put a retired axis back", {
    params: byId,
    response: axisSchema,
  }),
  indicators: operation("indicators", "The shop’s indicators", {
    response: z.array(indicatorSchema),
  }),
  createIndicator: operation("createIndicator", "Add an indicator", {
    body: indicatorEditSchema,
    response: indicatorSchema,
    created: true,
  }),
  updateIndicator: operation(
    "updateIndicator",
    "Change an indicator; 409 with the present one when somebody was faster",
    { params: byId, body: indicatorUpdateSchema, response: indicatorSchema },
  ),
  retireIndicator: operation("retireIndicator", "Retire an indicator", {
    params: byId,
    response: indicatorSchema,
  }),
  reviveIndicator: operation("reviveIndicator", "Put a retired indicator back", {
    params: byId,
    response: indicatorSchema,
  }),
  history: operation("history", "All tests and events of an axis, oldest first", {
    params: byId,
    response: historySchema,
  }),
  exportHistory: operation("exportHistory", "History with all readings as a file", {
    params: byId,
    query: formatQuery,
  }),
  createEvent: operation("createEvent", "Note what happened to an axis", {
    params: byId,
    body: axisEventCreateSchema,
    response: axisEventSchema,
    created: true,
  }),
  startRun: operation("startRun", "Begin a test", {
    params: byId,
    body: runCreateSchema,
    response: runSchema,
    created: true,
  }),
  importRun: operation(
    "importRun",
    "Keep the readings of a CSV file as a test; the same file again answers the first one",
    {
      params: byId,
      body: importSchema,
      response: importResultSchema,
      created: true,
    },
  ),
  run: operation("run", "One test with all its readings", {
    params: byId,
    response: runSchema,
  }),
  takeReading: operation("takeReading", "Take the reading of a step", {
    params: byId,
    body: readingCreateSchema,
    response: runSchema,
    created: true,
  }),
  discardReading: operation("discardReading", "Set a reading aside", {
    params: byId,
    body: discardSchema,
    response: runSchema,
  }),
  restoreReading: operation("restoreReading", "Take a reading that was set aside back in", {
    params: byId,
    response: runSchema,
  }),
  turnSense: operation("turnSense", "Say which way the needle counts: readings stay as shown, the result follows", {
    params: byId,
    body: senseSchema,
    response: runSchema,
  }),
  noteProgram: operation("noteProgram", "Note in which units and decimals a program commands the places", {
    params: byId,
    body: commandedSchema,
    response: runSchema,
  }),
  finishRun: operation("finishRun", "End a test with what has been read", {
    params: byId,
    response: runSchema,
  }),
  abandonRun: operation("abandonRun", "Give a test up; its readings stay", {
    params: byId,
    body: discardSchema,
    response: runSchema,
  }),
  exportRun: operation("exportRun", "Readings of a test as a file", {
    params: byId,
    query: formatQuery,
  }),
  gcode: operation("gcode", "Test program for the machine’s control", {
    params: byId,
    query: gcodeRequestSchema.omit({ runId: true }).extend({
      feedMmMin: z.coerce.number(),
      dwellS: z.coerce.number(),
      clearMm: z.coerce.number().default(20),
      readMm: z.coerce.number().default(5),
    }),
  }),
  device: operation("device", "What the connected axis and indicator say now", {
    params: byId,
    response: deviceSnapshotSchema,
  }),
  jog: operation("jog", "Jog the axis by a distance", {
    params: byId,
    body: jogSchema,
    response: deviceSnapshotSchema,
  }),
  approach: operation("approach", "Make the approach that a test’s next step asks for", {
    params: byId,
    body: approachSchema,
    response: deviceSnapshotSchema,
  }),
  stopDevice: operation("stopDevice", "Stop the axis", {
    params: byId,
    response: stoppedSchema,
  }),
  zeroDevice: operation("zeroDevice", "Set the indicator to zero", {
    params: byId,
    response: deviceSnapshotSchema,
  }),
  runProgram: operation("runProgram", "Run the rest of a test as a program, reading at each dwell", {
    params: byId,
    body: programRunSchema,
    response: deviceSnapshotSchema,
  }),
  ...CASE_OPERATIONS,
  ...SERIES_OPERATIONS,
  ...JOB_OPERATIONS,
  ...LUBE_OPERATIONS,
  ...KEEP_OPERATIONS,
  ...PART_OPERATIONS,
  ...LIST_OPERATIONS,
  ...CIRCLE_OPERATIONS,
  ...CORRECTION_OPERATIONS,
  ...GEOMETRY_OPERATIONS,
  ...PEOPLE_OPERATIONS,
  ...RECORD_OPERATIONS,
  ...KEEPING_OPERATIONS,
  ...SOUND_OPERATIONS,
} as const;
