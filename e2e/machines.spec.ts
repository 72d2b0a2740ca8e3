import type { Page } from "@playwright/test";
import { choose, expect, test } from "./shop";

test("the floor sorts by what needs attention, is searched with / and switches units", async ({ page }) => {
  await page.goto("/floor");
  await expect(page.getByRole("heading", { name: "Four machines want you" })).toBeVisible();
  await expect(page.getByRole("listitem").filter({ hasText: "Bay" }).first()).toContainText("Bittern");
  await page.keyboard.press("/");
  await page.keyboard.type("heron");
  await expect(page).toHaveURL(/q=heron/);
  await expect(page.getByRole("heading", { name: "One machine found for “heron”" })).toBeVisible();
  await page.getByRole("combobox", { name: "Find a machine" }).fill("zebra");
  await expect(page.getByText("Nothing on the floor is called that.")).toBeVisible();
  await page.getByRole("link", { name: "Show all machines" }).click();
  await expect(page.getByRole("heading", { name: "Four machines want you" })).toBeVisible();
  await expect(page.getByText("27.0 µm at reversal")).toBeVisible();
  await page.keyboard.press("u");
  await expect(page.getByText(/10\.6\d tenths at reversal/)).toBeVisible();
  await page.reload();
  await expect(page.getByText(/10\.6\d tenths at reversal/)).toBeVisible();
});

test("a machine or an axis is found from anywhere and gone to; what nobody has is said on the floor", async ({
  page,
}) => {
  await page.goto("/jobs");
  await expect(page.getByRole("combobox", { name: "Find a machine" })).toBeVisible();
  await page.keyboard.press("/");
  await page.keyboard.type("dun");
  await expect(page.getByRole("option", { name: "Dunlin", exact: true })).toBeVisible();
  await page.keyboard.type(" z");
  await expect(page.getByRole("option")).toHaveText(["Dunlin Z bay 2"]);
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/machines\/\d+\/axes\/\d+\/measure/);
  await page.keyboard.press("/");
  await page.keyboard.type("zebra");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Nothing on the floor is called that.")).toBeVisible();
});

test("the keys list comes from the register and closes with Esc", async ({ page }) => {
  await page.goto("/machines/1/axes/1/measure");
  await expect(page.getByRole("heading", { name: /How much is lost/ })).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog")).toContainText("Next axis");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.keyboard.press("]");
  await expect(page).toHaveURL(/axes\/2\/measure/);
  await page.keyboard.press("[");
  await expect(page).toHaveURL(/axes\/1\/measure/);
});

/** Keys at once: none waits for what the one before it asked for. */
const burst = (page: Page, keys: string): Promise<void> =>
  page.evaluate((all) => {
    for (const key of all) document.body.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true }));
  }, keys);

test("keys faster than pages count from where one is going, also at the moment the address changes", async ({
  page,
}) => {
  await page.goto("/machines/1/axes/1/measure");
  await expect(page.getByRole("heading", { name: /How much is lost/ })).toBeVisible();
  await burst(page, "]]");
  await expect(page).toHaveURL(/axes\/3\/measure/);
  await burst(page, "[4");
  await expect(page).toHaveURL(/axes\/2\/fix/);
  const cases = async (): Promise<unknown> => (await page.request.get("/api/axes/2/cases")).json();
  const before = await cases();
  await burst(page, "[n");
  await expect(page).toHaveURL(/axes\/1\/ask/);
  expect(await cases()).toEqual(before);
  await page.evaluate(() => {
    const { pushState } = History.prototype;
    history.pushState = function (...to: Parameters<typeof pushState>) {
      pushState.apply(this, to);
      history.pushState = pushState;
      // At the beginning of the next frame, as input is told: the address has changed, the page not yet.
      requestAnimationFrame(() => {
        document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "[", bubbles: true }));
        document.body.setAttribute("data-pressed", "");
      });
    };
  });
  await page.keyboard.press("]");
  await expect(page.locator("body[data-pressed]")).toBeAttached();
  await expect(page).toHaveURL(/axes\/1\/measure/);
});

test("a machine is added, its axis edited with errors in words, duplicated and retired with undo", async ({ page }) => {
  await page.goto("/floor");
  await expect(page.getByRole("heading", { name: /machines want you/ })).toBeVisible();
  await page.keyboard.press("n");
  await page.getByRole("button", { name: "Add the machine" }).click();
  await expect(page.getByText("Nickname is empty: say at least a word.")).toBeVisible();
  await page.getByLabel("Nickname").fill("Wren");
  await page.getByLabel("Bay").fill("12");
  await choose(page.getByLabel("Kind"), "lathe");
  await page.getByLabel("Axis letters").fill("X Z");
  await page.getByRole("button", { name: "Add the machine" }).click();
  await expect(page.getByRole("heading", { name: /^Wren/ })).toBeVisible();
  await page.getByRole("link", { name: "Axis data of X" }).click();
  const lead = page.getByLabel("Lead, mm");
  await lead.fill("0");
  await expect(
    page.getByText("Lead 0 mm cannot be: a screw moves the table by its lead each turn. Typical: 4 to 20 mm."),
  ).toBeVisible();
  // Nothing goes out while something cannot be: one is led to it.
  await page.getByRole("button", { name: "Keep the axis data" }).click();
  await expect(lead).toBeFocused();
  await lead.fill("8");
  await page.getByLabel("Repair above, µm").fill("40");
  await expect(page.getByText("Say why this axis has limits of its own.")).toBeVisible();
  await page.getByLabel("Why").fill("only roughing");
  await page.getByLabel("Set by").fill("Ama");
  await page.getByRole("button", { name: "Keep the axis data" }).click();
  await expect(page.getByText("Axis data kept.")).toBeVisible();
  await expect(page.getByText("Kept as version 2")).toBeVisible();
  await page.getByRole("button", { name: "Add an axis like this" }).click();
  await expect(page.getByRole("heading", { name: "Axis data of Y" })).toBeVisible();
  await page.getByRole("button", { name: "Retire the axis" }).click();
  await expect(page.getByText("This axis is retired")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).last().click();
  await expect(page.getByText("This axis is retired")).toHaveCount(0);
});

