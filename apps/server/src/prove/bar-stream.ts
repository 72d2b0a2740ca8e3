import { idSchema, type BarBatch } from "@iron/contract";
import type { Express } from "express";
import type { Bars } from "./bar";
import type { Circles } from "./circles";

const HEARTBEAT_MS = 15_000;

/** Server-sent events: the samples of a plane’s bar, numbered, in batches. Who comes later sees by the number what is missing. */
export function mountBarStream(app: Express, circles: Circles, bars: Bars): void {
  app.get("/api/circle-planes/:id/stream", async (request, response) => {
    const { plane } = await circles.plane(idSchema.parse(request.params.id));
    response.writeHead(200, {
      "Content-Type": "text/event-stream",
      "Cache-Control": "no-store, no-transform",
      Connection: "keep-alive",
      "X-Accel-Buffering": "no",
    });
    if (request.method === "HEAD") {
      response.end();
      return;
    }
    response.write("retry: 1000\n\n");
    const send = (batch: BarBatch): void => {
      // A reader that has fallen behind misses a batch, and sees that it does, rather than filling memory.
      if (batch.ended || response.writableLength < 262_144) response.write(`data: ${JSON.stringify(batch)}\n\n`);
    };
    const unwatch = bars.watch(plane.id, { see: send, end: () => response.end() });
    const heartbeat = setInterval(() => response.write(": still here\n\n"), HEARTBEAT_MS);
    request.on("close", () => {
      clearInterval(heartbeat);
      unwatch();
    });
  });
}
