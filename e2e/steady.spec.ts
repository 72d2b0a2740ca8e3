import { fillPlain, openJob } from "./job-walk";
import { expect, looking as test, test as changing } from "./shop";
import type { Page } from "@playwright/test";

interface Shift {
  readonly value: number;
  readonly what: string;
}

declare global {
  interface Window {
    shifts: Shift[];
  }
}

/** Notes every move of anything, also right after a key or a click. */
async function watch(page: Page): Promise<void> {
  await page.addInitScript(() => {
    window.shifts = [];
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as (PerformanceEntry & {
        value: number;
        sources: { node: Element | null }[];
      })[])
        window.shifts.push({
          value: entry.value,
          what: entry.sources.map((s) => s.node?.textContent?.trim().slice(0, 40) ?? "").join(" | "),
        });
    }).observe({ type: "layout-shift", buffered: true });
  });
}

/** Where every button in sight is. */
const boxes = (page: Page): Promise<Record<string, string>> =>
  page.locator("main button:visible, main a.p-button:visible").evaluateAll((all) =>
    Object.fromEntries(
      all.map((b, i) => {
        const { x, y, width, height } = b.getBoundingClientRect();
        return [
          `${i} ${b.textContent.trim().slice(0, 30)}`,
          [x, y + window.scrollY, width, height].map(Math.round).join(" "),
        ];
      }),
    ),
  );

/** After what was asked for has been drawn. */
const drawn = (page: Page): Promise<void> =>
  page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => done()))));

const FORMS: readonly (readonly [name: string, path: string, open?: string])[] = [
  ["the shop and a new indicator", "/shop", "Add an indicator"],
  ["a new machine", "/machines/new"],
  ["a machine", "/machines/1"],
  ["axis data", "/machines/1/axes/1/setup"],
  ["a set-up", "/machines/1/axes/1/measure/new/two-sided"],
  ["readings from a file", "/machines/1/axes/1/import"],
  ["a history and its events", "/machines/1/axes/1/history"],
  ["days and rules", "/rounds/keeping"],
  ["a lubricant", "/rounds/lubricants", "Add a lubricant"],
  ["an order of a part", "/rounds/parts", "Order something else"],
  ["a lubrication point", "/points/1", "Change the point"],
  ["hour meters", "/rounds/meters"],
];

for (const [name, path, open] of FORMS) {
  test(`nothing moves when a field of ${name} is left with what cannot be`, async ({ page }) => {
    await watch(page);
    await page.goto(path);
    await page.waitForLoadState("networkidle");
    if (open) await page.getByRole("button", { name: open }).click();
    const fields = page.locator("main ip-text-field input:visible, main ip-number-field input:visible");
    await expect(fields.first()).toBeVisible();
    await drawn(page);
    const count = await fields.count();
    for (let i = 0; i < count; i += 1) {
      const field = fields.nth(i);
      await field.focus();
      await drawn(page);
      const before = await boxes(page);
      await page.evaluate(() => (window.shifts = []));
      const was = await field.inputValue();
      for (const text of ["", "what cannot be, at length", was]) {
        await field.fill(text);
        await field.blur();
        await drawn(page);
        expect(await boxes(page), `${await field.getAttribute("id")} “${text}”`).toEqual(before);
        await field.focus();
      }
      expect(await page.evaluate(() => window.shifts.filter((s) => s.value > 0))).toEqual([]);
    }
  });
}

test("a button is where the finger went down, though the field left by it says what is wrong", async ({ page }) => {
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
  await expect(page.getByRole("alert").filter({ hasText: "“4000”: Least interval" })).toBeVisible();
  expect(await keep.boundingBox()).toEqual(before);
  await page.mouse.up();
  // The press was taken: one is led to the first thing that has to be mended.
  await expect(page.locator("[aria-invalid=true]").first()).toBeFocused();
});

for (const [device, width, height] of [
  ["a desk", 1280, 800],
  ["a tablet", 820, 1180],
  ["a phone", 390, 844],
] as const)
  changing(`nothing moves under a finger on ${device} while a case opens and answers are kept`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await page.goto("/machines/2/axes/4/ask");
    const letGo: (() => void)[] = [];
    await page.route(/\/api\/(machines\/2\/cases|cases\/\d+)$/, async (route) => {
      await new Promise<void>((go) => letGo.push(go));
      await route.fallback();
    });
    const go = async (): Promise<void> => {
      await expect.poll(() => letGo.length).toBeGreaterThan(0);
      for (const one of letGo.splice(0)) one();
    };
    await page.getByRole("button", { name: "Noise", exact: true }).click();
    await page.getByRole("button", { name: "Howls, rising and falling, in rapid" }).click();
    const on = page.getByRole("button", { name: "Go on" });
    await on.scrollIntoViewIfNeeded();
    const before = await on.boundingBox();
    if (!before) throw new Error("the button is nowhere");
    // The finger is down when the case comes.
    await page.mouse.move(before.x + before.width / 2, before.y + 3);
    await page.mouse.down();
    await go();
    await expect(page.getByText(/Case \d+, opened/)).toBeVisible();
    await expect(page.getByText("What it most likely is")).toBeVisible();
    await drawn(page);
    expect(await on.boundingBox()).toEqual(before);
    await page.mouse.up();
    await expect(page.getByText("That is all that was noticed")).toBeVisible();
    // Nor while an answer is being kept.
    await expect(page.getByText(/^Weighing/)).toHaveCount(0);
    const crash = page.getByRole("button", { name: "a crash" });
    if (await crash.isHidden()) await page.getByText("Where, when, and since what").click();
    await crash.scrollIntoViewIfNeeded();
    const place = await crash.boundingBox();
    await crash.click();
    await expect(page.getByText("keeping…")).toHaveCount(1);
    expect(await crash.boundingBox()).toEqual(place);
    await go();
    await expect(page.getByText("keeping…")).toHaveCount(0);
  });

changing("a double press signs one step, the one that was read, and takes one back", async ({ page }) => {
  await openJob(page, "/machines/2/axes/4", "Replace screw with nut");
  const signed = page.getByText(/^\d+ of \d+ steps signed/);
  const count = async (): Promise<number> => Number(/^\d+/.exec(await signed.innerText())?.[0]);
  await expect(signed).toBeVisible();
  const start = await count();
  for (let i = 1; i <= 8; i += 1) {
    await fillPlain(page);
    await page.getByRole("button", { name: "Sign the step" }).dblclick();
    await expect.poll(count).toBe(start + i);
  }
  await page.getByRole("button", { name: "Take the last one back" }).dblclick();
  await expect.poll(count).toBe(start + 7);
  await expect(page.getByText("to the server")).toHaveCount(0);
  expect(await count()).toBe(start + 7);
});
