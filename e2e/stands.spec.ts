import { expect, test } from "./shop";

test("a machine that stands twisted is told which foot comes up; its square by a square leads to the pair", async ({
  page,
}) => {
  await page.goto("/machines/4");
  await page.getByRole("link", { name: "Square and level" }).click();
  await expect(page.getByText("No level has been laid yet.")).toBeVisible();
  await page.getByRole("link", { name: "Take levels" }).click();
  const [shows, turned] = [page.getByLabel(/^It shows/), page.getByLabel(/^turned end for end/)];
  // Along X front and back, along Y left and right: high at X plus by 0.06, and twisted.
  const read = [0.09, 0.03, 0.05, -0.04] as const;
  for (const [i, value] of read.entries()) {
    await shows.nth(i).fill(String(value + 0.01));
    await turned.nth(i).fill(String(value - 0.01));
  }
  // A level off the scale is refused at its field.
  await shows.first().fill("200");
  await page.getByRole("button", { name: "Keep the levels" }).click();
  await expect(page.getByText(/Reading must be from -20 to 20 mm\/m/)).toBeVisible();
  await shows.first().fill("0.1");
  await page.getByLabel(/rises for a turn/).fill("1.5");
  await page.getByRole("button", { name: "Keep the levels" }).click();
  const levels = page.getByRole("region", { name: "Levels", exact: true });
  await expect(levels).toContainText(/X plus is high by 0\.060/);
  await expect(levels).toContainText("The bed is twisted");
  await expect(levels).toContainText(/Foot \d: up 1?\d\d(\.\d+)? ± \d+(\.\d+)? µm, (1\/8|1\/4) of a turn\./);
  await expect(levels).toContainText("The level itself is out by 0.0100 mm/m; that has been taken out.");
  await page.getByRole("link", { name: "By diagonals" }).click();
  for (const [name, mm] of [
    [/^Side along the first/, "300"],
    [/^Side along the second/, "400"],
    [/^Diagonal from the low corner/, "500.024"],
    [/^The other diagonal/, "500"],
  ] as const)
    await page.getByLabel(name).fill(mm);
  await page.getByRole("button", { name: "Keep the readings" }).click();
  await expect(page.getByText("Y leans towards X plus by 15.0 ± 1.9 µm over 300 mm.").first()).toBeVisible();
  await page.getByText("1 reading of X and Y").click();
  await page.getByRole("button", { name: "Set aside…" }).click();
  await page.getByLabel("Why").fill("bar was warm");
  await page.getByRole("button", { name: "Set it aside" }).click();
  await expect(page.getByText("Every reading of it was set aside.")).toBeVisible();
});
