import express from "express";
import { pino } from "pino";
import request from "supertest";
import { errorHandler } from "../http/errors";
import { signInLimit } from "./sign-in-limit";

/** A server that only counts who got through to the door; refusals wait until they are let go. */
function atTheDoor() {
  let through = 0;
  let held = 0;
  let letGo = (): void => undefined;
  const gone = new Promise<void>((done) => (letGo = done));
  const app = express();
  app.set("trust proxy", 1);
  app.use(
    signInLimit(() => {
      held += 1;
      return gone;
    }),
  );
  app.use((_, response) => {
    through += 1;
    response.sendStatus(204);
  });
  app.use(errorHandler(pino({ level: "silent" })));
  const server = app.listen(0, "127.0.0.1");
  const tried = (from: string, path = "/api/sign-in"): Promise<number> =>
    request(server)
      .post(path)
      .set("X-Forwarded-For", from)
      .then((answer) => answer.status);
  const many = (count: number, from: string): Promise<number[]> =>
    Promise.all(Array.from({ length: count }, () => tried(from)));
  const heldIs = async (count: number): Promise<void> => {
    while (held < count) await new Promise((done) => setTimeout(done, 5));
  };
  return { server, tried, many, heldIs, letGo, through: () => through, held: () => held };
}

describe("more tries than people make", () => {
  let door: ReturnType<typeof atTheDoor>;
  beforeEach(() => {
    door = atTheDoor();
  });
  afterEach(() => new Promise((done) => door.server.close(done)));

  it("forty a minute come through from one address; the next is refused, and not at once", async () => {
    expect(new Set(await door.many(40, "10.0.0.7"))).toEqual(new Set([204]));
    let answered = false;
    const next = door.tried("10.0.0.7").finally(() => (answered = true));
    await door.heldIs(1);
    // Nobody else waits with it: not another tablet at the door, nor this one at its work.
    expect(await door.tried("10.0.0.8")).toBe(204);
    expect(await door.tried("10.0.0.7", "/api/axes/1/events")).toBe(204);
    expect(answered).toBe(false);
    door.letGo();
    expect(await next).toBe(429);
    expect(door.through()).toBe(42);
  });

  it("the doors are one: tries at the PIN, at a sign-off and at the first set-up count together", async () => {
    await door.many(38, "10.0.0.7");
    expect(await door.tried("10.0.0.7", "/api/me/again")).toBe(204);
    expect(await door.tried("10.0.0.7", "/api/set-up")).toBe(204);
    door.letGo();
    expect(await door.tried("10.0.0.7")).toBe(429);
  });

  it("a hundred are held, no more: the others are refused at once", async () => {
    await door.many(40, "10.0.0.7");
    const kept = door.many(100, "10.0.0.7");
    await door.heldIs(100);
    expect(await door.tried("10.0.0.7")).toBe(429);
    expect(door.held()).toBe(100);
    door.letGo();
    expect(new Set(await kept)).toEqual(new Set([429]));
  });
});
