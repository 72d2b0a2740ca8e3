import { defineConfig } from "@playwright/test";
import { existsSync } from "node:fs";

/** The shop’s clock, for server and browser: seldom that of Greenwich. */
process.env["TZ"] ??= "America/St_Johns";

/** Debian’s headless build where it is installed, which starts and draws sooner; else the whole browser. */
const HEADLESS = "/usr/bin/chromium-headless-shell";

/** The real app in Debian’s Chromium; each worker has a server, a database and a port of its own. */
export default defineConfig({
  testDir: "e2e",
  globalSetup: "./e2e/template.ts",
  workers: 2,
  retries: 0,
  timeout: 180_000,
  // Long enough for a machine that is starved of processor time now and then.
  expect: { timeout: 30_000 },
  reporter: [["list"], ["json"]],
  use: {
    viewport: { width: 1280, height: 800 },
    locale: "en-GB",
    timezoneId: process.env["TZ"],
    contextOptions: { reducedMotion: "reduce" },
    launchOptions: {
      executablePath: existsSync(HEADLESS) ? HEADLESS : "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
});
