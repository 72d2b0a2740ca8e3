import type { Express } from "express";
import { eventStream, type EventStream } from "./event-stream";
import type { Changed } from "@iron/contract";

/** Bytes a reader may have fallen behind: it then misses one, and is told to look at everything. */
const BEHIND = 65_536;
/** Readers at once: a shop’s browsers, one each; more are some program’s. */
const MOST = 500;

/** Tells every browser of the shop, in one stream each, that something was changed: what, not how. */
export class ChangeNews {
  private readonly readers = new Set<EventStream>();

  tell(changed: Changed): void {
    for (const reader of this.readers) reader.send(changed, BEHIND);
  }

  mount(app: Express): void {
    app.get("/api/changes", (request, response) => {
      if (this.readers.size >= MOST) {
        response.status(503).set("Retry-After", "30").end();
        return;
      }
      const stream = eventStream(request, response, () => {
        if (stream) this.readers.delete(stream);
      });
      if (!stream) return;
      this.readers.add(stream);
    });
  }

  close(): void {
    for (const reader of this.readers) reader.end();
    this.readers.clear();
  }
}
