import { notFound } from "../http/problem-error";
import type { Db } from "../store/database";
import { isKnownKey } from "../store/keys";

/** A photo of a step, written anew before it comes here. */
export interface JobPhoto {
  readonly media: "image/jpeg" | "image/png";
  readonly bytes: Buffer;
  readonly step: string;
  readonly caption: string;
  readonly key?: string | undefined;
}

/** Keeps a photo of a job, once however often it is sent. */
export async function keepJobPhoto(
  db: Db,
  jobId: number,
  {
    photo,
    when: { at, who },
  }: { readonly photo: JobPhoto; readonly when: { readonly at: string; readonly who: string } },
): Promise<void> {
  if (photo.key && (await isKnownKey(db, { table: "job_photo", key: photo.key, owner: jobId }))) return;
  await db
    .insertInto("job_photo")
    .values({ job_id: jobId, ...photo, key: photo.key ?? null, at, by: who })
    .onConflict((on) => on.column("key").where("key", "is not", null).doNothing())
    .execute();
}

export async function jobPhoto(db: Db, id: number): Promise<{ media: string; bytes: Buffer }> {
  const row = await db.selectFrom("job_photo").select(["media", "bytes"]).where("id", "=", id).executeTakeFirst();
  if (!row) throw notFound("photo", id);
  return row;
}
