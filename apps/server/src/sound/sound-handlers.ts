import { idSchema, LARGEST_SOUND_PART } from "@iron/contract";
import express, { type Express } from "express";
import * as z from "zod";
import type { Handlers } from "../http/mount";
import type { Sounds } from "./sounds";

type Served =
  | "sounds"
  | "sisterSounds"
  | "beginSound"
  | "simulateSound"
  | "sound"
  | "finishSound"
  | "setSoundAside"
  | "keepSoundWell"
  | "compareSounds";

export function soundHandlersFor({ sounds }: { readonly sounds: Sounds }): Pick<Handlers, Served> {
  return {
    sounds: ({ params }) => sounds.of(params.id),
    sisterSounds: ({ params }) => sounds.ofSisters(params.id),
    beginSound: ({ params, body, who }) => sounds.begin(params.id, body, who),
    simulateSound: ({ params, body, who }) => sounds.simulate(params.id, body, who),
    sound: ({ params }) => sounds.sound(params.id),
    finishSound: ({ params }) => sounds.finish(params.id),
    setSoundAside: ({ params, body, who }) => sounds.setAside(params.id, body.reason, who),
    keepSoundWell: ({ params, body, who }) => sounds.keepWell(params.id, body.well, who),
    compareSounds: ({ params }) => sounds.beside(params.id, params.other),
  };
}

const fromSchema = z.coerce
  .number({ error: "The first byte must be a whole number." })
  .int("The first byte must be a whole number.")
  .min(0, "The first byte must be 0 or more.");

/** Parts of recordings come, and recordings go, as bytes and not as JSON. */
export function mountSounds(app: Express, sounds: Sounds): void {
  const body = express.raw({ type: "application/octet-stream", limit: LARGEST_SOUND_PART });
  app.put("/api/sounds/:id/parts/:from", body, async (request, response) => {
    const [id, from] = [idSchema.parse(request.params["id"]), fromSchema.parse(request.params["from"])];
    const sent: unknown = request.body;
    const kept = await sounds.part(id, from, Buffer.isBuffer(sent) ? sent : Buffer.alloc(0));
    response.set("Cache-Control", "no-store").json(kept);
  });
  app.get("/api/sounds/:id/wav", async (request, response) => {
    const sound = await sounds.sound(idSchema.parse(request.params.id));
    response
      .set("Cache-Control", sound.state === "arriving" ? "no-store" : "private, max-age=31536000, immutable")
      .attachment(`recording-${sound.id}.wav`)
      .type("audio/wav")
      .send(await sounds.bytes(sound.id));
  });
}
