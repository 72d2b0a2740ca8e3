import { chromium } from "@playwright/test";
import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setUp } from "./people";
import { expect, noiseOf, ShopServer, test as base } from "./shop";
import { keepsThree } from "./tablet";

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
  page: async ({ shop, launchOptions, viewport }, use) => {
    const folder = mkdtempSync(join(tmpdir(), "iron-tablet-"));
    const executablePath = join(folder, "browser");
    const start = `#!/bin/sh\nexec ip netns exec ${TABLET} ${launchOptions.executablePath} "$@"\n`;
    writeFileSync(executablePath, start, { mode: 0o755 });
    const browser = await chromium.launch({ ...launchOptions, executablePath });
    const context = await browser.newContext({
      baseURL: shop.at(SHOPS),
      viewport,
      locale: "en-GB",
      ignoreHTTPSErrors: true,
    });
    const own = await context.newPage();
    const noise = noiseOf(own);
    await use(own);
    // A certificate that is clicked away is not trusted: then the page is not kept for when no server answers.
    expect(noise.filter((n) => !/SSL certificate error/.test(n))).toEqual([]);
    await browser.close();
    rmSync(folder, { recursive: true });
  },
});

test.use({ viewport: { width: 820, height: 1180 } });

test("a tablet at the address of a network of its own: a visit, a signature and a reading are kept", async ({
  page,
  shop,
}) => {
  await setUp(page, shop);
  await keepsThree(page);
});
