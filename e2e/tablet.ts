import type { Page } from "@playwright/test";
import { foundAs } from "./round-walk";
import { answerOf, approach, begin, expect } from "./shop";

/** What a tablet in the shop does, where its keeper signed in: a visit, a signature and a reading are kept. */
export async function keepsThree(page: Page): Promise<void> {
  await page.goto("/rounds");
  expect(await page.evaluate(() => window.isSecureContext)).toBe(true);
  const day = page
    .getByRole("region", { name: "The coming days" })
    .getByRole("button", { name: /[3-9] points$/ })
    .first();
  await day.click();
  await expect(day).toHaveAttribute("aria-pressed", "true");
  const place = page.locator("article h2");
  const first = await place.innerText();
  const link = await place.getByRole("link").getAttribute("href");
  const key = await foundAs(page, "Dry");
  await expect(place.filter({ hasText: first })).toHaveCount(0);
  const point = `/api/lube-points/${/\d+/.exec(link ?? "")?.[0]}`;
  await expect
    .poll(async () => (await answerOf<{ lastFound: string }>(page, point)).lastFound)
    .toBe(key === "Dry" ? "dry" : "right");

  await page.goto("/machines/2/axes/4/fix");
  await page.getByLabel("Replace or reset the coupling").check();
  await page.getByRole("button", { name: "Open the job" }).click();
  await expect(page).toHaveURL(/\/jobs\/\d+$/);
  await page.getByRole("button", { name: /^Take over/ }).click();
  await page.getByRole("button", { name: "Sign the step" }).click();
  await expect(page.getByText(/^1 of \d+ steps signed/)).toBeVisible();
  const job = `/api${new URL(page.url()).pathname}`;
  await expect.poll(async () => (await answerOf<{ events: unknown[] }>(page, job)).events.length).toBe(1);

  await begin(page, "/machines/1/axes/3", { kind: "two-sided", fill: { Runs: "1" } });
  await approach(page);
  await page.keyboard.press("z");
  await approach(page);
  await page.keyboard.press(" ");
  await expect(page.getByText("1 of 2 readings")).toBeVisible();
}

/** Whether the browser keeps the whole page and has these by it. */
export const laidBy = (page: Page, paths: readonly string[]): Promise<boolean> =>
  page.evaluate(async (wanted) => {
    const kept: string[] = [];
    for (const name of await caches.keys())
      for (const { url } of await (await caches.open(name)).keys()) kept.push(new URL(url).pathname);
    const ngsw = (await (await fetch("/ngsw.json?ngsw-bypass")).json()) as { assetGroups: { urls: string[] }[] };
    const all = [...ngsw.assetGroups.flatMap(({ urls }) => urls), ...wanted];
    return navigator.serviceWorker.controller !== null && all.every((path) => kept.includes(path));
  }, paths);
