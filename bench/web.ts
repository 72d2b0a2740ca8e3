import { chromium, type Browser, type BrowserContext, type Page } from "@playwright/test";
import { existsSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { median } from "simple-statistics";
import { liveCircle } from "./circle-live";
import { fill } from "./server";
import { Served } from "./served";

const TIMES = 7;
const FLOOR_MOST_KB = 400;
const PLACE_MOST_KB = 150;
const ROWS_AFTER_ANSWER_MS = 300;
/** The same rows, made by nobody: what the page would be without an application. */
const STATIC = "dist/web/browser/bench-floor.html";
const HEADLESS = "/usr/bin/chromium-headless-shell";

/** Places beyond the floor, each gone to in a browser that has seen the floor alone. */
const PLACES = [
  "/shop",
  "/machines/1",
  "/machines/1/axes/1/ask",
  "/machines/1/axes/1/measure",
  "/machines/1/axes/1/history",
  "/machines/1/axes/1/setup",
  "/machines/1/axes/1/fix",
  "/machines/1/axes/1/keep",
  "/rounds",
  "/rounds/half-year",
  "/rounds/lubricants",
  "/rounds/keeping",
  "/jobs",
  "/cases",
  "/sums",
  "/causes",
];

interface Seen {
  /** First contentful paint, ms from the start of the navigation. */
  readonly paint: number;
  /** Until the first row stands in the page, and until its data had come, ms. */
  readonly rows: number;
  readonly answer: number;
  /** Over all responses, kB as transferred. */
  readonly kb: number;
}

async function openPage(context: BrowserContext): Promise<{ page: Page; bytes: () => number }> {
  const page = await context.newPage();
  let bytes = 0;
  const cdp = await context.newCDPSession(page);
  await cdp.send("Network.enable");
  cdp.on("Network.loadingFinished", (e) => (bytes += e.encodedDataLength));
  await page.addInitScript(() => {
    new MutationObserver((_, watching) => {
      if (!document.querySelector(".machines .row:not(.ghost) .nickname")) return;
      watching.disconnect();
      performance.mark("rows");
    }).observe(document, { childList: true, subtree: true });
  });
  return { page, bytes: () => bytes };
}

/** One cold start: a browser profile that has seen nothing. */
async function cold(browser: Browser, url: string): Promise<Seen> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const { page, bytes } = await openPage(context);
  await page.goto(url);
  await page.waitForLoadState("networkidle");
  const seen = await page.evaluate(() => {
    const at = (name: string): number => performance.getEntriesByName(name).at(0)?.startTime ?? NaN;
    const floor = performance.getEntriesByType("resource").find((r) => r.name.endsWith("/api/floor"));
    return {
      paint: at("first-contentful-paint"),
      rows: at("rows"),
      answer: (floor as PerformanceResourceTiming | undefined)?.responseEnd ?? 0,
    };
  });
  await context.close();
  return { ...seen, kb: bytes() / 1000 };
}

async function manyCold(browser: Browser, url: string): Promise<Seen> {
  const all: Seen[] = [];
  for (let i = 0; i < TIMES; i += 1) all.push(await cold(browser, url));
  const middle = (of: (s: Seen) => number): number => median(all.map(of));
  return {
    paint: middle((s) => s.paint),
    rows: middle((s) => s.rows),
    answer: middle((s) => s.answer),
    kb: middle((s) => s.kb),
  };
}

/** What a place costs besides, in a browser that has seen the floor. */
async function beyondFloor(browser: Browser, url: string, place: string): Promise<number> {
  const context = await browser.newContext();
  const first = await openPage(context);
  await first.page.goto(`${url}/floor`);
  await first.page.waitForLoadState("networkidle");
  await first.page.close();
  const { page, bytes } = await openPage(context);
  await page.goto(url + place);
  await page.waitForLoadState("networkidle");
  await context.close();
  return bytes() / 1000;
}

/** The floor as it stands in the page, with its styles and fonts, and nothing that runs. */
async function staticFloor(browser: Browser, url: string): Promise<string> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/floor`);
  await page.waitForLoadState("networkidle");
  await page.waitForFunction(() => document.querySelectorAll(".machines .row").length >= 200);
  const html = await page.evaluate(() => {
    const rules = Array.from(document.styleSheets)
      .flatMap((s) => Array.from(s.cssRules, (r) => r.cssText))
      .join("\n");
    return `<!doctype html><meta charset="utf-8"><title>Floor</title><style>${rules}</style><body>${document.body.innerHTML.replace(/<script[\s\S]*?<\/script>/g, "")}`;
  });
  await page.close();
  return html;
}

/** `npm run bench -- web`: cold starts of the floor of 200 machines against a static page of the same rows. */
export async function benchWeb(): Promise<boolean> {
  const folder = mkdtempSync(join(tmpdir(), "iron-bench-"));
  await fill(folder);
  const executablePath = existsSync(HEADLESS) ? HEADLESS : "/usr/bin/chromium";
  const browser = await chromium.launch({ executablePath, args: ["--no-sandbox", "--disable-gpu"] });
  let served = await Served.start(folder);
  try {
    writeFileSync(STATIC, await staticFloor(browser, served.url));
    await served.end();
    served = await Served.start(folder);
    const ours = await manyCold(browser, `${served.url}/floor`);
    const bare = await manyCold(browser, `${served.url}/bench-floor.html`);
    const ms = (value: number): string => `${value.toFixed(0)} ms`;
    console.log(
      `Floor of 200 machines × 3 axes, cold, the middle of ${TIMES}, against a static page of the same rows:`,
    );
    console.log(
      `  first paint ${ms(ours.paint)}, static ${ms(bare.paint)}, ratio ${(ours.paint / bare.paint).toFixed(2)}`,
    );
    console.log(`  to its rows ${ms(ours.rows)}, static ${ms(bare.rows)}, ratio ${(ours.rows / bare.rows).toFixed(2)}`);
    const after = ours.rows - ours.answer;
    console.log(`  rows ${ms(after)} after the answer (at most ${ROWS_AFTER_ANSWER_MS} on an idle machine)`);
    console.log(`  transferred ${ours.kb.toFixed(0)} kB, static ${bare.kb.toFixed(0)} kB (at most ${FLOOR_MOST_KB})`);
    let good = ours.kb <= FLOOR_MOST_KB;
    for (const place of PLACES) {
      const kb = await beyondFloor(browser, served.url, place);
      good &&= kb <= PLACE_MOST_KB;
      console.log(`  ${place}: ${kb.toFixed(0)} kB more${kb <= PLACE_MOST_KB ? "" : `, over ${PLACE_MOST_KB}`}`);
    }
    return (await liveCircle(browser, served.url)) && good;
  } finally {
    rmSync(STATIC, { force: true });
    await served.end();
    await browser.close();
    rmSync(folder, { recursive: true });
  }
}
