import { networkInterfaces } from "node:os";
import supertest from "supertest";
import { peopleApp, signedIn } from "./test-people";
import { testApp, type TestApp } from "./test-app";

const machine = {
  nickname: "Wren",
  bay: "1",
  kind: "vertical-centre",
  hoursPerWeek: 40,
  note: "",
  letters: [],
};

describe("whom the server answers", () => {
  let t: TestApp;
  afterEach(() => t.close());

  /** A bare client: nothing is said that is not said here. */
  const ask = (headers: Record<string, string>) => supertest(t.app.express).get("/api/machines/99").set(headers);
  const write = (headers: Record<string, string>) =>
    supertest(t.app.express).post("/api/machines").set(headers).send(machine);
  const own = { host: "localhost", "x-working-as": "Rowan" };

  it("on the loopback: its own names, and no other whatever points here", async () => {
    t = await testApp();
    for (const host of ["localhost:8417", "127.0.0.1", "[::1]:8417"]) await ask({ host }).expect(404);
    const rebound = await ask({ host: "rebound.test:8417" }).expect(403);
    expect(rebound.body.detail).toContain("this machine only");
    expect(rebound.headers["content-type"]).toContain("problem+json");
    await ask({ host: "localhost.rebound.test" }).expect(403);
  });

  it("on the network: its addresses and the names it was told, and no other", async () => {
    t = await testApp({ host: "0.0.0.0", names: ["shop.test"] });
    // Nobody keeps it yet: that is what it says, to whom it answers at all.
    expect((await ask({ host: "shop.test:8417" }).expect(403)).body.title).toBe("Not set up");
    const address = Object.values(networkInterfaces())
      .flat()
      .find((i) => i?.family === "IPv4")?.address;
    expect((await ask({ host: `${address}:8417` }).expect(403)).body.title).toBe("Not set up");
    const other = await ask({ host: "other.test" }).expect(403);
    expect(other.body.detail).toContain("--name other.test");
  });

  it("a write comes from its own page and says who is working; everything else leaves nothing", async () => {
    t = await peopleApp({ host: "0.0.0.0", names: ["shop.test"] });
    const { api, cookie, me } = await signedIn(t, "planner");
    const at = { cookie, "x-token": me.token ?? "", "x-working-as": "Pipit", host: "shop.test:8417" };
    const pages: readonly Record<string, string>[] = [
      { origin: "http://bad.test" },
      { origin: "null" },
      { origin: "http://shop.test:9999" },
      { origin: "http://shop.test:8417.bad.test" },
      { "sec-fetch-site": "cross-site" },
    ];
    for (const foreign of pages) {
      const answer = await write({ ...at, ...foreign }).expect(403);
      expect(answer.body.detail).toContain("other sites");
    }
    // As a form of another site sends it over plain http: no Sec-Fetch-Site, no header of ours.
    const form = await write({ host: "shop.test:8417", cookie }).expect(403);
    expect(form.body.detail).toContain("X-Working-As");
    await supertest(t.app.express).post("/api/machines").set(at).type("form").send("nickname=Wren").expect(415);
    expect((await api.get("/api/floor").expect(200)).body.machines).toEqual([]);
    await write({ ...at, origin: "http://shop.test:8417" }).expect(201);
    await write(at).expect(201);
  });

  it("a name that is too long is an error that says so, not somebody", async () => {
    t = await testApp();
    const long = await write({ ...own, "x-working-as": "R".repeat(41) }).expect(422);
    expect(long.body.detail).toContain("longer than 40 letters");
    await write({ ...own, "x-working-as": "R".repeat(40) }).expect(201);
  });
});
