import type { Request, Response } from "express";

const HEARTBEAT_MS = 15_000;

/** Server-sent events: a reconnecting reader just goes on. */
export interface EventStream {
  /** Sends one; a reader who has fallen so many bytes behind is let go rather than filling memory. */
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
  // Who was signed out meanwhile sees no more.
  const look = (): void =>
    void request.stillIn?.().then((still) => {
      if (!still) response.end();
    });
  const heartbeat = setInterval(() => {
    if (response.writableEnded) return;
    response.write(": still here\n\n");
    look();
  }, HEARTBEAT_MS);
  const callOff = request.doorMoves?.(look);
  request.on("close", () => {
    clearInterval(heartbeat);
    callOff?.();
    closed();
  });
  return {
    send: (event, behind = Infinity) => {
      // One that was ended has not always gone yet.
      if (response.writableEnded) return;
      if (response.writableLength < behind) response.write(`data: ${JSON.stringify(event)}\n\n`);
      else response.destroy();
    },
    end: () => response.end(),
  };
}
