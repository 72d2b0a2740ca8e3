import { dayOf } from "@iron/core";
import { NOTHING_TOLD, type LubricationPointRecord } from "@iron/contract";
import { problem } from "../http/problem-error";
import type { Cases } from "../diagnosis/cases";
import type { Lubrication } from "./lubrication";
import type { Machines } from "../machine/machines";

/** Opens a case on what lubrication found, or adds it to the one that is open on the axis. */
export async function caseFromPoint(
  { lubrication, machines, cases }: { lubrication: Lubrication; machines: Machines; cases: Cases },
  pointId: number,
  who: string,
): Promise<{ caseId: number; machineId: number; axisId: number }> {
  const point = await lubrication.get(pointId);
  const { axes } = await machines.withAxes(point.machineId);
  const axis = axes.find((a) => !a.retiredAt && a.config.letter === point.letter);
  if (!axis)
    throw problem(422, {
      title: "Not valid",
      detail: `${point.place} belongs to no axis: there is no case to open on it.`,
    });
  const there = (await cases.list(axis.id)).find((c) => c.state === "open");
  const file = there
    ? await cases.get(there.id)
    : await cases.open(point.machineId, { axisIds: [axis.id], answers: {} }, who);
  const told = file.told[axis.id] ?? NOTHING_TOLD;
  const evidence = evidenceText(point);
  if (!file.notes.includes(evidence))
    await cases.update(file.id, {
      version: file.version,
      context: file.context,
      // A dry point is what it says; what else was found there is left to the one who asks.
      told:
        point.lastFound === "dry"
          ? { ...file.told, [axis.id]: { ...told, answers: { ...told.answers, dry: true } } }
          : file.told,
      notes: `${file.notes}${file.notes ? "\n" : ""}${evidence}`.slice(0, 4000),
    });
  return { caseId: file.id, machineId: point.machineId, axisId: axis.id };
}

function evidenceText(point: LubricationPointRecord): string {
  const when = point.lastAt ? dayOf(point.lastAt) : "not visited";
  const learnt = point.learnt ? ` In all: ${point.learnt}.` : "";
  return `From lubrication, ${when}, ${point.place}: found ${point.lastFound ?? "nothing yet"}. ${point.asksCase}${learnt}`;
}
