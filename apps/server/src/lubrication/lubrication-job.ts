import { DEFAULT_OPTIONS, jobKind } from "@iron/core";
import { problem } from "../http/problem-error";
import type { Jobs } from "../job/jobs";
import type { Lubrication } from "./lubrication";
import type { Machines } from "../machine/machines";

/**
 * The job that parts the nut to grease a point, or the one that is open for it already. Signed off it
 * counts as the point’s visit.
 */
export async function jobFromPoint(
  services: {
    readonly lubrication: Lubrication;
    readonly machines: Machines;
    readonly jobs: Jobs;
  },
  pointId: number,
  who: string,
): Promise<{ jobId: number }> {
  const { lubrication, machines, jobs } = services;
  const point = await lubrication.get(pointId);
  const { axes } = await machines.withAxes(point.machineId);
  const axis = axes.find((a) => !a.retiredAt && a.config.letter === point.letter);
  if (!axis)
    throw problem(422, { title: "Not valid", detail: `${point.place} belongs to no axis: no job can part its nut.` });
  const kind = jobKind("grease-nut");
  if (!kind.fits(axis.config))
    throw problem(422, {
      title: "Not on this axis",
      detail: `“${kind.name}” does not fit ${point.letter}: it has no nut in a bracket. Untick “nut has to be parted” on the point.`,
    });
  const there = await jobs.openOf(axis.id, kind.id);
  if (there !== null) return { jobId: there };
  const job = await jobs.open(
    point.machineId,
    {
      items: [{ axisId: axis.id, kind: kind.id }],
      options: DEFAULT_OPTIONS,
      caseId: null,
    },
    who,
  );
  return { jobId: job.id };
}
