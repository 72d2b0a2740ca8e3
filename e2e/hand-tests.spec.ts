import type { Page } from "@playwright/test";
import { choose, expect, openProgram, test, AS_ROWAN, beginCase } from "./shop";

async function openCase(page: Page, axis: string): Promise<void> {
  await page.goto(`${axis}/ask`);
  await beginCase(page);
  await expect(page.getByText(/Case 1, opened/)).toBeVisible();
}

test("the coast test is told flick by flick with single keys, left, gone on with by another, and kept with its readings", async ({
  page,
}) => {
  const axis = "/machines/1/axes/2";
  await openCase(page, axis);
  await page.goto(`${axis}/locate/coast`);
  await page.getByRole("button", { name: "Take the readings one by one" }).click();
  await expect(page.getByRole("heading", { name: "Coast test" })).toBeVisible();
  await expect(page.getByText("Isolate, lock out, prove dead.")).toBeVisible();
  const readings = page.getByRole("region", { name: "Readings so far" });
  for (let i = 1; i <= 3; i += 1) {
    await page.keyboard.press("c");
    await expect(readings.getByText("runs on by itself")).toHaveCount(i);
  }
  await page.keyboard.press("Backspace");
  await expect(readings.getByText("runs on by itself")).toHaveCount(2);
  await page.reload();
  await choose(page.getByLabel("Who is working"), "Rowan");
  await expect(readings.getByText("runs on by itself")).toHaveCount(2);
  for (let i = 3; i <= 6; i += 1) {
    await page.keyboard.press("c");
    await expect(readings.getByText("runs on by itself")).toHaveCount(i);
  }
  await expect(page.getByText("Runs on by itself: preload is gone or the nut is loose.")).toBeVisible();
  await page.getByRole("button", { name: "Keep it in case 1" }).click();
  await expect(page.getByText(/Coast test: Screw end free-wheels when flicked/)).toBeVisible();
  await page.getByRole("link", { name: "its readings" }).click();
  await expect(page.getByText("All 6 readings are taken.")).toBeVisible();
});

test("rock is read place by place on the simulated machine, with its uncertainty; a push never begins where the axis can fall", async ({
  page,
}) => {
  const axis = "/machines/1/axes/2";
  await openCase(page, axis);
  await page.goto(`${axis}/locate/rock`);
  await page.getByRole("button", { name: "Take the readings one by one" }).click();
  const go = page.getByRole("button", { name: /Do it on the simulated machine/ });
  const rows = page.getByRole("region", { name: "Readings so far" }).getByText("µm");
  // The page before has a button of the same name.
  await expect(page.getByRole("region", { name: "Readings so far" })).toBeVisible();
  for (let i = 1; i <= 9; i += 1) {
    await go.click();
    await expect(rows).toHaveCount(i);
  }
  await expect(page.getByText(/It does not rock\.|It rocks:/)).toBeVisible();
  await expect(page.getByRole("row", { name: /Play at 2\d\.\d+ mm .* ± / })).toBeVisible();
  const refused = await page.request.post("/api/axes/3/series", {
    headers: AS_ROWAN,
    data: { plan: { kind: "hand-push", places: [1, 2], repeats: 1, spanMm: 300, depthMm: 0, friction: "load" } },
  });
  expect(refused.status()).toBe(422);
  expect(await refused.text()).toContain("Never on an axis that can fall");
});

