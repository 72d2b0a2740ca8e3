import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { openDatabase, type Db } from "./database";
import { UntilWritten } from "./until-written";

describe("an answer that stands until something is written", () => {
  let folder: string;
  let db: Db;
  let worked = 0;
  let answers: UntilWritten<string>;
  beforeEach(async () => {
    folder = mkdtempSync(join(tmpdir(), "iron-until-"));
    db = await openDatabase(folder);
    worked = 0;
    answers = new UntilWritten(db, () => Promise.resolve(`worked out ${(worked += 1)}`));
    jest.useFakeTimers({ doNotFake: ["setImmediate", "nextTick", "queueMicrotask"], now: 0 });
  });
  afterEach(async () => {
    jest.useRealTimers();
    await db.destroy();
    rmSync(folder, { recursive: true });
  });

  const write = (key: string) => db.insertInto("setting").values({ key, value: "1" }).execute();

  it("is worked out once, and again after a write or a minute", async () => {
    expect([await answers.get(), await answers.get()]).toEqual(["worked out 1", "worked out 1"]);
    await write("a");
    expect(await answers.get()).toBe("worked out 2");
    jest.setSystemTime(60_000);
    expect(await answers.get()).toBe("worked out 3");
  });

  it("is taken from whoever worked it out meanwhile, with what that wrote itself", async () => {
    const since = await answers.stamp();
    await write("a");
    await answers.hand(since, { wrote: 1, answer: "handed" });
    expect(await answers.get()).toBe("handed");
    await write("b");
    expect(await answers.get()).toBe("worked out 1");
  });

  it("is not taken where somebody else has written meanwhile, or the minute is over", async () => {
    const since = await answers.stamp();
    await write("a");
    await write("of somebody else");
    await answers.hand(since, { wrote: 1, answer: "stale" });
    expect(await answers.get()).toBe("worked out 1");
    const then = await answers.stamp();
    jest.setSystemTime(60_000);
    await answers.hand(then, { wrote: 0, answer: "of the minute before" });
    expect(await answers.get()).toBe("worked out 2");
  });
});
