import type { Request, Response } from "express";
import { EventEmitter } from "node:events";
import { eventStream } from "./event-stream";

describe("a stream of events", () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  const open = (stillIn?: () => Promise<boolean>) => {
    const request = Object.assign(new EventEmitter(), { method: "GET", ...(stillIn ? { stillIn } : {}) });
    const response = {
      ...{ writeHead: jest.fn(), write: jest.fn(), writableLength: 0, writableEnded: false },
      ...{ end: jest.fn(), destroy: jest.fn() },
    };
    response.end.mockImplementation(() => void (response.writableEnded = true));
    const closed = jest.fn();
    const stream = eventStream(request as unknown as Request, response as unknown as Response, closed);
    return { request, response, closed, stream };
  };

  it("ends within a quarter of a minute of the session it was opened in; one without a session goes on", async () => {
    let still = true;
    const [signedIn, free] = [open(async () => still), open()];
    await jest.advanceTimersByTimeAsync(60_000);
    expect(signedIn.response.end).not.toHaveBeenCalled();
    still = false;
    await jest.advanceTimersByTimeAsync(15_000);
    expect(signedIn.response.end).toHaveBeenCalledTimes(1);
    expect(free.response.end).not.toHaveBeenCalled();
  });

  it("that was ended says nothing more, though its reader has not gone yet", async () => {
    const { response, stream } = open();
    stream?.send({ a: 1 });
    const before = response.write.mock.calls.length;
    stream?.end();
    stream?.send({ a: 2 });
    await jest.advanceTimersByTimeAsync(60_000);
    expect(response.write.mock.calls.length).toBe(before);
  });

  it("a reader who has fallen behind is let go, and comes back, instead of missing one", () => {
    const { response, stream } = open();
    response.writableLength = 99;
    stream?.send({ a: 1 }, 100);
    expect(response.destroy).not.toHaveBeenCalled();
    response.writableLength = 100;
    const before = response.write.mock.calls.length;
    stream?.send({ a: 2 }, 100);
    expect([response.write.mock.calls.length, response.destroy.mock.calls.length]).toEqual([before, 1]);
  });

  it("whose reader has gone asks nothing any more", async () => {
    const asked = jest.fn(async () => true);
    const { request, closed } = open(asked);
    request.emit("close");
    await jest.advanceTimersByTimeAsync(60_000);
    expect([asked.mock.calls.length, closed.mock.calls.length]).toEqual([0, 1]);
  });
});
