import { idSchema, type DeviceSnapshot } from "@iron/contract";
import type { Express } from "express";
import type { DeviceHub } from "../devices/device-hub";

const HEARTBEAT_MS = 15_000;

/** Server-sent events: a snapshot of the axis’ device at each of its ticks. Reconnecting just works. */
export function mountDeviceStream(app: Express, hub: DeviceHub): void {
  app.get("/api/axes/:id/device/stream", async (request, response) => {
    const device = await hub.device(idSchema.parse(request.params.id));
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
    const send = (snapshot: DeviceSnapshot): void => {
      // A reader that has fallen behind misses samples rather than filling memory.
      if (response.writableLength < 65_536) response.write(`data: ${JSON.stringify(snapshot)}\n\n`);
    };
    const unwatch = device.watch({ see: send, end: () => response.end() });
    const heartbeat = setInterval(() => response.write(": still here\n\n"), HEARTBEAT_MS);
    request.on("close", () => {
      clearInterval(heartbeat);
      unwatch();
    });
  });
}
