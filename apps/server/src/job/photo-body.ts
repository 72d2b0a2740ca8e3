import express, { type Request } from "express";
import { problem } from "../http/problem-error";
import type { WorkPool } from "../threads/pool";

/** Largest photo taken, bytes: what phones make today; it is kept smaller. */
export const LARGEST_PHOTO = 25_000_000;

/** Reads a photo as it is sent. */
export const photoBody = express.raw({
  type: ["image/jpeg", "image/png"],
  limit: LARGEST_PHOTO,
});

/** The photo of a request, written anew away from the thread that answers. */
export async function photoOf(
  request: Request,
  pool: WorkPool,
): Promise<{ media: "image/jpeg" | "image/png"; bytes: Buffer }> {
  const body: unknown = request.body;
  const bytes = Buffer.isBuffer(body) ? body : Buffer.alloc(0);
  const made = await pool.run("remakePhoto", { bytes });
  if (made.kind === "refused")
    throw problem(422, { title: "Not a photo", detail: `This file cannot be used as a photo: ${made.why}.` });
  return { media: made.media, bytes: Buffer.from(made.bytes) };
}
