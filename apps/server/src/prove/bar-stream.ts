import { idSchema, type BarBatch } from "@iron/contract";
import type { Express } from "express";
import { eventStream } from "../http/event-stream";
import type { Bars } from "./bar";
import type { Circles } from "./circles";

/** Batches that a reader has not taken yet, bytes: it misses the next, and sees by its number that it does. */
const BEHIND = 262_144;

/** Server-sent events: the samples of a plane’s bar, numbered, in batches. Who comes later sees by the number what is missing. */
export function mountBarStream(app: Express, circles: Circles, bars: Bars): void {
  app.get("/api/circle-planes/:id/stream", async (request, response) => {
    const { plane } = await circles.plane(idSchema.parse(request.params.id));
    let unwatch = (): void => undefined;
    const stream = eventStream(request, response, () => unwatch());
    if (!stream) return;
    const see = (batch: BarBatch): void => stream.send(batch, batch.ended ? Infinity : BEHIND);
    unwatch = bars.watch(plane.id, { see, end: () => stream.end() });
  });
}
