import { LOAD_METERS } from "@iron/core";
import { z } from "zod";
import {
  assessmentSchema,
  knowledgeSchema,
  loadTraceSchema,
  observationSchema,
  overrideSchema,
} from "./assessment";
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
import { idSchema, oneOf } from "./common";
import { operation } from "./operation";

const byId = z.object({ id: idSchema });
const system = oneOf("Units", ["metric", "inch"]).default("metric");

/** Cases: from a symptom to a verdict. */
export const CASE_OPERATIONS = {
  cases: operation("get", "/api/cases", "All cases, newest first", {
    response: z.array(caseSummarySchema),
  }),
  axisCases: operation("get", "/api/axes/:id/cases", "Cases of an axis, newest first", { params: byId, response: z.array(caseSummarySchema) }), // prettier-ignore
  openCase: operation("post", "/api/machines/:id/cases", "Open a case on one or more axes", { params: byId, body: caseCreateSchema, response: caseSchema, created: true }), // prettier-ignore
  case: operation("get", "/api/cases/:id", "One case with its results and photos", { params: byId, response: caseSchema }), // prettier-ignore
  updateCase: operation("put", "/api/cases/:id", "Change symptoms, history or notes; 409 with the present one when somebody was faster", { params: byId, body: caseUpdateSchema, response: caseSchema }), // prettier-ignore
  closeCase: operation("post", "/api/cases/:id/close", "Close a case with what it really was", { params: byId, body: caseCloseSchema, response: caseSchema }), // prettier-ignore
  reopenCase: operation("post", "/api/cases/:id/reopen", "Take a closed case up again: what was learnt from it is undone", { params: byId, response: caseSchema }), // prettier-ignore
  addResult: operation("post", "/api/cases/:id/results", "Keep the result of a test", { params: byId, body: resultCreateSchema, response: caseSchema, created: true }), // prettier-ignore
  withdrawResult: operation("post", "/api/results/:id/withdraw", "Set a result aside; it stays on record", { params: byId, response: caseSchema }), // prettier-ignore
  restoreResult: operation("post", "/api/results/:id/restore", "Take a result back in", { params: byId, response: caseSchema }), // prettier-ignore
  withdrawPhoto: operation("post", "/api/photos/:id/withdraw", "Take a photo off the case", { params: byId, response: caseSchema }), // prettier-ignore
  assessment: operation("get", "/api/cases/:id/assessment", "What it most likely is, what to test next, the loss ledger", {
    params: byId,
    query: z.object({ axis: z.coerce.number().int().optional(), system }),
    response: assessmentSchema,
  }), // prettier-ignore
  axisLedger: operation("get", "/api/axes/:id/ledger", "What each link is known to lose, from all tests since the last work", {
    params: byId,
    response: assessmentSchema.pick({ axisId: true, links: true, ledger: true, since: true }),
  }), // prettier-ignore
  exportCase: operation("get", "/api/cases/:id/export", "A case as a file", {
    params: byId,
    query: z.object({ format: oneOf("Format", ["csv", "json"]).default("json"), system }),
    media: "application/json",
  }), // prettier-ignore
  analyseLoad: operation("post", "/api/axes/:id/load-trace", "Separate a load trace into its parts", {
    params: byId,
    body: z.object({
      samples: z.array(loadSampleSchema).max(20_000, "At most 20000 samples."),
      meter: oneOf("Load meter", LOAD_METERS).optional(),
    }),
    response: loadTraceSchema,
  }), // prettier-ignore
  simulateLoad: operation("post", "/api/axes/:id/device/load-trace", "A slow traverse of the simulated machine", {
    params: byId,
    response: z.object({ unit: z.literal("%"), samples: z.array(loadSampleSchema) }),
  }), // prettier-ignore
  simulateCrest: operation("post", "/api/axes/:id/device/crest-run", "Crest readings of the simulated machine", {
    params: byId,
    response: z.object({ planes: z.array(z.array(crestPointSchema)) }),
  }), // prettier-ignore
  observe: operation("post", "/api/axes/:id/device/observe", "What a test would show on the simulated machine; without a test, what would be noticed", {
    params: byId,
    body: z.object({ test: testIdSchema.nullable() }),
    response: observationSchema,
  }), // prettier-ignore
  knowledge: operation("get", "/api/knowledge", "Causes, levels and weights as the inference uses them", { response: knowledgeSchema }), // prettier-ignore
  overrideCause: operation("put", "/api/knowledge/:cause", "The shop’s own weight for a cause; 409 with the present one when somebody was faster", {
    params: z.object({ cause: z.string().max(60) }),
    body: overrideSchema,
    response: knowledgeSchema,
  }), // prettier-ignore
} as const;

export type CaseOperationName = keyof typeof CASE_OPERATIONS;
