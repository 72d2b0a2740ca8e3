import { dayOf } from "../packages/core/src/quantity/day";
import type { Page } from "@playwright/test";
import { readFileSync } from "node:fs";
import { circleBody } from "./circle-body";
import { tableBody } from "./table-body";
import { expect, looking, ShopServer, test, AS_ROWAN } from "./shop";

const axeSource = readFileSync(require.resolve("axe-core/axe.min.js"), "utf8");

interface Axe {
  run(options?: { runOnly: string[] }): Promise<{ violations: { id: string; nodes: { html: string }[] }[] }>;
}

/** Violations axe finds, by all rules or the ones named, short enough to read in a failed test. */
async function violations(page: Page, rules?: string[]): Promise<string[]> {
  if (!(await page.evaluate(() => "axe" in window))) await page.evaluate(axeSource);
  return page.evaluate(async (only) => {
    const { axe } = window as unknown as { axe: Axe };
    const { violations: found } = await axe.run(only && { runOnly: only });
    return found.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 120)).join(" | ")}`);
  }, rules);
}

const VIEWS: [string, string, RegExp][] = [
  ["floor", "/floor", /machines want you/],
  ["floor, nothing found", "/floor?q=zebra", /found for/],
  ["new machine", "/machines/new", /Add a machine/],
  ["machine", "/machines/1", /Bittern/],
  ["shop", "/shop", /The shop/],
  ["measure", "/machines/1/axes/3/measure", /How much is lost/],
  ["measure, never measured", "/machines/3/axes/8/measure", /How much is lost/],
  ["set-up", "/machines/1/axes/3/measure/new/travel-profile", /Set up: Travel profile/],
  ["finished profile", "/machines/2/axes/4/runs/RUN", /Travel profile/],
  ["import", "/machines/1/axes/3/import", /Import readings/],
  ["history", "/machines/2/axes/4/history", /History of X/],
  ["axis data", "/machines/1/axes/3/setup", /Axis data of Z/],
  ["ask, no case", "/machines/1/axes/1/ask", /What is X doing/],
  ["listen", "/machines/1/axes/1/listen", /Listen to X/],
  ["ask", "/machines/1/axes/3/ask?CASE", /What is Z doing/],
  ["locate", "/machines/1/axes/3/locate?CASE", /Loss ledger/],
  ["a test", "/machines/1/axes/3/locate/fastener-check?CASE", /Fastener check/],
  ["cases", "/cases?CASE", /open case/],
  ["finding", "/cases/1?CASE", /Finding: Bittern Z/],
  ["causes", "/causes", /Causes, and how they show/],
  ["fix", "/machines/1/axes/3/fix", /What is to be done/],
  ["set", "/machines/1/axes/1/set", /Set by measuring/],
  ["a row of readings", "/machines/1/axes/1/series/1?JOB", /Gib setting/],
  ["prove", "/machines/1/axes/1/prove?JOB", /retests? (is|are) wanted/],
  ["jobs", "/jobs?JOB", /at work/],
  ["job", "/jobs/1?JOB", /Set the gib/],
  ["job sheet", "/jobs/1/sheet?JOB", /^Job \d+ ·/],
  ["rounds", "/rounds", /late/],
  ["half a year", "/rounds/half-year", /Half a year fits/],
  ["paper", "/rounds/paper", /Type a paper round in/],
  ["round on paper", `/rounds/sheet/${dayOf(new Date())}`, /^Round of/],
  ["labels", "/rounds/labels", /^Labels/],
  ["hour meters", "/rounds/meters", /^Hour meters/],
  ["lubricants", "/rounds/lubricants", /^Lubricants/],
  ["machines from a list", "/machines/list", /^Machines from a list/],
  ["spare parts", "/rounds/parts", /^Spare parts/],
  ["days and rules", "/rounds/keeping", /^Days and rules/],
  ["a lubrication point", "/points/5", /Y ways, central system/],
  ["usual points", "/machines/2/points", /^Usual points of/],
  ["a new point", "/points/new?machine=2", /A new lubrication point/],
  ["keep", "/machines/2/axes/4/keep", /late here/],
  ["sums", "/sums/preload?axis=3", /Bearing set under load/],
  ["circles of a machine", "/machines/1/circles?CIRCLE", /^Circles/],
  ["a circle set up", "/machines/1/circles/new", /^Take a circle/],
  ["a circle", "/circles/1?CIRCLE", /^Circle/],
  ["square and level", "/machines/4/stands", /^Square and level/],
  ["levels being taken", "/machines/4/stands/levels", /^Take levels/],
  ["a square being read", "/machines/4/stands/sweep", /^Square by a square/],
  ["what waits", "/waiting", /^What waits on this device/],
  ["compensation tables", "/machines/6/axes/15/table", /^Compensation table/],
  ["a table being made", "/machines/2/axes/4/table/new", /^Make a table/],
  ["a table", "/machines/6/axes/15/table/1?TABLE", /^Compensation table, version/],
  ["people", "/people", /^People/],
  ["the record", "/record", /^Record/],
  ["the server", "/server", /^Server/],
  ["not there", "/nowhere", /There is nothing here/],
];

/** An open case on Bittern Z, made when there is none yet. */
async function haveCase(page: Page, baseURL: string): Promise<void> {
  const there = (await (await page.request.get(`${baseURL}/api/axes/3/cases`)).json()) as unknown[];
  if (there.length) return;
  const post = (path: string, data: object) => page.request.post(`${baseURL}/api${path}`, { headers: AS_ROWAN, data });
  const file = (await (await post("/machines/1/cases", { axisIds: [3] })).json()) as { id: number };
  await post(`/cases/${file.id}/results`, {
    axisId: 3,
    test: "fastener-check",
    answers: { "retainer-turns": true },
    note: "",
    data: null,
  });
}

/** An open job and a begun row of readings on Bittern X, made when there are none yet. */
async function haveJob(page: Page, baseURL: string): Promise<number> {
  const post = (path: string, data: object) => page.request.post(`${baseURL}/api${path}`, { headers: AS_ROWAN, data });
  const there = (await (await page.request.get(`${baseURL}/api/axes/1/series`)).json()) as unknown[];
  const jobs = async (): Promise<{ id: number; title: string }[]> =>
    (await (await page.request.get(`${baseURL}/api/jobs`)).json()) as { id: number; title: string }[];
  const mine = async (): Promise<number> => (await jobs()).find((j) => j.title === "Set the gib, X")?.id ?? 0;
  if (there.length) return mine();
  const places = Array.from({ length: 11 }, (_, i) => i * 0.25);
  await post("/axes/1/series", {
    plan: { kind: "gib-curve", places, repeats: 1, spanMm: 300, depthMm: 300, friction: "load" },
  });
  for (let step = 0; step < 11; step += 1) await post("/series/1/device", { step });
  const options = {
    preload: "torque",
    align: "carriage",
    gib: "knee",
    nutService: "rebuild",
    newInsert: true,
    farEndToo: false,
  };
  await post("/machines/1/jobs", { items: [{ axisId: 1, kind: "gib" }], options, caseId: null });
  return mine();
}

/** A circle of Bittern that leans, typed, made when there is none yet. */
async function haveCircle(page: Page, baseURL: string): Promise<number> {
  const there = (await (await page.request.get(`${baseURL}/api/machines/1/circles`)).json()) as {
    sessions: { id: number }[];
  };
  if (there.sessions.length) return there.sessions[0].id;
  const post = (path: string, data: object) => page.request.post(`${baseURL}/api${path}`, { headers: AS_ROWAN, data });
  const session = (await (await post("/machines/1/circles", circleBody([380, 205], 100))).json()) as {
    id: number;
    planes: { id: number }[];
  };
  const readings = Array.from({ length: 36 }, (_, i) => ({
    deg: 10 * i,
    mm: 0.01 * Math.sin((20 * i * Math.PI) / 180),
  }));
  await post(`/circle-planes/${session.planes[0].id}/typed`, { direction: 1, readings });
  return session.id;
}

/** A table of Heron X, made when there is none yet. */
async function haveTable(page: Page, baseURL: string): Promise<number> {
  const { versions, profiles } = (await (await page.request.get(`${baseURL}/api/axes/15/corrections`)).json()) as {
    versions: { id: number }[];
    profiles: { runId: number }[];
  };
  if (versions.length) return versions[0].id;
  const data = tableBody(profiles[0].runId);
  const made = await page.request.post(`${baseURL}/api/axes/15/corrections`, { headers: AS_ROWAN, data });
  return ((await made.json()) as { id: number }).id;
}

for (const [name, path, heading] of VIEWS) {
  looking(`axe finds nothing: ${name}, day, night and phone`, async ({ page, baseURL }) => {
    const history = (await (await page.request.get(`${baseURL}/api/axes/4/history`)).json()) as {
      runs: { id: number }[];
    };
    if (path.includes("CASE")) await haveCase(page, String(baseURL));
    const job = path.includes("JOB") ? await haveJob(page, String(baseURL)) : 0;
    const table = path.includes("TABLE") ? await haveTable(page, String(baseURL)) : 0;
    const circle = path.includes("CIRCLE") ? await haveCircle(page, String(baseURL)) : 0;
    const at = path.replace("/circles/1", `/circles/${circle}`).replace("/table/1", `/table/${table}`);
    await page.goto(at.replace("/jobs/1", `/jobs/${job}`).replace("RUN", String(history.runs.at(-1)?.id)));
    await expect(page.getByRole("heading", { name: heading }).first()).toBeVisible();
    await page.waitForLoadState("networkidle");
    expect(await violations(page)).toEqual([]);
    await page.getByRole("button", { name: "Night" }).click();
    // The night changes colours and nothing else.
    expect(await violations(page, ["color-contrast"])).toEqual([]);
    await page.setViewportSize({ width: 390, height: 844 });
    expect(await violations(page)).toEqual([]);
    const overflow = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
    expect(overflow).toBeLessThanOrEqual(0);
  });
}

test("axe finds nothing in a running test, its program and the keys list", async ({ page }) => {
  await page.goto("/machines/1/axes/3/measure/new/two-sided");
  await page.getByRole("button", { name: "Begin the test" }).click();
  await expect(page.getByText("simulated machine and indicator")).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole("button", { name: "Read a dial" }).click();
  expect(await violations(page)).toEqual([]);
  await page.getByRole("button", { name: "Test program…" }).click();
  await expect(page.getByLabel("Program text")).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "All keys" }).click();
  await expect(page.getByRole("dialog")).toBeVisible();
  expect(await violations(page)).toEqual([]);
});

test("the first view on a cold cache is small and holds still as data comes in", async ({ page }) => {
  await page.addInitScript(() => {
    const shifts: number[] = [];
    (window as unknown as { shifts: number[] }).shifts = shifts;
    new PerformanceObserver((list) => {
      for (const e of list.getEntries()) shifts.push((e as unknown as { value: number }).value);
    }).observe({ type: "layout-shift", buffered: true });
  });
  await page.route("**/api/floor", async (route) => {
    // The page stands and waits before anything comes.
    await page.locator(".machines .ghost").first().waitFor();
    await route.continue();
  });
  await page.goto("/floor");
  await expect(page.getByRole("heading", { name: /machines want you/ })).toBeVisible();
  const sizes = await page.evaluate(() =>
    (performance.getEntriesByType("resource") as PerformanceResourceTiming[])
      .filter((r) => /\.(js|css)(\?|$)/.test(r.name))
      .map((r) => ({ name: r.name, bytes: r.encodedBodySize })),
  );
  const total = sizes.reduce((sum, s) => sum + s.bytes, 0);
  expect(sizes.length).toBeGreaterThan(2);
  expect(total).toBeGreaterThan(50_000);
  expect(total).toBeLessThan(350_000);
  const shifts = await page.evaluate(() => (window as unknown as { shifts: number[] }).shifts);
  expect(shifts.reduce((a, b) => a + b, 0)).toBeLessThan(0.02);
});

test("an empty shop says what to do first, and an axis without an indicator takes typed readings", async ({
  browser,
}) => {
  const shop = new ShopServer([]);
  await shop.start();
  const page = await browser.newPage({ baseURL: shop.url });
  await page.goto("/");
  await expect(page.getByText("No machine stands here yet.")).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole("link", { name: "Add a machine" }).last().click();
  await page.getByLabel("Nickname").fill("Wren");
  await page.getByLabel("Bay").fill("1");
  await page.getByRole("button", { name: "Add the machine" }).click();
  await page.getByRole("link", { name: "Measure X" }).click();
  await page.getByRole("link", { name: "Set up: Two-sided approach" }).first().click();
  await expect(page.getByText("The shop has no indicator yet.")).toBeVisible();
  await page.getByRole("link", { name: "Add one" }).click();
  await page.getByRole("button", { name: "Add an indicator" }).click();
  await page.getByRole("form", { name: "Indicator" }).getByLabel("Name").fill("Lever");
  await page.getByRole("button", { name: "Keep the indicator" }).click();
  await page.goBack();
  await page.getByRole("button", { name: "Begin the test" }).click();
  await expect(page.getByRole("button", { name: "It stands at zero" })).toBeVisible();
  await expect(page.getByText("simulated machine and indicator")).toHaveCount(0);
  await page.close();
  await shop.close();
});
