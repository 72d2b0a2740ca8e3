import type { Request, Response } from "express";

const HEARTBEAT_MS = 15_000;

/** Server-sent events: a reconnecting reader just goes on. */
export interface EventStream {
  /** Sends one; where the reader has fallen so many bytes behind, it misses it rather than filling memory. */
  send(event: unknown, behind?: number): void;
  end(): void;
}

/** Opens a stream for one reader; `closed` is called when it has gone. Null where only its head was asked for. */
export function eventStream(request: Request, response: Response, closed: () => void): EventStream | null {
  response.writeHead(200, {
    "Content-Type": "text/event-stream",
    "Cache-Control": "no-store, no-transform",
    Connection: "keep-alive",
    "X-Accel-Buffering": "no",
  });
  if (request.method === "HEAD") {
    response.end();
    return null;
  }
  response.write("retry: 1000\n\n");
  const heartbeat = setInterval(() => {
    response.write(": still here\n\n");
    // Who was signed out meanwhile sees no more.
    void request.stillIn?.().then((still) => {
      if (!still) response.end();
    });
  }, HEARTBEAT_MS);
  request.on("close", () => {
    clearInterval(heartbeat);
    closed();
  });
  return {
    send: (event, behind = Infinity) => {
      if (response.writableLength < behind) response.write(`data: ${JSON.stringify(event)}\n\n`);
    },
    end: () => response.end(),
  };
}
