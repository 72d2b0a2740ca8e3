import type { Page } from "@playwright/test";
import { choose, expect } from "./shop";

/** Opens a job of an axis by what is to be done, and how. */
export async function openJob(page: Page, axis: string, ...works: readonly string[]): Promise<void> {
  await page.goto(`${axis}/fix`);
  for (const work of works) await page.getByLabel(work, { exact: true }).check();
  await page.getByRole("button", { name: "Open the job" }).click();
  await expect(page).toHaveURL(/\/jobs\/\d+$/);
}

/** Signs step by step, as all is well, until a step’s title matches; null: to the end. */
export async function signOn(page: Page, until: RegExp | null): Promise<void> {
  const title = page.locator("article h2");
  for (let i = 0; i < 140; i += 1) {
    await expect(title.or(page.getByText(/Signed off/))).toBeVisible();
    if ((await title.count()) === 0) return;
    const now = await title.innerText();
    if (until?.test(now)) return;
    await fillPlain(page);
    // Sisters in one stop have steps of one title after each other: the count tells that it was taken.
    const ahead = page.getByText(/\d+ of \d+ steps signed/);
    const [signed] = /^\d+ of/.exec(await ahead.innerText()) ?? [""];
    await page.getByRole("button", { name: "Sign the step" }).click();
    await expect(page.getByText(new RegExp(`^${signed} \\d+ steps signed`))).toHaveCount(0);
  }
  throw new Error("the job never came to its end");
}

/** Types a loss with what it was measured by: without that nobody knows how well it is known. */
export async function typeLoss(page: Page, value: string): Promise<void> {
  await page.getByLabel(/^or type the loss/).fill(value);
  await choose(page.getByLabel("measured with"), 1);
  await page.getByLabel("runs each way").fill("5");
}

/** Fills a step as it is when all is well. */
export async function fillPlain(page: Page): Promise<void> {
  const found = page.getByRole("group", { name: "Found" });
  if (await found.count()) await found.getByRole("radio").first().check();
  const kept = page.getByLabel("as it was");
  if (await kept.count()) await kept.check();
  const who = page.getByLabel("Who vouches, first name");
  if (await who.count()) await who.fill("Tomas");
  const over = page.getByRole("button", { name: /^Take over/ });
  const takes = await over.count();
  if (takes) await over.click();
  const before = page.getByRole("textbox", { name: /^Loss before/ });
  if (!takes && (await before.count())) await before.fill("9");
  const loss = page.getByLabel(/^or type the loss/);
  if (await loss.count()) await typeLoss(page, "3");
  const range = page.getByLabel(/^Highest load less lowest|^Range of home/);
  if (await range.count()) await range.fill("3");
}
