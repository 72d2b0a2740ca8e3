import {
  analyseLoadTrace,
  isGravityAxis,
  finding,
  findingsOf,
  locateTest,
  notices,
  simulateCrestRun,
  symptomsOf,
  simulateLoadTrace,
  travelPerTurnMm,
  type AxisConfig,
  type FindingId,
  type LoadSample,
} from "@iron/core";
import { problem } from "../http/problem-error";
import type { Handlers } from "../http/mount";
import type { DeviceHub } from "../devices/device-hub";
import type { Diagnose } from "./diagnosis";
import { caseFile } from "./case-export";
import type { Cases } from "./cases";
import { standardNormal as normal } from "./chance";
import type { Knowledge } from "./knowledge";
import type { Machines } from "../machine/machines";
import type { CaseOperationName } from "@iron/contract";

export interface CaseServices {
  readonly machines: Machines;
  readonly cases: Cases;
  readonly diagnose: Diagnose;
  readonly knowledge: Knowledge;
  readonly hub: DeviceHub;
}

/** A position that no part of the axis reaches: mostly a decimal point is missing. */
function refuseFarAway(samples: readonly LoadSample[], config: AxisConfig): void {
  // Machine coordinates count from either end.
  const most = 2 * config.travelMm;
  const at = samples.findIndex((s) => Math.abs(s.positionMm) > most);
  if (at < 0) return;
  const message = `Position ${samples[at].positionMm} mm of sample ${at + 1} lies far outside ${config.letter}, whose travel is ${config.travelMm} mm: is a decimal point missing?`;
  throw problem(422, {
    title: "Out of bounds",
    detail: message,
    errors: [{ path: `samples.${at}.positionMm`, message }],
  });
}

export function caseHandlersFor(s: CaseServices): Pick<Handlers, CaseOperationName> {
  return {
    cases: () => s.cases.list(),
    axisCases: ({ params }) => s.cases.list(params.id),
    openCase: ({ params, body, who }) => s.cases.open(params.id, body, who),
    case: ({ params }) => s.cases.get(params.id),
    updateCase: ({ params, body }) => s.cases.update(params.id, body),
    dropCase: ({ params }) => s.cases.drop(params.id),
    closeCase: async ({ params, body, who }) => {
      const expected = await s.diagnose.expected(await s.cases.get(params.id));
      return s.cases.close(params.id, body, { expected, who });
    },
    reopenCase: ({ params }) => s.cases.reopen(params.id),
    addResult: ({ params, body, who }) => s.cases.addResult(params.id, body, who),
    withdrawResult: ({ params, who }) => s.cases.mark("result", params.id, { withdrawn: true, who }),
    restoreResult: ({ params, who }) => s.cases.mark("result", params.id, { withdrawn: false, who }),
    withdrawPhoto: ({ params, who }) => s.cases.mark("photo", params.id, { withdrawn: true, who }),
    diagnosis: ({ params, query }) => s.diagnose.of(params.id, query.axis, query.system),
    axisLedger: ({ params }) => s.diagnose.ledger(params.id),
    exportCase: async ({ params, query }) => {
      const file = await s.cases.get(params.id);
      const axes = file.axisIds.map(async (id) => ({
        letter: (await s.machines.axis(id)).config.letter,
        diagnosis: await s.diagnose.of(file.id, id, query.system),
      }));
      return caseFile(file, await Promise.all(axes), query.format);
    },
    analyseLoad: async ({ params, body }) => {
      const { config } = await s.machines.axis(params.id);
      refuseFarAway(body.samples, config);
      const trace = analyseLoadTrace(body.samples, {
        perTurnMm: travelPerTurnMm(config),
        gravityAxis: isGravityAxis(config),
        ...(body.meter ? { meter: body.meter } : {}),
      });
      return { ...trace, stretches: [...trace.stretches], spots: [...trace.spots], fitted: [...trace.fitted] };
    },
    simulateLoad: async ({ params }) => {
      const device = await s.hub.device(params.id);
      return { unit: "%" as const, samples: [...simulateLoadTrace(device.model, normal)] };
    },
    simulateCrest: async ({ params }) => {
      const device = await s.hub.device(params.id);
      return { planes: simulateCrestRun(device.model, normal).map((p) => [...p]) };
    },
    observe: async ({ params, body }) => {
      const device = await s.hub.device(params.id);
      const { config } = await s.machines.axis(params.id);
      const test = body.test ? locateTest(body.test) : undefined;
      const ids: readonly FindingId[] = test ? findingsOf(config, test) : symptomsOf(config);
      const answers = Object.fromEntries(ids.map((id) => [id, notices(config, { axis: device.model, id, normal })]));
      const present = ids.filter((id) => answers[id]).map((id) => finding(id).text);
      return { simulated: true as const, answers, shown: present.length ? present : ["nothing out of the ordinary"] };
    },
    knowledge: () => s.knowledge.view(),
    overrideCause: ({ params, body, who }) =>
      s.knowledge.override(params.cause, { prior: body.prior, why: body.why, version: body.version, who }),
  };
}
