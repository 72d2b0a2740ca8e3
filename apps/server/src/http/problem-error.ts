import type { Problem } from "@iron/contract";

/** An answer that says why something cannot be; becomes RFC 9457 problem details. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
    this.name = "ProblemError";
  }
}

export function problem(
  status: number,
  says: Pick<Problem, "title" | "detail"> & Partial<Pick<Problem, "errors" | "current">>,
): ProblemError {
  return new ProblemError({ type: "about:blank", status, ...says });
}

export function notFound(what: string, id: number | string): ProblemError {
  return problem(404, { title: "Not found", detail: `There is no ${what} ${id}.` });
}

/** Two people changed one thing: the present one goes along, so that whoever was later can choose. */
export function changedMeanwhile(what: string, current: unknown): ProblemError {
  return conflict(`Somebody changed this ${what} while you did. Both versions are here; choose.`, current);
}

export function conflict(detail: string, current?: unknown): ProblemError {
  return problem(409, { title: "Conflict", detail, ...(current === undefined ? {} : { current }) });
}
