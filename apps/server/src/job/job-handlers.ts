import type { JOB_OPERATIONS } from "@iron/contract";
import type { Handlers } from "../http/mount";
import { jobPdf } from "./job-pdf";
import type { Jobs } from "./jobs";

export function jobHandlersFor(jobs: Jobs): Pick<Handlers, keyof typeof JOB_OPERATIONS> {
  return {
    jobs: () => jobs.list(),
    openJob: ({ params, body, who }) => jobs.open(params.id, body, who),
    job: ({ params }) => jobs.get(params.id),
    actOnJob: ({ params, body, who }) => jobs.act(params.id, body, who),
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
