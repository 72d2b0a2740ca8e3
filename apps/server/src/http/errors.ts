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
    const detail = errors.length === 1 ? errors[0].message : `${errors.length} values are not right.`;
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
  // A character that PostgreSQL keeps in no text.
  if ((error as { code?: string }).code === "22021")
    return { ...base, title: "Not valid", status: 422, detail: "The character U+0000 cannot be kept: leave it out." };
  const disk = diskProblem(error);
  if (disk) return { ...base, ...disk };
  const refused = refusedByExpress(error);
  if (refused) return { ...base, ...refused };
  return {
    ...base,
    title: "Server error",
    status: 500,
    detail: "The server failed. Nothing was changed; try again, and look at its log.",
  };
}

const DISK: readonly [code: RegExp, detail: string][] = [
  [
    /^SQLITE_FULL|^ENOSPC|^53100$/,
    "There is no room left on the server’s disk. Nothing was changed: make room there, then try again. What is there can still be read.",
  ],
  [
    /^SQLITE_READONLY|^EROFS|^EACCES/,
    "The shop’s data can be read but not written on the server. Nothing was changed: give it the right to write there, then try again.",
  ],
  [/^SQLITE_BUSY|^SQLITE_LOCKED/, "Another program holds the shop’s data. Nothing was changed: try again."],
  [
    /^SQLITE_IOERR|^SQLITE_CORRUPT|^EIO/,
    "The server’s disk fails, or the shop’s data is damaged. Nothing was changed: stop the server, look at the disk, and restore the last good backup.",
  ],
  [
    /^ECONNREFUSED|^ECONNRESET|^ETIMEDOUT|^EHOSTUNREACH|^EPIPE|^08|^57P|^55P03$/,
    "The store of the shop’s data does not answer. Try again once it does; of what was just sent, look first whether it is kept.",
  ],
];
/** What the driver says where a connection breaks, without a code. */
const BROKEN =
  /^(Connection terminated|Client has encountered a connection error|timeout exceeded when trying to connect)/;

/** What the disk under the data refuses: 503, with what to do; its path stands in the log. */
function diskProblem(error: unknown): Pick<Problem, "title" | "status" | "detail"> | null {
  const { code: said, message, syscall } = error as { code?: unknown; message?: unknown; syscall?: unknown };
  const code = syscall === "connect" || BROKEN.test(String(message)) ? "ECONNRESET" : said;
  if (typeof code !== "string") return null;
  const known = DISK.find(([pattern]) => pattern.test(code));
  return known ? { title: "Not kept", status: 503, detail: known[1] } : null;
}

const WORDS: Readonly<Record<number, readonly [string, string]>> = {
  412: ["Changed meanwhile", "The file is not the one that was asked for."],
  413: ["Too large", "That is more than the server takes at once."],
  415: ["Not readable", "The request’s character set or encoding is not known here: send UTF-8, plain or gzip."],
  416: ["Out of range", "The file has no such range of bytes."],
};

/** What express and its readers of bodies and files refuse by themselves: 4xx, in our words. */
function refusedByExpress(error: unknown): Pick<Problem, "title" | "status" | "detail"> | null {
  const { status } = error as { status?: unknown };
  if (typeof status !== "number" || status < 400 || status > 499) return null;
  const [title, detail] = WORDS[status] ?? ["Not readable", "The request cannot be read as it was sent."];
  return { title, status, detail };
}

export function sendProblem(response: Response, problem: Problem): void {
  response.status(problem.status).type("application/problem+json").send(JSON.stringify(problem));
}

export function errorHandler(log: Logger): ErrorRequestHandler {
  return (error, request, response, next) => {
    if (response.headersSent) {
      next(error);
      return;
    }
    const problem = problemOf(error);
    if (problem.status >= 500) log.error({ err: error, path: request.path }, "request failed");
    sendProblem(response, problem);
  };
}
