import type { WritableSignal } from "@angular/core";
import { HttpErrorResponse } from "@angular/common/http";
import type { Problem } from "@iron/contract";

/** What went wrong, from the server’s problem details or from the network. */
export function problemFrom(error: unknown): Problem {
  if (error instanceof HttpErrorResponse) {
    // 504 without a word: what keeps the page for when no server answers says so in its place.
    if (error.status === 0 || (error.status === 504 && !error.error)) {
      return {
        type: "about:blank",
        title: "No connection",
        status: 0,
        detail: "The server does not answer. What was taken before is kept; try again once it does.",
      };
    }
    const body: unknown = typeof error.error === "string" ? tryJson(error.error) : error.error;
    if (body && typeof body === "object" && "detail" in body) return body as Problem;
    return {
      type: "about:blank",
      title: "Server error",
      status: error.status,
      detail: `The server answered ${error.status}.`,
    };
  }
  return {
    type: "about:blank",
    title: "Error",
    status: 0,
    detail: error instanceof Error ? error.message : String(error),
  };
}

function tryJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** The messages of a problem by field path, without the part before the field. */
export function fieldErrors(problem: Problem | null, prefix = ""): ReadonlyMap<string, string> {
  const errors = problem?.errors ?? [];
  return new Map(errors.map((e) => [e.path.startsWith(prefix) ? e.path.slice(prefix.length) : e.path, e.message]));
}

/**
 * Hands what failed to where a page says it.
 *
 * @example this.api.call("machine", { params }).subscribe({ next, error: saidIn(this.error) });
 */
export const saidIn =
  (at: WritableSignal<string>) =>
  (error: unknown): void =>
    at.set(problemFrom(error).detail);
