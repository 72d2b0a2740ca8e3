import type { Request } from "express";
import * as z from "zod";
import { WRITER_HEADER } from "../http/guard";
import { problem } from "../http/problem-error";
import { hashOf } from "./seals";

const LONGEST_NAME = 40;
const whoSchema = z
  .string()
  .trim()
  .max(LONGEST_NAME, `The name of who is working is longer than ${LONGEST_NAME} letters.`);

/** Who is said to have done it; empty: nobody. */
export function saidName(request: Request): string {
  const said = decodeURIComponent(request.get(WRITER_HEADER) ?? "");
  return z.object({ "x-working-as": whoSchema }).parse({ "x-working-as": said })["x-working-as"];
}

export const anothersWork = (name: string, here: string): Error =>
  problem(403, {
    title: "Another’s work",
    detail: `${name} did this, and ${here} is signed in: it waits for ${name} to sign in.`,
  });

/**
 * Who is working: who is signed in, or who made what waited, or who says so where nobody has to; “somebody” where
 * nobody said.
 * @throws ProblemError 403 where one who is signed in sends what another did, or what was sealed is not what came
 */
export function whoIsWorking(request: Request): string {
  const name = saidName(request);
  const { person, sealed } = request;
  if (!person) return name || "somebody";
  if (sealed && sealed.body !== hashOfBody(request))
    throw problem(403, { title: "Forbidden", detail: "This is not what was sealed where it was made." });
  if (name && name !== person.name && !request.namesNobody) throw anothersWork(name, person.name);
  return person.name;
}

function hashOfBody(request: Request): string {
  const body: unknown = request.body;
  return request.bodyHash ?? hashOf(Buffer.isBuffer(body) ? body : "");
}
