import { chromium } from "@playwright/test";
import { spawnSync } from "node:child_process";
import { createHash, X509Certificate } from "node:crypto";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setUp } from "./people";
import { foundAs } from "./round-walk";
import { expect, noiseOf, ShopServer, test as base } from "./shop";
import { keepsThree, laidBy } from "./tablet";

/** Two networks of the test’s own with a line between them: the machine’s own network never sees it come or go. */
const [SHOP, TABLET] = [`iron-s${process.pid}`, `iron-t${process.pid}`];
const [SHOPS, TABLETS] = ["10.213.77.2", "10.213.77.1"];

const ip = (...args: readonly string[]): boolean => spawnSync("ip", args, { stdio: "ignore" }).status === 0;

function joined(): boolean {
  return (
    process.getuid?.() === 0 &&
    ip("netns", "add", SHOP) &&
    ip("netns", "add", TABLET) &&
    ip("-n", SHOP, "link", "add", "wire", "type", "veth", "peer", "name", "wire", "netns", TABLET) &&
    ip("-n", SHOP, "addr", "add", `${SHOPS}/30`, "dev", "wire") &&
    ip("-n", TABLET, "addr", "add", `${TABLETS}/30`, "dev", "wire") &&
    // No address that comes by itself a second later: a browser takes that for a change of network.
    [SHOP, TABLET].every((n) => ip("-n", n, "link", "set", "wire", "addrgenmode", "none")) &&
    [SHOP, TABLET].every((n) => ip("-n", n, "link", "set", "wire", "up") && ip("-n", n, "link", "set", "lo", "up"))
  );
}

/** What makes a browser trust the certificate that was made for a shop, as a tablet that was told to once. */
function trust(shop: ShopServer): string {
  const { publicKey } = new X509Certificate(readFileSync(join(shop.folder, "tls", "server.crt")));
  const key = publicKey.export({ type: "spki", format: "der" });
  return `--ignore-certificate-errors-spki-list=${createHash("sha256").update(key).digest("base64")}`;
}

const test = base.extend({
  // eslint-disable-next-line no-empty-pattern
  shop: async ({}, use, testInfo) => {
    const made = joined();
    try {
      testInfo.skip(!made, "It takes root and network namespaces.");
      const by = ["ip", "netns", "exec", SHOP];
      const shop = new ShopServer(["--demo", "--host", SHOPS, "--made-certificate"], undefined, by);
      await shop.start();
      await use(shop);
      await shop.close();
    } finally {
      ip("netns", "del", SHOP);
      ip("netns", "del", TABLET);
    }
  },
  // A browser in the tablet’s network.
  page: async ({ shop, launchOptions, viewport, expectedNoise }, use) => {
    const folder = mkdtempSync(join(tmpdir(), "iron-tablet-"));
    const executablePath = join(folder, "browser");
    const start = `#!/bin/sh\nexec ip netns exec ${TABLET} ${launchOptions.executablePath} "$@"\n`;
    writeFileSync(executablePath, start, { mode: 0o755 });
    const args = [...(launchOptions.args ?? []), trust(shop)];
    const browser = await chromium.launch({ ...launchOptions, executablePath, args });
    const context = await browser.newContext({ baseURL: shop.at(SHOPS), viewport, locale: "en-GB" });
    const own = await context.newPage();
    const noise = noiseOf(own);
    await use(own);
    expect(noise.filter((n) => !expectedNoise.some((e) => e.test(n)))).toEqual([]);
    await browser.close();
    rmSync(folder, { recursive: true });
  },
});

test.use({ viewport: { width: 820, height: 1180 } });

test("a tablet that trusts the shop’s certificate: three things are kept, and it opens when the server is gone", async ({
  page,
  shop,
  expectedNoise,
}) => {
  await setUp(page, shop);
  await keepsThree(page);
  await expect.poll(() => laidBy(page, ["/api/rounds"])).toBe(true);
  expectedNoise.push(/ERR_CONNECTION_REFUSED/, /status of 50\d/, /net::ERR_/);
  await shop.stop("SIGKILL");
  await page.goto("/rounds");
  await expect(page.locator("article.stop h2")).toBeVisible();
  await foundAs(page);
  await expect(page.getByRole("banner").getByRole("status")).toHaveText("No connection, 1 waits");
  await shop.start();
  await expect(page.getByRole("banner").getByRole("status")).toHaveCount(0);
});
