import { circleCsvRows, type CirclePlane } from "@iron/contract";
import type { CircleTrace, UnitSystem } from "@iron/core";
import Papa from "papaparse";
import type { FileAnswer } from "../http/mount";
import { problem } from "../http/problem-error";
import type { WorkPool } from "../threads/pool";
import { circlePdf } from "./circle-pdf";
import type { NewPass } from "./circle-rows";
import type { Circles } from "./circles";

/** Wrong rows that are told one by one. */
const MOST_ERRORS = 200;

/** The ways round of a file: all or nothing. */
export async function passesOf(text: string, plane: CirclePlane, pool: WorkPool): Promise<readonly NewPass[]> {
  const { traces, errors } = await pool.run("readCircle", { text, radiusMm: plane.plan.radiusMm });
  if (errors.length > 0)
    throw problem(422, {
      title: "Rows are wrong",
      detail: `${errors.length} ${errors.length === 1 ? "row" : "rows"} cannot be read; nothing was kept.`,
      errors: errors.slice(0, MOST_ERRORS).map((e) => ({
        path: `line ${e.line}${e.column ? `, ${e.column}` : ""}`,
        message: e.message,
      })),
    });
  return traces.map((trace) => ({ direction: trace.direction, source: "import", trace, troubles: [] }));
}

/** Readings of an indicator in a ring or round a mandrel. */
export function typedPass({
  direction,
  readings,
}: {
  readonly direction: 1 | -1;
  readonly readings: readonly { readonly deg: number; readonly mm: number }[];
}): NewPass {
  const trace = {
    direction,
    angles: Float64Array.from(readings, (r) => (r.deg * Math.PI) / 180),
    deviations: Float64Array.from(readings, (r) => r.mm),
  };
  return { direction, source: "typed", trace, troubles: [] };
}

/** All readings of a session that are used. */
export async function circleFile(
  circles: Circles,
  id: number,
  { format, system }: { readonly format: "csv" | "json" | "pdf"; readonly system: UnitSystem },
): Promise<FileAnswer> {
  const session = await circles.session(id);
  if (format === "pdf") {
    const { nickname, bay, axes } = await circles.machineOf(session);
    const traces = new Map<number, readonly CircleTrace[]>();
    for (const p of session.planes)
      traces.set(
        p.id,
        (await circles.traces(p.id)).map((t) => t.trace),
      );
    const text = await circlePdf({ session, nickname, bay, axes, traces, system });
    return { fileName: `circle-${id}.pdf`, media: "application/pdf", text };
  }
  const planes = await Promise.all(
    session.planes.map(async (p) => ({ plane: p.plan.letters.join(""), traces: await circles.traces(p.id) })),
  );
  if (format === "json") {
    const readings = planes.map(({ plane, traces }) => ({
      plane,
      passes: traces.map(({ passId, trace }) => ({
        passId,
        direction: trace.direction,
        anglesRad: Array.from(trace.angles),
        deviationsMm: Array.from(trace.deviations),
      })),
    }));
    return {
      fileName: `circle-${id}.json`,
      media: "application/json",
      text: JSON.stringify({ session, readings }),
    };
  }
  const rows = planes.flatMap(({ plane, traces }) => {
    const runs = new Map<number, number>();
    const numbered = traces.map((t) => {
      const run = (runs.get(t.trace.direction) ?? 0) + 1;
      runs.set(t.trace.direction, run);
      return { run, by: t.by, trace: t.trace };
    });
    return circleCsvRows(plane, numbered);
  });
  return { fileName: `circle-${id}.csv`, media: "text/csv", text: Papa.unparse(rows, { newline: "\n" }) };
}
