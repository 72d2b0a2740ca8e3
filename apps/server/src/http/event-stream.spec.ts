import type { Request, Response } from "express";
import { EventEmitter } from "node:events";
import { eventStream } from "./event-stream";

describe("a stream of events", () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  const open = (stillIn?: () => Promise<boolean>) => {
    const request = Object.assign(new EventEmitter(), { method: "GET", ...(stillIn ? { stillIn } : {}) });
    const response = { writeHead: jest.fn(), write: jest.fn(), end: jest.fn(), writableLength: 0 };
    const closed = jest.fn();
    eventStream(request as unknown as Request, response as unknown as Response, closed);
    return { request, response, closed };
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

  it("whose reader has gone asks nothing any more", async () => {
    const asked = jest.fn(async () => true);
    const { request, closed } = open(asked);
    request.emit("close");
    await jest.advanceTimersByTimeAsync(60_000);
    expect([asked.mock.calls.length, closed.mock.calls.length]).toEqual([0, 1]);
  });
});
