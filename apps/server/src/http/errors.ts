import { BoundError } from "@iron/core";
import type { Problem } from "@iron/contract";
import type { ErrorRequestHandler, Response } from "express";
import type { Logger } from "pino";
import { ZodError } from "zod";
import { ProblemError } from "./problem-error";

/** What a failure is to the outside: its words where they are ours, nothing of the inside else. */
export function problemOf(error: unknown): Problem {
  if (error instanceof ProblemError) return error.problem;
  const base = { type: "about:blank" };
  if (error instanceof ZodError) {
    const errors = error.issues.map((i) => ({
      path: i.path.join("."),
      message: i.message,
    }));
    const detail =
      errors.length === 1
        ? errors[0].message
        : `${errors.length} values are not right.`;
    return { ...base, title: "Not valid", status: 422, detail, errors };
  }
  if (error instanceof BoundError) {
    const errors = [{ path: error.argument, message: `${error.message}.` }];
    return {
      ...base,
      title: "Out of bounds",
      status: 422,
      detail: `${error.message}.`,
      errors,
    };
  }
  const type = (error as { type?: string }).type;
  if (type === "entity.too.large") {
    return {
      ...base,
      title: "Too large",
      status: 413,
      detail: "That is more than the server takes at once.",
    };
  }
  if (type === "entity.parse.failed" || error instanceof URIError) {
    return {
      ...base,
      title: "Not readable",
      status: 400,
      detail: "The request is not valid JSON or its address is garbled.",
    };
  }
  return {
    ...base,
    title: "Server error",
    status: 500,
    detail:
      "The server failed. Nothing was changed; try again, and look at its log.",
  };
}

export function sendProblem(response: Response, problem: Problem): void {
  response
    .status(problem.status)
    .type("application/problem+json")
    .send(JSON.stringify(problem));
}

export function errorHandler(log: Logger): ErrorRequestHandler {
  return (error, request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const problem = problemOf(error);
    if (problem.status >= 500)
      log.error({ err: error, path: request.path }, "request failed");
    sendProblem(response, problem);
  };
}