test("a gib is set by rock and friction together, and by the method that tightens till it seizes", async ({ page }) => {
  await page.goto("/machines/1/axes/2/set");
  await page.getByRole("button", { name: "Begin Gib setting" }).click();
  const go = page.getByRole("button", { name: /Go there and read/ });
  const said = page.getByText("the others are not needed any more");
  await expect(go).toBeVisible();
  const readings = page.getByRole("region", { name: "Readings so far" });
  const taken = readings.getByRole("row").filter({ hasText: /\d\s*(%|µm)/ });
  for (let i = 1; !(await said.isVisible()); i += 1) {
    await go.click();
    await expect(taken).toHaveCount(i);
    await expect(go.or(said).first()).toBeVisible();
  }
  await expect(page.getByText(/Friction begins to climb at/)).toBeVisible();
  await expect(page.getByText(/Rock falls no further from/)).toBeVisible();
  await expect(page.getByText(/^Set the adjuster at \d\.\d\d turns in\.$/)).toBeVisible();
  await page.getByLabel("Taper, 1 in").fill("1");
  await page.getByLabel("Pitch of the adjuster, mm").focus();
  await expect(page.getByRole("alert")).toContainText("“1” cannot be: it must be from 10 to 500.");
  await page.goto("/machines/1/axes/2/set");
  await choose(page.getByLabel("By which method"), "Tighten until it seizes, then back off");
  await page.getByRole("button", { name: "Begin Gib setting" }).click();
  await expect(page.getByRole("button", { name: /^seizes/ })).toBeVisible();
  await page.keyboard.press("a");
  await expect(readings.getByText("free over the whole travel")).toHaveCount(1);
  await page.keyboard.press("c");
  await expect(page.getByText(/It seized at 0\.250 turns/)).toBeVisible();
  await page.keyboard.press("a");
  await expect(page.getByText(/Free over the whole travel at 0\.000 turns/)).toBeVisible();
});

test("evidence for three faults is said to want three; loose screws are tightened, not looked at again", async ({
  page,
}) => {
  const axis = "/machines/1/axes/3";
  await openCase(page, axis);
  const looked: [string, RegExp][] = [
    ["home-again", /^Home jumps by exactly one turn/],
    ["motor-alone", /^Uncoupled motor makes the same noise/],
    ["finger-feel", /^Bearing is rough/],
    ["tram-look", /^Head is out of square/],
  ];
  for (const [testId, words] of looked) {
    await page.goto(`${axis}/locate/${testId}`);
    await page.getByRole("group", { name: words }).getByRole("button", { name: "Yes" }).click();
    await page.getByRole("button", { name: "Keep the result" }).click();
    await expect(page).toHaveURL(/\/locate$/);
  }
  await expect(page.getByText(/Perhaps three faults: .*Mend the surest first, retest, and look again/)).toBeVisible();
  await page.goto("/machines/1/axes/2/ask");
  await beginCase(page);
  await expect(page.getByText(/Case 2, opened/)).toBeVisible();
  await page.goto("/machines/1/axes/2/locate/fastener-check");
  for (const name of [
    "Coupling clamp screws, both hubs",
    "Bearing retainer ring, cap screws",
    "Nut in its bracket, bracket on the member",
  ])
    await choose(page.getByRole("combobox", { name }), "turned");
  await page.getByRole("button", { name: "Keep the result" }).click();
  await expect(page.getByText(/Not explained by this: .* Tighten what turned, then measure again\./)).toBeVisible();
});

test("a program whose step somebody read by hand stops, and says why where they stand", async ({ page }) => {
  await page.goto("/machines/1/axes/1/measure/new/two-sided");
  await page.getByLabel("Runs").fill("3");
  await page.getByRole("button", { name: "Begin the test" }).click();
  await openProgram(page);
  await page.getByLabel("Dwell at each target, s").fill("30");
  await page.getByRole("button", { name: "Run it on the simulated machine" }).click();
  const run = /runs\/(\d+)/.exec(page.url())?.[1] ?? "";
  const typed = await page.request.post(`/api/runs/${run}/readings`, {
    headers: AS_ROWAN,
    data: { source: "typed", step: 0, value: 0, widthMm: 0.001, entered: "0", spoilt: false },
  });
  expect(typed.ok(), await typed.text()).toBe(true);
  await expect(
    page.getByText(
      /The program was stopped: .* The axis stands where it was; read this step by hand, or run what is left again\./,
    ),
  ).toBeVisible({ timeout: 60_000 });
});
