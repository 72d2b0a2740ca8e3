import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { newAxis, testApp, type TestApp } from "./test-app";

describe("requests that are odd", () => {
  let t: TestApp;
  const web = mkdtempSync(join(tmpdir(), "iron-web-"));
  beforeAll(async () => {
    writeFileSync(join(web, "index.html"), "<p>__NONCE__</p>");
    writeFileSync(join(web, "app.txt"), "0123456789");
    t = await testApp({ webFolder: web });
  });
  afterAll(async () => {
    await t.close();
    rmSync(web, { recursive: true });
  });

  const refused = (
    answer: {
      status: number;
      headers: Record<string, string>;
      body: { detail?: string; title?: string };
    },
    status: number,
  ): void => {
    expect([answer.status, answer.headers["content-type"]]).toEqual([
      status,
      expect.stringContaining("application/problem+json"),
    ]);
    expect(answer.body.detail).toMatch(/\w{3}/);
  };

  it.each([
    ["an unknown character set", { "content-type": "application/json; charset=klingon" }, 415],
    ["an unknown content encoding", { "content-type": "application/json", "content-encoding": "snail" }, 415],
    [
      "a body that is not what its encoding says",
      { "content-type": "application/json", "content-encoding": "gzip" },
      400,
    ],
  ] as const)("%s is refused in words", async (_, headers, status) => {
    refused(await t.api.post("/api/machines").set(headers).send('{"a":1}'), status);
  });

  it("a range that a file has not, and a file that is not the one asked for", async () => {
    refused(await t.api.get("/app.txt").set("range", "bytes=99-"), 416);
    refused(await t.api.get("/app.txt").set("if-match", '"another"'), 412);
    await t.api.get("/app.txt").set("range", "bytes=2-4").expect(206, "234");
  });

  it("HEAD on a stream answers, and ends", async () => {
    const axis = await newAxis(t);
    const answer = await t.api.head(`/api/axes/${axis.id}/device/stream`).timeout(5000).expect(200);
    expect(answer.headers["content-type"]).toContain("text/event-stream");
  });

  it("a position typed without its decimal point is named with its bound", async () => {
    const axis = await newAxis(t);
    const samples = Array.from({ length: 40 }, (_, i) => ({
      positionMm: i === 7 ? 56_000 : i,
      direction: i < 20 ? "+" : "-",
      load: 10,
    }));
    const answer = await t.api.post(`/api/axes/${axis.id}/load-trace`).send({ samples });
    refused(answer, 422);
    expect(answer.body.detail).toMatch(/56000 mm of sample 8.*travel is \d+ mm/);
    expect(answer.body.errors[0].path).toBe("samples.7.positionMm");
  });
});
