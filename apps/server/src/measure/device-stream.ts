import { idSchema, type DeviceSnapshot } from "@iron/contract";
import type { Express } from "express";
import type { DeviceHub } from "../devices/device-hub";
import { eventStream } from "../http/event-stream";

/** Samples that a reader has not taken yet, bytes: it misses the next. */
const BEHIND = 65_536;

/** Server-sent events: a snapshot of the axis’ device at each of its ticks. Reconnecting just works. */
export function mountDeviceStream(app: Express, hub: DeviceHub): void {
  app.get("/api/axes/:id/device/stream", async (request, response) => {
    const device = await hub.device(idSchema.parse(request.params.id));
    let unwatch = (): void => undefined;
    const stream = eventStream(request, response, () => unwatch());
    if (!stream) return;
    const see = (snapshot: DeviceSnapshot): void => stream.send(snapshot, BEHIND);
    unwatch = device.watch({ see, end: () => stream.end() });
  });
}
