import type { Express, RequestHandler } from "express";
import { eventStream, type EventStream } from "./event-stream";
import { CHANGES_EVENT, CHANGES_HEADER, type Changed } from "@iron/contract";

/** Bytes a reader may have fallen behind: it then misses one, and is told to look at everything. */
const BEHIND = 65_536;
/** Readers at once: a shop’s browsers, one each; more are some program’s. */
const MOST = 500;

/** Tells every browser of the shop, in one stream each, that something was changed: what, not how. */
export class ChangeNews {
  private readonly readers = new Set<EventStream>();
  private readonly began = Date.now().toString(36);
  private count = 0;

  /** Another after each change, and after each start of the server. */
  private get now(): string {
    return `${this.began}.${this.count}`;
  }

  tell(changed: Changed): void {
    this.count += 1;
    for (const reader of this.readers) reader.send(changed, BEHIND);
  }

  /** As it was before an answer was looked up: by it a page knows whether it missed one before its stream was open. */
  readonly said: RequestHandler = (_, response, next) => {
    response.set(CHANGES_HEADER, this.now);
    next();
  };

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
      stream.say(CHANGES_EVENT, this.now);
      this.readers.add(stream);
    });
  }

  close(): void {
    for (const reader of this.readers) reader.end();
    this.readers.clear();
  }
}
