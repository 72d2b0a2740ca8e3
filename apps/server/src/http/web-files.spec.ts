import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { brotliCompressSync, gzipSync } from "node:zlib";
import { testApp, type TestApp } from "../testing/test-app";

describe("the files of the web app", () => {
  let t: TestApp;
  const web = mkdtempSync(join(tmpdir(), "iron-web-"));
  const script = `"${"turn the screw by hand ".repeat(200)}";`;
  beforeAll(async () => {
    writeFileSync(join(web, "index.html"), '<script nonce="__NONCE__"></script>');
    writeFileSync(join(web, "main-ABCD1234.js"), script);
    writeFileSync(join(web, "main-ABCD1234.js.br"), brotliCompressSync(script));
    writeFileSync(join(web, "main-ABCD1234.js.gz"), gzipSync(script));
    writeFileSync(join(web, "plain.js"), script);
    t = await testApp({ webFolder: web });
  });
  afterAll(async () => {
    await t.close();
    rmSync(web, { recursive: true });
  });

  // RFC 9110, 8.4 and 12.5.3: a coding only where it is accepted, and what the body is told by its own type.
  it.each([
    ["gzip", "gzip", gzipSync(script).length],
    ["identity", undefined, script.length],
    ["gzip;q=0", undefined, script.length],
  ])("are sent as the browser takes them: %s", async (accepted, coding, bytes) => {
    const answer = await t.api.get("/main-ABCD1234.js").set("accept-encoding", accepted).expect(200);
    expect(answer.text).toBe(script);
    expect(answer.headers["content-encoding"]).toBe(coding);
    expect(Number(answer.headers["content-length"])).toBe(bytes);
    expect(answer.headers["content-type"]).toMatch(/^text\/javascript/);
    expect(answer.headers["vary"]).toMatch(/accept-encoding/i);
  });

  it("go as the tightest copy to a browser that takes it, whatever order it names them in", async () => {
    const answer = await t.api
      .get("/main-ABCD1234.js")
      .set("accept-encoding", "gzip, deflate, br")
      .buffer(true)
      .parse((response, done) => {
        let bytes = 0;
        response.on("data", (part: Buffer) => (bytes += part.length));
        response.on("end", () => done(null, bytes));
      });
    expect(answer.headers["content-encoding"]).toBe("br");
    expect(answer.headers["cache-control"]).toBe("public, max-age=31536000, immutable");
  });

  it("without a copy beside them are packed on the way; unhashed ones are asked for anew", async () => {
    const answer = await t.api.get("/plain.js").set("accept-encoding", "gzip").expect(200);
    expect(answer.text).toBe(script);
    expect([answer.headers["content-encoding"], answer.headers["cache-control"]]).toEqual(["gzip", "no-cache"]);
  });

  it("the page has the nonce its policy names, and is never kept", async () => {
    const answer = await t.api.get("/machines/1").expect(200);
    const nonce = /nonce="([^"]+)"/.exec(answer.text)?.[1] ?? "none";
    expect(answer.headers["content-security-policy"]).toContain(`'nonce-${nonce}'`);
    expect(answer.headers["cache-control"]).toBe("no-store");
  });

  it("kept for when no server answers it is page and policy of one answer; a nonce is never used twice", async () => {
    const [one, other] = [
      await t.api.get("/shell-0123456789ab.html").expect(200),
      await t.api.get("/shell-0123456789ab.html").expect(200),
    ];
    const nonces = [one, other].map((answer) => /nonce="([^"]+)"/.exec(answer.text)?.[1] ?? "none");
    expect(one.headers["content-security-policy"]).toContain(`'nonce-${nonces[0]}'`);
    expect(nonces[0]).not.toBe(nonces[1]);
    await t.api.get("/shell-of-something.html").expect(404);
  });

  it.each(["/%E0%A4%A", "/..%2f..%2fpackage.json"])(
    "an address that is none, %s, is refused in words",
    async (path) => {
      const answer = await t.api.get(path);
      expect(answer.status).toBeGreaterThanOrEqual(400);
      expect(answer.headers["content-type"]).toContain("application/problem+json");
      expect(answer.text).not.toMatch(/iron-web|node_modules/);
    },
  );
});
