import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "@playwright/test";
import { expect, ShopServer, test } from "./shop";

/** Pages that together show machines, tests, cases, jobs, points and what is in stock. */
const PAGES = [
  "/machines/1",
  "/machines/1/axes/3/history",
  "/machines/2/axes/4/keep",
  "/cases",
  "/jobs",
  "/rounds/lubricants",
  "/rounds/parts",
  "/rounds/meters",
  "/causes",
];

async function seen(page: Page, path: string): Promise<string> {
  // These pages are quiet once everything has been answered.
  await page.goto(path, { waitUntil: "networkidle" });
  const main = page.locator("main");
  await expect(main).not.toHaveText(/^\s*$|Loading/);
  return (await main.innerText()).replace(/\s+/g, " ");
}

test("a backup of a running server, restored into a fresh folder, shows the same", async ({ page, shop, browser }) => {
  const away = mkdtempSync(join(tmpdir(), "iron-away-"));
  const file = join(away, "shop.sqlite");
  const run = (...args: readonly string[]): string =>
    execFileSync(process.execPath, ["dist/server/main.cjs", ...args], {
      encoding: "utf8",
    });
  const before = new Map<string, string>();
  for (const path of PAGES) before.set(path, await seen(page, path));
  run("backup", "--data", shop.folder, "--to", file);

  const fresh = new ShopServer(["--simulate"]);
  const preview = run("restore", file, "--data", fresh.folder);
  expect(preview).toMatch(/machines/);
  run("restore", file, "--data", fresh.folder, "--yes");
  await fresh.start();
  const other = await (await browser.newContext({ baseURL: fresh.url })).newPage();
  for (const path of PAGES) expect([path, await seen(other, path)]).toEqual([path, before.get(path)]);
  await other.context().close();
  await fresh.close();
  rmSync(away, { recursive: true });
});