test("the chain is drawn from the configuration as it is edited", async ({ page }) => {
  await page.goto("/machines/1/axes/1/setup");
  const chain = page.getByRole("list", { name: /Drive chain/ });
  await expect(chain.first()).toContainText("Coupling");
  await choose(page.getByLabel("Transmission"), "rack and pinion");
  await expect(chain.last()).toContainText("Pinion");
  await expect(chain.last()).not.toContainText("Screw");
  await expect(page.getByLabel("Pinion diameter, mm")).toBeVisible();
  await expect(page.getByLabel("Lead, mm")).toHaveCount(0);
});

test.describe("two editors", () => {
  test.use({ expectedNoise: [[/status of 409/], { scope: "test" }] as never });

  test("the second gets both versions to choose from", async ({ page, context, baseURL }) => {
    const other = await context.newPage();
    await other.goto(`${baseURL}/machines/2/axes/4/setup`);
    await page.goto("/machines/2/axes/4/setup");
    await other.getByLabel("Travel, mm").fill("650");
    await expect(page.getByLabel("Travel, mm")).toHaveValue("660");
    // Edited before the other has kept theirs: what nobody edits follows what others keep.
    await page.getByLabel("Travel, mm").fill("640");
    await other.getByRole("button", { name: "Keep the axis data" }).click();
    await expect(other.getByText("Axis data kept.")).toBeVisible();
    await expect(page.getByLabel("Travel, mm")).toHaveValue("640");
    await page.getByRole("button", { name: "Keep the axis data" }).click();
    await expect(page.getByText(/changed this axis while you did/)).toBeVisible();
    await expect(page.getByRole("row", { name: /Travel/ })).toHaveText(/640 mm.*650 mm/);
    await page.getByRole("button", { name: "Keep mine" }).click();
    await expect(page.getByText("Kept as version 3")).toBeVisible();
    await expect(page.getByLabel("Travel, mm")).toHaveValue("640");
    await expect(other.getByLabel("Travel, mm")).toHaveValue("640");
  });
});

test("history compares, notes events and exports; the shop keeps indicators", async ({ page }) => {
  await page.goto("/machines/2/axes/4/history");
  await expect(page.getByText(/It grows by .* a month; the limit is reached about/)).toBeVisible();
  await expect(page.getByText(/It changed by|nothing has changed/)).toBeVisible();
  await page.getByRole("button", { name: "Note it" }).click();
  await expect(page.getByText("What happened is empty: say at least a word.")).toBeVisible();
  await page.getByLabel("What was done or happened").fill("Wipers renewed");
  await page.getByRole("button", { name: "Note it" }).click();
  await expect(page.getByText(/repair.*Wipers renewed/)).toBeVisible();
  await page.goto("/shop");
  await page.getByRole("button", { name: "Add an indicator" }).click();
  await page.getByLabel("Smallest step or division, mm").fill("0");
  await expect(page.getByText(/Resolution must be above 0/)).toBeVisible();
  await page.getByLabel("Smallest step or division, mm").fill("0.002");
  await page.getByRole("form", { name: "Indicator" }).getByLabel("Name").fill("Old lever");
  await page.getByRole("button", { name: "Keep the indicator" }).click();
  await expect(page.getByRole("cell", { name: "Old lever", exact: true })).toBeVisible();
});

test("two hundred machines from a list are seen first, made in one act, planned, and taken back in one", async ({
  page,
}) => {
  await page.goto("/machines/new");
  await page.getByRole("link", { name: "Many at once, from a list" }).click();
  const kinds = ["router", "vertical-centre", "lathe"];
  const lines = Array.from(
    { length: 200 },
    (_, i) => `M${i};${i % 20};${kinds[i % 3]};X Y Z;40;2026-03-0${1 + (i % 9)}`,
  );
  const text = ["machine;bay;kind;axes;hours_per_week;last_lubricated", ...lines, "Odd;7;shaper;X;40;"].join("\n");
  const file = page.getByLabel("List, as a CSV file");
  await file.setInputFiles({ name: "shop.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await expect(page.getByText("Line 202, kind: “shaper” is none of:")).toBeVisible();
  await expect(page.getByRole("heading", { name: /^200 machines, \d+ points$/ })).toBeVisible();
  await page.getByRole("button", { name: "Add these 200 machines" }).click();
  await expect(page.getByText("200 machines are on the floor, with their usual points.")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("200 machines are off the floor again.")).toBeVisible();
  await page.goto("/machines/list");
  await file.setInputFiles({ name: "shop.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await page.getByRole("button", { name: "Add these 200 machines" }).click();
  await expect(page.getByText("200 machines are on the floor, with their usual points.")).toBeVisible();
  await page.goto("/rounds");
  // Far more than ninety minutes’ work is late: what risks most comes first, and that is said.
  await expect(
    page.getByText(
      /These two weeks have .*; what is due wants .* more\. So the \d+ points that risk least for their minutes wait: for each week about/,
    ),
  ).toBeVisible();
  await expect(page.getByRole("heading", { name: "To bring" })).toBeVisible();
});
