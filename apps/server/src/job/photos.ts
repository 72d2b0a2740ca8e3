import { FINDING_IDS } from "@iron/core";
import { idSchema } from "@iron/contract";
import type { Express } from "express";
import * as z from "zod";
import type { ChangeRecord } from "../people/record";
import { whoIsWorking } from "../people/who";
import type { WorkPool } from "../threads/pool";
import { photoBody, photoOf } from "./photo-body";
import type { Cases } from "../diagnosis/cases";
import type { Jobs } from "./jobs";
import type { Lubrication } from "../lubrication/lubrication";

const querySchema = z.object({
  caption: z.string().max(200, "The caption is longer than 200 characters.").default(""),
  finding: z.enum(FINDING_IDS).optional(),
});

interface PhotoServices {
  readonly pool: WorkPool;
  readonly record: ChangeRecord;
}

/** Photos go in and out as pictures, not as JSON. */
export function mountPhotos(app: Express, cases: Cases, { pool, record }: PhotoServices): void {
  app.post("/api/cases/:id/photos", photoBody, async (request, response) => {
    const id = idSchema.parse(request.params["id"]);
    const { caption, finding = null } = querySchema.parse(request.query);
    const photo = await photoOf(request, pool);
    const who = whoIsWorking(request);
    const kept = await cases.addPhoto(id, { ...photo, caption, finding }, who);
    await record.noteAs("Keep a photo", { request, who, body: { caption } });
    response.status(201).json(kept);
  });
  app.get("/api/photos/:id", async (request, response) => {
    const { media, bytes } = await cases.photo(idSchema.parse(request.params.id));
    response.set("Cache-Control", "private, max-age=31536000, immutable").type(media).send(bytes);
  });
}

const stepSchema = z.object({
  step: z.string().max(80),
  key: z.uuid("The key must be a UUID.").optional(),
  caption: z.string().max(200, "The caption is longer than 200 characters.").default(""),
});

/** Photos of a job, by step. */
export function mountJobPhotos(app: Express, jobs: Jobs, { pool, record }: PhotoServices): void {
  app.post("/api/jobs/:id/photos", photoBody, async (request, response) => {
    const id = idSchema.parse(request.params["id"]);
    const query = stepSchema.parse(request.query);
    const photo = await photoOf(request, pool);
    const who = whoIsWorking(request);
    const kept = await jobs.addPhoto(id, { ...photo, ...query }, who);
    await record.noteAs("Keep a photo", { request, who, body: query });
    response.status(201).json(kept);
  });
  app.get("/api/job-photos/:id", async (request, response) => {
    const { media, bytes } = await jobs.photo(idSchema.parse(request.params.id));
    response.set("Cache-Control", "private, max-age=31536000, immutable").type(media).send(bytes);
  });
}

const keyedSchema = z.object({
  key: z.uuid("The key must be a UUID."),
  caption: z.string().max(200, "The caption is longer than 200 characters.").default(""),
  /** The check that it shows; left out: the point. */
  shows: z.string().max(120, "The check is longer than 120 characters.").optional(),
});

/** Photos of lubrication points. */
export function mountLubricationPhotos(app: Express, lubrication: Lubrication, { pool, record }: PhotoServices): void {
  app.post("/api/lube-points/:id/photos", photoBody, async (request, response) => {
    const id = idSchema.parse(request.params["id"]);
    const query = keyedSchema.parse(request.query);
    const photo = await photoOf(request, pool);
    const who = whoIsWorking(request);
    const kept = await lubrication.addPhoto(id, { ...photo, ...query }, who);
    await record.noteAs("Keep a photo", { request, who, body: query });
    response.status(201).json(kept);
  });
  app.get("/api/lube-photos/:id", async (request, response) => {
    const { media, bytes } = await lubrication.photo(idSchema.parse(request.params.id));
    response.set("Cache-Control", "private, max-age=31536000, immutable").type(media).send(bytes);
  });
}
