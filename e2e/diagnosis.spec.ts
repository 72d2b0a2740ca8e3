import type { Page } from "@playwright/test";
import { choose, answerOf, expect, openProgram, test, beginCase, closeCase } from "./shop";

/** Begins a guided test that Locate asks for and lets the simulated machine run it by program. */
async function guidedRun(page: Page, name: string): Promise<void> {
  await page.getByLabel("Runs").fill("3");
  // Slip is read on the hub: nobody can guess how thick it is.
  const hub = page.getByLabel(/radius/i);
  if (await hub.count()) await hub.fill("20");
  await page.getByRole("button", { name: "Begin the test" }).click();
  await openProgram(page);
  await page.getByLabel("Dwell at each target, s").fill("1");
  await page.getByLabel("Feed, mm/min").fill("3000");
  await page.getByRole("button", { name: "Run it on the simulated machine" }).click();
  await expect(page.getByText(/Done: \d+ of/), name).toBeVisible({ timeout: 60_000 });
}

/** Works a case through as a technician would: symptoms, then what is next, until there is a verdict. */
async function workThrough(page: Page, axis: string): Promise<void> {
  await page.goto(`${axis}/ask`);
  await beginCase(page);
  await page.getByRole("button", { name: "Run the simulated axis and note what shows" }).click();
  await expect(page.getByText(/^Simulated:/)).toBeVisible();
  await expect(page.getByText("keeping…")).toHaveCount(0);
  await expect(page.getByText("Nothing answered yet")).toHaveCount(0);
  for (let i = 0; i < 24; i += 1) {
    if (!page.url().endsWith("/locate")) await page.getByRole("link", { name: /^Locate/ }).click();
    await expect(page.getByRole("heading", { name: "What to do" })).toBeVisible();
    const next = page.getByRole("region", { name: "Next test" });
    const stopped = page.getByText(/Sure enough: no test|No test here is worth/);
    await expect(next.or(stopped)).toBeVisible();
    if ((await next.count()) === 0) return;
    const link = next.getByRole("link", { name: /^Do it: / });
    const name = (await link.getAttribute("aria-label")) ?? "";
    await link.click();
    await page.waitForURL((url) => !url.pathname.endsWith("/locate"));
    if (/\/measure\/new\//.test(page.url())) await guidedRun(page, name);
    else if (page.url().endsWith("/listen")) {
      await page.getByRole("button", { name: "Run the simulated axis" }).click();
      await expect(page.getByText(/^A recording makes causes likelier/)).toBeVisible();
    } else {
      await page.getByRole("button", { name: /simulated/ }).click();
      const keep = page.getByRole("button", { name: "Keep the result" });
      await expect(keep).toBeEnabled();
      await keep.click();
      await expect(page).toHaveURL(/\/locate$/);
    }
  }
  throw new Error("the case never came to a verdict");
}

const TALES: [string, string, RegExp, string | null][] = [
  [
    "a loose retainer posing as worn bearings",
    "/machines/1/axes/3",
    /^Bearing retainer or nut loose/,
    "Bearing retainer or nut loose",
  ],
  ["worn end bearings", "/machines/2/axes/6", /^End bearings worn/, "End bearings worn"],
  [
    "a screw worn where it works most",
    "/machines/2/axes/4",
    /Screw worn where it works most/,
    "Screw worn where it works most",
  ],
  ["a coupling that slips", "/machines/5/axes/14", /^Coupling clamp screw loose/, "Coupling clamp screw loose"],
  [
    "a screw out of line that binds at one end",
    "/machines/2/axes/5",
    /^Screw not parallel to the ways/,
    "Screw not parallel to the ways",
  ],
  ["a gib too tight", "/machines/1/axes/2", /^Gib or way preload too tight/, "Gib or way preload too tight"],
  [
    "a tight spot in the rack",
    "/machines/3/axes/7",
    /^(High spot or chips in the rack|Chips or hardened grease)/,
    "High spot or chips in the rack",
  ],
  [
    "a cage that has crept",
    "/machines/8/axes/20",
    /^Ball or roller cage out of place/,
    "Ball or roller cage out of place",
  ],
  ["nothing wrong", "/machines/5/axes/13", /^(No fault found|Nothing has to be mended)/, null],
];

test.describe("from the first symptom to a closed verdict", () => {
  test.describe.configure({ timeout: 300_000 });
  test.use({ speed: "30" });
  for (const [name, axis, headline, cause] of TALES)
    test(name, async ({ page }) => {
      await workThrough(page, axis);
      await expect(page.getByRole("region", { name: "Verdict" }).getByText(headline).first()).toBeVisible();
      await closeCase(page, cause);
      await page.getByRole("link", { name: "One-page finding" }).click();
      await expect(page.getByText(cause ? `Found: ${cause}.` : "Found: nothing wrong.")).toBeVisible();
      await page.goto("/cases");
      await expect(page.getByRole("heading", { name: "No case is open" })).toBeVisible();
    });
});

test("a case is left and taken up by another person, with every answer there", async ({ page }) => {
  await page.goto("/machines/1/axes/3/measure");
  await expect(page.getByRole("heading", { name: /How much is lost/ })).toBeVisible();
  await choose(page.getByLabel("Who is working"), "Ama");
  await page.keyboard.press("n");
  await expect(page.getByText(/opened .* by Ama/)).toBeVisible();
  await page.getByRole("button", { name: "Noise" }).click();
  await page.getByRole("button", { name: "Rumbles, worst in rapid" }).click();
  await page.getByRole("button", { name: "None of the others" }).click();
  await page.getByText(/^What was told: 1 so/).click();
  const rumble = page.getByRole("group", { name: "Rumbles, worst in rapid" });
  await page.getByLabel("Note on: Rumbles, worst in rapid").fill("at 12 m/min");
  await choose(page.getByLabel("Shown by: Rumbles, worst in rapid"), 1);
  await page.getByLabel("Weeks since somebody worked on it").fill("5");
  await page.getByLabel("Age of the axis, years").fill("200");
  await page.getByText("Notes and photos").click();
  const words = page.getByRole("textbox", { name: "In your own words" });
  await words.fill("worse when cold");
  await expect(page.getByText("“200” cannot be: it must be from 0 to 80.")).toBeVisible();
  await page.getByLabel("Age of the axis, years").fill("11");
  await words.focus();
  await expect
    .poll(async () => (await answerOf<{ context: { ageYears: number } }>(page, "/api/cases/1")).context.ageYears)
    .toBe(11);
  await page.goto("/cases");
  await expect(page.getByRole("row", { name: /Bittern Z rumbles, worst in rapid/ })).toBeVisible();
  await choose(page.getByLabel("Who is working"), "Rowan");
  await page.getByRole("link", { name: "Go on with case 1" }).click();
  await expect(page.getByRole("heading", { name: "Loss ledger" })).toBeVisible();
  await page.keyboard.press("1");
  await page.getByText(/^What was told: 1 so/).click();
  await expect(rumble.getByRole("button", { name: "Yes" })).toHaveAttribute("aria-pressed", "true");
  await expect(page.getByLabel("Note on: Rumbles, worst in rapid")).toHaveValue("at 12 m/min");
  await expect(page.getByRole("link", { name: "show it" })).toBeVisible();
  await page.getByText("Notes and photos").click();
  await expect(words).toHaveValue("worse when cold");
  await expect(page.getByLabel("Age of the axis, years")).toHaveValue("11");
});

test("a load trace from a file is taken apart; a wrong file is named by line and nothing is lost", async ({ page }) => {
  await page.goto("/machines/1/axes/1/ask");
  await beginCase(page);
  await expect(page.getByText(/Case 1, opened/)).toBeVisible();
  await page.goto("/machines/1/axes/1/locate/load-trace");
  const file = (text: string) => ({ name: "load.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await page.getByLabel("Note").fill("slow traverse");
  await page.getByLabel(/Or a CSV file/).setInputFiles(file("position_mm;direction;load_percent\n1;+;4,0\nx;?;5\n"));
  await expect(page.getByRole("alert")).toContainText("Line 3, position_mm: “x” is not a number.");
  await expect(page.getByLabel("Note")).toHaveValue("slow traverse");
  const rows = ["+", "-"].flatMap((d) =>
    Array.from(
      { length: 120 },
      (_, i) =>
        `${i * 5};${d};${d === "+" ? "" : "-"}${(5 + 4 * Math.exp(-(((i * 5 - 300) / 15) ** 2))).toFixed(2).replace(".", ",")}`,
    ),
  );
  await page
    .getByLabel(/Or a CSV file/)
    .setInputFiles(file(`position_mm;direction;load_percent\n${rows.join("\n")}\n`));
  await expect(page.getByRole("rowheader", { name: /Spot at (29|30|31)\d? ?\d?.*mm/ })).toBeVisible();
  await page.getByRole("button", { name: "Keep the result" }).click();
  await expect(page.getByText(/Load trace: .*Tight in one spot\. slow traverse/)).toBeVisible();
  await page.getByRole("button", { name: /Set aside: Load trace/ }).click();
  await expect(page.getByRole("button", { name: /Take back in: Load trace/ })).toBeVisible();
});

test("the causes are read, weighed by the shop with why, and the shipped weight taken back", async ({ page }) => {
  await page.goto("/causes");
  await page.getByLabel("Find a cause or a symptom").fill("howl");
  await expect(page.getByText(/3 of \d+ causes/)).toBeVisible();
  await page.getByRole("button", { name: /weight of Nut worn/ }).click();
  await page.getByLabel("Weight in this shop").fill("900");
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByText("Weight “900” cannot be")).toBeVisible();
  await page.getByLabel("Weight in this shop").fill("6");
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByText("Say why the shop’s weight differs.")).toBeVisible();
  await page.getByLabel("Why").fill("sand from the foundry next door");
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByText(/Weight 6 \(shipped 3/)).toBeVisible();
  await page.getByRole("button", { name: /weight of Nut worn/ }).click();
  await page.getByRole("button", { name: "Use the shipped weight" }).click();
  await expect(page.getByText(/shipped 3/)).toHaveCount(0);
});

test("what cannot be done safely says so, and a hand push on a gravity axis never begins", async ({ page }) => {
  await page.goto("/machines/1/axes/3/ask");
  await beginCase(page);
  await expect(page.getByText(/Case 1, opened/)).toBeVisible();
  await page.goto("/machines/1/axes/3/locate/hand-push");
  await expect(page.getByRole("alert")).toContainText("Never on an axis that can fall");
  await page.goto("/machines/1/axes/3/locate/finger-feel");
  await expect(page.getByText(/never the spindle nose, and try it/)).toBeVisible();
  await page.goto("/machines/1/axes/3/locate/nonsense");
  await expect(page.getByRole("heading", { name: "There is no such test" })).toBeVisible();
});
