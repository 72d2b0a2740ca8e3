import { expect, test } from "./shop";

test("a button that slips away from under the finger, as a field says what is wrong, is pressed all the same", async ({
  page,
}) => {
  await page.goto("/points/new?machine=2");
  await page.getByRole("textbox", { name: "Place" }).fill("tool changer cam");
  const days = page.getByLabel("Never under, days");
  await days.fill("4000");
  const keep = page.getByRole("button", { name: "Keep the point" });
  await keep.scrollIntoViewIfNeeded();
  const before = await keep.boundingBox();
  if (!before) throw new Error("the button is nowhere");
  await page.mouse.move(before.x + before.width / 2, before.y + 2);
  await page.mouse.down();
  // Left, the field says it: everything under it moves while the finger is down.
  await expect(page.getByRole("alert").filter({ hasText: "“4000” cannot be" })).toBeVisible();
  const moved = await keep.boundingBox();
  expect(moved?.y).toBeGreaterThan(before.y + 4);
  await page.mouse.up();
  // Led to what has to be mended: the press was taken.
  await expect(days).toBeFocused();

  // A finger that slides off takes its press back.
  await days.fill("30");
  await page.getByLabel("Lubricant", { exact: true }).fill("");
  const now = await keep.boundingBox();
  if (!now) throw new Error("the button is nowhere");
  await page.mouse.move(now.x + 5, now.y + 5);
  await page.mouse.down();
  await page.mouse.move(now.x + 5, now.y - 200);
  await page.mouse.up();
  await expect(page.getByRole("form", { name: "Lubrication point" })).toBeVisible();
  await expect(page).toHaveURL(/\/points\/new/);
});
