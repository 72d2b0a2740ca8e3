import { X509Certificate } from "node:crypto";
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { createServer } from "node:https";
import { get } from "node:https";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fingerprintOf, madeCertificate, namesHere, ownCertificate } from "./certificate";

const NOW = new Date();
const DAY_MS = 86_400_000;

describe("the certificate that is made for the shop", () => {
  let data = "";
  beforeEach(() => {
    data = mkdtempSync(join(tmpdir(), "iron-tls-"));
  });
  afterEach(() => rmSync(data, { recursive: true }));

  /** What OpenSSL, by way of Node’s TLS, says of a server by one of its names, where only the authority is trusted. */
  const asked = (port: number, servername: string, ca: string): Promise<string> =>
    new Promise((done) => {
      const checked = servername === "" ? { host: "127.0.0.1" } : { host: "127.0.0.1", servername };
      get({ ...checked, port, ca, agent: false, headers: { host: servername || "127.0.0.1" } }, (answer) => {
        answer.resume();
        done(String(answer.statusCode));
      }).on("error", (error: NodeJS.ErrnoException) => done(error.code ?? error.message));
    });

  it("is taken by who trusts the shop’s authority, for its names and addresses, and by nobody else", async () => {
    const made = await madeCertificate(data, ["shop.test"], NOW);
    const server = createServer({ key: made.key, cert: made.cert, minVersion: "TLSv1.2" }, (_, answer) =>
      answer.end("ok"),
    );
    await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
    const { port } = server.address() as AddressInfo;
    for (const name of ["localhost", "shop.test", ""])
      expect(await asked(port, name, made.authority ?? "")).toBe("200");
    expect(await asked(port, "other.test", made.authority ?? "")).toBe("ERR_TLS_CERT_ALTNAME_INVALID");
    const stranger = await madeCertificate(mkdtempSync(join(data, "other-")), [], NOW);
    expect(await asked(port, "localhost", stranger.authority ?? "")).toMatch(/UNABLE_TO_VERIFY|SIGNATURE|ISSUER/);
    await new Promise((done) => server.close(done));
  });

  it("keeps its keys to its owner, and its fingerprint is the one that others reckon", async () => {
    const { authority } = await madeCertificate(data, [], NOW);
    const files = readdirSync(join(data, "tls"));
    expect(files.sort()).toEqual(["authority.crt", "authority.key", "server.crt", "server.key"]);
    for (const file of files) expect(statSync(join(data, "tls", file)).mode & 0o077).toBe(0);
    const says = new X509Certificate(authority ?? "").fingerprint256;
    expect(fingerprintOf(authority ?? "")).toBe(says.replaceAll(":", " "));
  });

  it("stays from start to start; another name or its end makes a new one, under the same authority", async () => {
    const first = await madeCertificate(data, [], NOW);
    expect(await madeCertificate(data, [], NOW)).toEqual(first);
    const named = await madeCertificate(data, ["shop.test"], NOW);
    expect(named.authority).toBe(first.authority);
    expect(new X509Certificate(named.cert).checkHost("shop.test")).toBe("shop.test");
    expect(new X509Certificate(first.cert).checkHost("shop.test")).toBeUndefined();
    const later = await madeCertificate(data, ["shop.test"], new Date(NOW.getTime() + 775 * DAY_MS));
    expect(later.authority).toBe(first.authority);
    expect(later.cert).not.toBe(named.cert);
    // Some tablets take no longer than this of an authority that was added by hand (825 days, from memory).
    const { validFrom, validTo } = new X509Certificate(named.cert);
    expect((Date.parse(validTo) - Date.parse(validFrom)) / DAY_MS).toBeLessThanOrEqual(825);
    expect(new X509Certificate(named.cert).ca).toBe(false);
  });

  it("holds every address and the name of this machine", async () => {
    const { cert } = await madeCertificate(data, [], NOW);
    const certificate = new X509Certificate(cert);
    for (const name of namesHere([]))
      expect([name, certificate.checkHost(name) ?? certificate.checkIP(name)]).toEqual([name, expect.any(String)]);
  });

  it("one that was brought along is read, or refused by its file", () => {
    writeFileSync(join(data, "c.pem"), "a certificate");
    expect(() => ownCertificate(join(data, "c.pem"), join(data, "k.pem"))).toThrow(/The key .*k\.pem cannot be read\./);
    writeFileSync(join(data, "k.pem"), "a key");
    expect(ownCertificate(join(data, "c.pem"), join(data, "k.pem"))).toEqual({
      ...{ cert: "a certificate", key: "a key", authority: null },
    });
    expect(readFileSync(join(data, "k.pem"), "utf8")).toBe("a key");
  });
});
