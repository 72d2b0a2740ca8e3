import { CHANGES_HEADER, type Changed } from "@iron/contract";
import type { Express, RequestHandler } from "express";
import { eventStream, type EventStream } from "./event-stream";

/** Bytes a reader may have fallen behind: it is then let go, comes back and looks at everything. */
const BEHIND = 65_536;
/** Readers at once: a shop’s browsers, one each; more are some program’s. */
const MOST = 500;
/** So many are remembered, for a page whose first answer is older than its stream. */
const REMEMBERED = 500;
/** Something may have been missed: everything is looked at. */
const ALL: Changed = { path: "", page: "" };

/** Tells every browser of the shop, in one stream each, that something was changed: what, not how. */
export class ChangeNews {
  private readonly readers = new Set<EventStream>();
  private readonly began = Date.now().toString(36);
  private readonly last: Changed[] = [];
  private count = 0;

  tell(changed: Changed): void {
    this.count += 1;
    this.last.push(changed);
    if (this.last.length > REMEMBERED) this.last.shift();
    for (const reader of this.readers) reader.send(changed, BEHIND);
  }

  /** Says with every answer how far the changes were before it was looked up. */
  readonly said: RequestHandler = (_, response, next) => {
    response.set(CHANGES_HEADER, `${this.began}.${this.count}`);
    next();
  };

  /** What came after what an answer said; everything, where that is of an earlier start or too long ago. */
  private since(said: string): readonly Changed[] {
    const [began, count] = said.split(".");
    const missed = began === this.began ? this.count - Number(count) : NaN;
    if (missed === 0) return [];
    return missed > 0 && missed <= this.last.length ? this.last.slice(-missed) : [ALL];
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
      const { after } = request.query;
      if (typeof after === "string") for (const changed of this.since(after)) stream.send(changed);
      this.readers.add(stream);
    });
  }

  close(): void {
    for (const reader of this.readers) reader.end();
    this.readers.clear();
  }
}
