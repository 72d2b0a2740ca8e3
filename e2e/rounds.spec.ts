import type { Rounds } from "@iron/contract";
import type { Page } from "@playwright/test";
import { foundAs } from "./round-walk";
import { answerOf, expect, test } from "./shop";

/** How many points are still to go on the walk that is shown. */
async function toGo(page: Page): Promise<RegExp> {
  const text = await page.getByText(/· \d+ to go ·/).innerText();
  return new RegExp(`· ${/(\d+) to go/.exec(text)?.[1] ?? ""} to go ·`);
}

test("the round with what is late is walked to its end with one point dry and one blocked; the plan and the interval move", async ({
  page,
}) => {
  await page.goto("/floor");
  await expect(page.getByText(/Y counterweight chain: lubrication 198 days late/)).toBeVisible();
  await expect(page.getByText(/X ball nut: found flooded 3 times/)).toBeVisible();
  await page.getByRole("link", { name: "Rounds" }).click();
  await expect(page.getByRole("heading", { name: "1 point is late: Y counterweight chain" })).toBeVisible();
  const now = page.locator("article h2");
  // Late, it has the first day on which its machine may stand; which one that is follows from today.
  const late = page.getByRole("region", { name: "The coming days" }).getByRole("button", { name: /1 late$/ });
  await late.click();
  await expect(late).toHaveAttribute("aria-pressed", "true");
  // The rest of that round is found right.
  for (let i = 0; i < 40 && (await now.count()); i += 1) {
    const name = await now.innerText();
    const chain = name.includes("Y counterweight chain");
    // Two machines next to each other can have points of one name: the count tells that it was taken.
    const before = await toGo(page);
    await foundAs(page, chain ? "Dry" : undefined);
    await expect(page.getByText(before)).toHaveCount(0);
    if (!chain) continue;
    await page.getByRole("button", { name: "Take the last one back" }).click();
    await expect(page.getByRole("heading", { name: "Y counterweight chain", level: 2 })).toBeVisible();
    await foundAs(page, "Dry");
    await expect(page.getByText(before)).toHaveCount(0);
  }
  await expect(page.getByText("Nothing is left on this day.")).toBeVisible();
  await page.getByRole("button", { name: "Plan anew" }).click();
  await expect(page.getByRole("heading", { name: "Nothing is late" })).toBeVisible();
  // Another day’s walk: a blocked point asks for a case.
  const { days: planned } = await answerOf<Rounds>(page, "/api/rounds");
  const greased = planned.findLastIndex((d) => d.stops.some((s) => s.points.some((p) => p.way === "nipple")));
  const day = page.getByRole("region", { name: "The coming days" }).locator("button[aria-pressed]").nth(greased);
  await day.click();
  await expect(day).toHaveAttribute("aria-pressed", "true");
  const place = page.locator("article h2");
  let blocked = false;
  for (let i = 0; i < 40 && (await place.count()); i += 1) {
    const before = await toGo(page);
    blocked = (await foundAs(page, blocked ? undefined : "Blocked")) === "Blocked" || blocked;
    await expect(page.getByText(before)).toHaveCount(0);
  }
  await expect(page.getByRole("status").filter({ hasText: /: Blocked: nothing gets through\./ })).toBeVisible();
  await expect(page.getByText("Nothing is left on this day.")).toBeVisible();
  await page.goto("/machines/6/axes/16/keep");
  await expect(page.getByRole("row", { name: /Y counterweight chain/ })).toContainText(
    "every 78 days by calendar (was 92: found dry once)",
  );
});

test("a new machine has its points in a moment, and they are planned", async ({ page }) => {
  await page.goto("/machines/new");
  await page.getByLabel("Nickname").fill("Wren");
  await page.getByLabel("Bay").fill("11");
  await page.getByRole("button", { name: "Add the machine" }).click();
  await page.getByRole("link", { name: "Measure X" }).click();
  await page.getByRole("navigation", { name: "Stations" }).getByRole("link", { name: "Keep" }).click();
  await expect(page.getByText("No point is kept for this machine yet.")).toBeVisible();
  await page.getByRole("link", { name: "Add the usual points of this machine" }).click();
  await expect(page.getByRole("heading", { name: /^\d+ points, \d+ minutes/ })).toBeVisible();
  const nut = page.getByRole("row", { name: /X ball nut/ });
  await expect(nut).toContainText("175 days by hours");
  await page.getByLabel(/^dust, castings/).check();
  await expect(nut).toContainText("88 days by hours (else 175)");
  await page.getByRole("button", { name: /^Add these \d+ points$/ }).click();
  await expect(page.getByRole("row", { name: /X rail carriages, 1 stroke each/ })).toContainText(
    "as nobody is known to have seen to it",
  );
  await page.getByRole("link", { name: "Rounds" }).first().click();
  await expect(page.getByRole("heading", { name: "1 point is late" })).toBeVisible();
  const { days } = (await (await page.request.get("/api/rounds")).json()) as {
    days: { stops: { nickname: string }[] }[];
  };
  expect(days.flatMap((d) => d.stops.map((s) => s.nickname))).toContain("Wren");
});
