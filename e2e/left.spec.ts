import type { Page } from "@playwright/test";
import { choose, expect, test } from "./shop";

/** Holds what is sent to an address until it is let go, to the server or nowhere. */
async function hold(page: Page, address: RegExp): Promise<{ go(): Promise<void>; drop(): Promise<void> }> {
  let end = (_: "fallback" | "abort"): void => undefined;
  const ended = new Promise<"fallback" | "abort">((how) => (end = how));
  let reached = (): void => undefined;
  const held = new Promise<void>((here) => (reached = here));
  await page.route(address, async (route) => {
    if (route.request().method() === "GET") return route.fallback();
    reached();
    return (await ended) === "abort" ? route.abort("internetdisconnected") : route.fallback();
  });
  return {
    go: async () => {
      await held;
      const answered = page.waitForResponse((r) => address.test(r.url()) && r.request().method() !== "GET");
      end("fallback");
      await (await answered).finished();
    },
    drop: async () => {
      await held;
      const failed = page.waitForEvent("requestfailed", (r) => address.test(r.url()));
      end("abort");
      await failed;
      await page.unroute(address);
    },
  };
}

test("who begins a test and goes on to another axis before it stands is left there; the test is the first one’s", async ({
  page,
}) => {
  const seen: string[] = [];
  page.on("framenavigated", (frame) => seen.push(frame.url()));
  await page.goto("/machines/1/axes/1/measure/new/two-sided");
  const begun = await hold(page, /\/api\/axes\/1\/runs$/);
  await page.getByRole("button", { name: "Begin the test" }).click();
  await page.keyboard.press("]");
  await expect(page).toHaveURL(/axes\/2\/measure$/);
  await begun.go();
  await page.keyboard.press("4");
  await expect(page).toHaveURL(/axes\/2\/fix$/);
  await page.keyboard.press("[");
  await expect(page).toHaveURL(/axes\/1\/measure$/);
  await expect(page.getByRole("link", { name: /^Go on/ }).first()).toBeVisible();
  expect(seen.filter((url) => url.includes("/runs/"))).toEqual([]);
});

test("an answer that is kept late stays with its axis: the next one’s case is not begun with it", async ({ page }) => {
  await page.goto("/machines/2/axes/4/ask");
  await page.getByRole("button", { name: "Noise", exact: true }).click();
  await page.getByRole("button", { name: "Howls, rising and falling, in rapid" }).click();
  await expect(page.getByText(/Case \d+, opened/)).toBeVisible();
  const kept = await hold(page, /\/api\/cases\/\d+$/);
  await page.getByRole("button", { name: "None of the others" }).click();
  await expect(page.getByText("keeping…")).toHaveCount(1);
  await page.keyboard.press("]");
  await expect(page).toHaveURL(/axes\/5\/measure$/);
  await page.keyboard.press("1");
  await expect(page.getByText("No case is open on Y.")).toBeVisible();
  await kept.go();
  await page.keyboard.press("4");
  await expect(page).toHaveURL(/axes\/5\/fix$/);
  await page.keyboard.press("1");
  await expect(page.getByText("No case is open on Y.")).toBeVisible();
  await page.keyboard.press("[");
  await page.keyboard.press("1");
  await expect(page).toHaveURL(/axes\/4\/ask$/);
  await expect(page.getByText(/What was told: 1 so, [1-9]\d* not so/)).toBeVisible();
});

test("what could not be kept of a page that was left is told, stays on the device, and is sent once more", async ({
  page,
  expectedNoise,
}) => {
  expectedNoise.push(/ERR_INTERNET_DISCONNECTED/);
  await page.goto("/machines/new");
  await page.getByLabel("Nickname").fill("Wren");
  await page.getByLabel("Bay").fill("12");
  await choose(page.getByLabel("Kind"), "lathe");
  await page.getByLabel("Axis letters").fill("X Z");
  const made = await hold(page, /\/api\/machines$/);
  await page.getByRole("button", { name: "Add the machine" }).click();
  await page.getByRole("button", { name: "Night" }).click();
  await page.getByRole("link", { name: "Jobs" }).click();
  await expect(page).toHaveURL(/\/jobs$/);
  await made.drop();
  await expect(page.getByText(/^From “New machine”, not kept: the server did not answer/)).toBeVisible();
  // At night too it is read against a ground of its own.
  const ground = await page.getByRole("alert").evaluate((notice) => getComputedStyle(notice).backgroundColor);
  expect(ground).toMatch(/^rgb\(/);
  await page.reload();
  await page.getByRole("link", { name: "1 not taken" }).click();
  await expect(page.getByText(/nickname: Wren; bay: 12/)).toBeVisible();
  await page.getByRole("button", { name: "Send it again" }).click();
  await expect(page.getByText("Nothing waits: all that was noted here is with the server.")).toBeVisible();
  await page.goto("/floor?q=wren");
  await expect(page.getByRole("heading", { name: "One machine found for “wren”" })).toBeVisible();
});
