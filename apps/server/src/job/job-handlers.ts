import type { JOB_OPERATIONS, JobAct } from "@iron/contract";
import type { Handlers } from "../http/mount";
import { problem } from "../http/problem-error";
import type { People } from "../people/people";
import { jobPdf } from "./job-pdf";
import type { Jobs } from "./jobs";

/** Whose name stands under a hold, a deviation that is accepted, or the whole sheet; empty for any other act. */
function signedBy(act: JobAct, who: string): string {
  if (act.kind !== "sign") return "";
  return act.holdBy.trim() || (act.step === "sign-off" ? who : "");
}

/** Where people sign in, only they can vouch: another’s name could not be proven. */
async function refuseUnknown(people: People, name: string): Promise<void> {
  if ((await people.door()) !== "people" || (await people.active()).some((p) => p.name === name)) return;
  throw problem(422, {
    ...{ title: "Not valid", detail: `${name} cannot sign in here: choose who vouches.` },
    errors: [{ path: "holdBy", message: `${name} cannot sign in here: choose who vouches.` }],
  });
}

export function jobHandlersFor(jobs: Jobs, people: People): Pick<Handlers, keyof typeof JOB_OPERATIONS> {
  return {
    jobs: () => jobs.list(),
    openJob: ({ params, body, who }) => jobs.open(params.id, body, who),
    job: ({ params }) => jobs.get(params.id),
    actOnJob: async ({ params, body, who, again }) => {
      const name = signedBy(body, who);
      if (name) await refuseUnknown(people, name);
      if (name) await again.prove(name);
      const job = await jobs.act(params.id, body, who);
      if (name) again.spend();
      return job;
    },
    jobPdf: async ({ params, query }) => ({
      fileName: `job-${params.id}.pdf`,
      media: "application/pdf",
      text: await jobPdf(await jobs.get(params.id), query.system),
    }),
    exportJob: async ({ params }) => ({
      fileName: `job-${params.id}.json`,
      media: "application/json",
      text: JSON.stringify(await jobs.get(params.id), null, 2),
    }),
  };
}
