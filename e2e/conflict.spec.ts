import { expect, test } from "./shop";

test("two people change one point: the second sees both versions, and keeps or takes knowingly", async ({
  page,
  browser,
  baseURL,
  expectedNoise,
}) => {
  expectedNoise.push(/409/);
  await page.goto("/machines/2/axes/4/keep");
  await page.getByRole("link", { name: "X ball nut" }).click();
  await page.getByRole("button", { name: "Change the point" }).click();
  const point = page.url();
  const [dose, minutes] = ["Dose", "Minutes"].map((label) => page.getByLabel(label, { exact: true }));
  await expect(dose).toBeVisible();
  await dose.fill("9");

  // At another tablet Rowan changes the same point, and is first.
  const other = await (await browser.newContext({ baseURL: baseURL ?? "" })).newPage();
  await other.goto(point);
  await other.getByRole("button", { name: "Change the point" }).click();
  await other.getByLabel("Minutes", { exact: true }).fill("17");
  await other.getByRole("button", { name: "Keep the point" }).click();
  await expect(other.getByRole("form", { name: "Lubrication point" })).toHaveCount(0);

  await page.getByRole("button", { name: "Keep the point" }).click();
  const both = page.getByRole("alert").filter({ hasText: "Somebody changed this point while you did." });
  await expect(both).toBeVisible();
  await expect(both.getByRole("row", { name: /^Dose 9 strokes/ })).toBeVisible();
  await expect(both.getByRole("row", { name: /^Minutes .* 17$/ })).toBeVisible();
  // What was typed is still there, and goes over theirs knowingly.
  await expect(dose).toHaveValue("9");
  await both.getByRole("button", { name: "Keep mine" }).click();
  await expect(page.getByRole("form", { name: "Lubrication point" })).toHaveCount(0);
  await expect(page.getByText(/9 strokes/).first()).toBeVisible();

  // The other way round: theirs is taken, and nothing of mine is kept.
  await other.getByRole("button", { name: "Change the point" }).click();
  await other.getByLabel("Minutes", { exact: true }).fill("3");
  await other.getByRole("button", { name: "Keep the point" }).click();
  await other.getByRole("button", { name: "Take the kept one" }).click();
  await expect(other.getByRole("form", { name: "Lubrication point" })).toHaveCount(0);
  await expect(other.getByText(/9 strokes/).first()).toBeVisible();
  await page.getByRole("button", { name: "Change the point" }).click();
  await expect(minutes).not.toHaveValue("3");
  await other.context().close();
});
