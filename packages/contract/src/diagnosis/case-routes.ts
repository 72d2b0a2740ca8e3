import { LOAD_METERS } from "@iron/core";
import * as z from "zod";
import { diagnosisSchema, knowledgeSchema, loadTraceSchema, observationSchema, overrideSchema } from "./diagnosis";
import {
  caseCloseSchema,
  caseCreateSchema,
  caseSchema,
  caseSummarySchema,
  caseUpdateSchema,
  crestPointSchema,
  loadSampleSchema,
  resultCreateSchema,
  testIdSchema,
} from "./case";
import { idSchema, oneOf } from "../wire/common";
import { operation } from "../wire/operation";

const byId = z.object({ id: idSchema });
const system = oneOf("Units", ["metric", "inch"]).default("metric");

/** Cases: from a symptom to a verdict. */
export const CASE_OPERATIONS = {
  cases: operation("cases", "All cases, newest first", {
    response: z.array(caseSummarySchema),
  }),
  axisCases: operation("axisCases", "Cases of an axis, newest first", {
    params: byId,
    response: z.array(caseSummarySchema),
  }),
  openCase: operation("openCase", "Open a case on one or more axes", {
    params: byId,
    body: caseCreateSchema,
    response: caseSchema,
    created: true,
  }),
  case: operation("case", "One case with its results and photos", {
    params: byId,
    response: caseSchema,
  }),
  updateCase: operation(
    "updateCase",
    "Change symptoms, history or notes; 409 with the present one when somebody was faster",
    { params: byId, body: caseUpdateSchema, response: caseSchema },
  ),
  dropCase: operation("dropCase", "Undo the opening of a case that holds nothing but answers", {
    params: byId,
    response: z.object({ dropped: z.literal(true) }),
  }),
  closeCase: operation("closeCase", "Close a case with what it really was", {
    params: byId,
    body: caseCloseSchema,
    response: caseSchema,
  }),
  reopenCase: operation("reopenCase", "Take a closed case up again: what was learnt from it is undone", {
    params: byId,
    response: caseSchema,
  }),
  addResult: operation("addResult", "Keep the result of a test", {
    params: byId,
    body: resultCreateSchema,
    response: caseSchema,
    created: true,
  }),
  withdrawResult: operation("withdrawResult", "Set a result aside; it stays on record", {
    params: byId,
    response: caseSchema,
  }),
  restoreResult: operation("restoreResult", "Take a result back in", {
    params: byId,
    response: caseSchema,
  }),
  withdrawPhoto: operation("withdrawPhoto", "Take a photo off the case", {
    params: byId,
    response: caseSchema,
  }),
  diagnosis: operation("diagnosis", "What it most likely is, what to test next, the loss ledger", {
    params: byId,
    query: z.object({ axis: z.coerce.number().int().optional(), system }),
    response: diagnosisSchema,
  }),
  axisLedger: operation("axisLedger", "What each link is known to lose, from all tests since the last work", {
    params: byId,
    response: diagnosisSchema.pick({ axisId: true, links: true, ledger: true, since: true }),
  }),
  exportCase: operation("exportCase", "A case as a file", {
    params: byId,
    query: z.object({ format: oneOf("Format", ["csv", "json"]).default("json"), system }),
  }),
  analyseLoad: operation("analyseLoad", "Separate a load trace into its parts", {
    params: byId,
    body: z.object({
      samples: z.array(loadSampleSchema).max(20_000, "At most 20000 samples."),
      meter: oneOf("Load meter", LOAD_METERS).optional(),
    }),
    response: loadTraceSchema,
  }),
  simulateLoad: operation("simulateLoad", "A slow traverse of the simulated machine", {
    params: byId,
    response: z.object({ unit: z.literal("%"), samples: z.array(loadSampleSchema) }),
  }),
  simulateCrest: operation("simulateCrest", "Crest readings of the simulated machine", {
    params: byId,
    response: z.object({ planes: z.array(z.array(crestPointSchema)) }),
  }),
  observe: operation(
    "observe",
    "What a test would show on the simulated machine; without a test, what would be noticed",
    {
      params: byId,
      body: z.object({ test: testIdSchema.nullable() }),
      response: observationSchema,
    },
  ),
  knowledge: operation("knowledge", "Causes, levels and weights as the inference uses them", {
    response: knowledgeSchema,
  }),
  overrideCause: operation(
    "overrideCause",
    "The shop’s own weight for a cause; 409 with the present one when somebody was faster",
    {
      params: z.object({ cause: z.string().max(60) }),
      body: overrideSchema,
      response: knowledgeSchema,
    },
  ),
} as const;

export type CaseOperationName = keyof typeof CASE_OPERATIONS;
