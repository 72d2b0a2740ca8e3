import type { Rounds } from "@iron/contract";
import { signOn } from "./job-walk";
import { foundAs } from "./round-walk";
import { answerOf, choose, expect, test } from "./shop";

test("a branch of a central line that is blocked is found from its outlets, and taken into a case", async ({
  page,
}) => {
  await page.goto("/machines/6/axes/15/keep");
  await page.getByRole("link", { name: "X ways, central system" }).first().click();
  await page.getByRole("button", { name: "Outlets one by one" }).click();
  const line = page.getByRole("group", { name: "Line from the pump outwards" });
  const outlet = async (name: string, state: 1 | 2): Promise<void> => choose(page.getByLabel(`Outlet: ${name}`), state);
  // The farthest first; one that is wet on the same branch clears the branch.
  await outlet("back way / far", 2);
  await outlet("front way / far", 1);
  await outlet("front way / near", 1);
  await expect(page.getByText("3 of 4 looked at, 1 dry.")).toBeVisible();
  await outlet("back way / near", 2);
  await expect(line.locator(".blocked")).toHaveText(["back way"]);
  await expect(page.getByRole("status").filter({ hasText: "back way" })).toContainText("Look at:");
  await page.getByRole("radio", { name: "Fine", exact: true }).check();
  await page.getByRole("button", { name: "Dry", exact: true }).click();
  await page.getByRole("button", { name: "Open a case on it" }).click();
  await expect(page).toHaveURL(/\/machines\/6\/axes\/\d+\//);
  await expect(page.getByText(/^From lubrication, .*X ways, central system: found dry\..*back way/)).toBeVisible();
});

test.describe("a nut that is reached only by parting it", () => {
  test.describe.configure({ timeout: 180_000 });

  test("is planned as a job with its hours, opened from the walk, aligned and signed, and that was its visit", async ({
    page,
  }) => {
    await page.goto("/machines/new");
    await page.getByLabel("Nickname").fill("Sanderling");
    await page.getByLabel("Bay").fill("12");
    await page.getByRole("button", { name: "Add the machine" }).click();
    await page.getByRole("link", { name: "Measure X" }).click();
    await page.getByRole("navigation", { name: "Stations" }).getByRole("link", { name: "Keep" }).click();
    await page.getByRole("link", { name: "Add the usual points of this machine" }).click();
    await choose(page.getByLabel("Ball nuts"), 3);
    await expect(page.getByRole("row", { name: /X ball nut/ })).toContainText("job");
    await page.getByRole("button", { name: /^Add these \d+ points$/ }).click();
    await expect(page.getByRole("row", { name: /X ball nut/ })).toBeVisible();
    const rounds = await answerOf<Rounds>(page, "/api/rounds");
    const on = rounds.days.findIndex((d) =>
      d.stops.some(
        (s) => s.nickname === "Sanderling" && s.points.some((p) => p.job && p.place.startsWith("X ball nut")),
      ),
    );
    await page.goto("/rounds");
    const day = page.getByRole("region", { name: "The coming days" }).locator("button[aria-pressed]").nth(on);
    await expect(day).toContainText(/and a job of \d+ h/);
    await day.click();
    await expect(day).toHaveAttribute("aria-pressed", "true");
    const job = page.getByRole("note").filter({ hasText: "This one is a job" });
    // What stands before it on that day is done first.
    const keys = page.locator("article.stop .keys");
    for (let i = 0; i < 30; i += 1) {
      await expect(job.or(keys).first()).toBeVisible();
      if (await job.count()) break;
      const before = await page.getByText(/· \d+ to go ·/).innerText();
      await foundAs(page);
      await expect(page.getByText(before, { exact: true })).toHaveCount(0);
    }
    await expect(job).toContainText(/about \d+ h.*(one person|two people)/);
    const place = await page.locator("article h2").innerText();
    await job.getByRole("button", { name: "Open the job" }).click();
    await expect(page).toHaveURL(/\/jobs\/\d+$/);
    // Joined again it is set in line where the fixed end says where it has to be.
    await signOn(page, /^Nut screws to torque, the .* near the fixed end$/);
    await expect(page.locator("article h2")).toHaveText(/near the fixed end$/);
    await signOn(page, null);
    await expect(page.getByText(/Signed off on/)).toBeVisible();
    await page.goto("/rounds");
    await expect(page.getByRole("heading", { name: place })).toHaveCount(0);
  });
});
