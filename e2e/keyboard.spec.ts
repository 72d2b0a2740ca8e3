import type { CDPSession, Page } from "@playwright/test";
import { expect, looking as test } from "./shop";

/** Where the keyboard is, and what is told of it to who does not see it. */
interface Stop {
  readonly name: string;
  readonly role: string;
  /** What shows that the keyboard is here: an outline, a shadow or a border that others have not. */
  readonly shown: boolean;
  readonly html: string;
}

async function stopOf(page: Page, cdp: CDPSession): Promise<Stop | null> {
  const { result } = await cdp.send("Runtime.evaluate", { expression: "document.activeElement" });
  if (!result.objectId || result.className === "HTMLBodyElement") return null;
  const { nodes } = await cdp.send("Accessibility.getPartialAXTree", {
    objectId: result.objectId,
    fetchRelatives: false,
  });
  const told = (value: unknown): string => (typeof value === "string" ? value.trim() : "");
  const { shown, html } = await page.evaluate(async () => {
    // What is drawn of it comes with the next frame.
    await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
    const here = document.activeElement as HTMLElement;
    here.dataset["reached"] = "";
    // A field of several parts shows it at its frame.
    const frames = [here, here.parentElement, here.closest(".p-select, .p-autocomplete, .p-checkbox")];
    const seen = (e: Element | null): boolean => {
      const style = e && getComputedStyle(e);
      return !!style && ((style.outlineStyle !== "none" && style.outlineWidth !== "0px") || style.boxShadow !== "none");
    };
    const beside = here.nextElementSibling ?? null;
    return { shown: [...frames, beside].some(seen), html: here.outerHTML.slice(0, 140) };
  });
  return { name: told(nodes[0]?.name?.value), role: told(nodes[0]?.role?.value), shown, html };
}

/** Goes through a page by the tab key alone, from its head to its end. */
async function walk(page: Page): Promise<Stop[]> {
  const cdp = await page.context().newCDPSession(page);
  const stops: Stop[] = [];
  for (let i = 0; i < 250; i += 1) {
    await page.keyboard.press("Tab");
    const stop = await stopOf(page, cdp);
    // Past its end the page gives the keyboard back to the browser: nothing holds it.
    if (!stop) return stops;
    stops.push(stop);
  }
  throw new Error(`The keyboard is held: ${stops.at(-1)?.html ?? ""}`);
}

/** What can be used in sight and was not reached; of radio buttons the chosen one stands for all. */
const missed = (page: Page): Promise<string[]> =>
  page.locator("main :is(input, textarea, button, select, a[href], summary, [tabindex='0'])").evaluateAll((all) =>
    all
      .filter((e) => {
        const field = e as HTMLInputElement;
        return e.checkVisibility() && field.tabIndex >= 0 && !field.disabled && field.dataset["reached"] === undefined;
      })
      .filter((e) => (e as HTMLInputElement).type !== "radio")
      .map((e) => e.outerHTML.slice(0, 140)),
  );

const FORMS: readonly (readonly [name: string, path: string, open?: string])[] = [
  ["the shop and a new indicator", "/shop", "Add an indicator"],
  ["a new machine", "/machines/new"],
  ["a machine", "/machines/1"],
  ["axis data", "/machines/1/axes/1/setup"],
  ["what is noticed", "/machines/2/axes/4/ask"],
  ["a recording", "/machines/1/axes/1/listen"],
  ["a set-up", "/machines/1/axes/1/measure/new/two-sided"],
  ["readings from a file", "/machines/1/axes/1/import"],
  ["work on an axis", "/machines/1/axes/3/fix"],
  ["what is set", "/machines/1/axes/3/set"],
  ["a history and its events", "/machines/1/axes/1/history"],
  ["the rounds", "/rounds"],
  ["what was done on paper", "/rounds/paper"],
  ["days and rules", "/rounds/keeping"],
  ["a lubricant", "/rounds/lubricants", "Add a lubricant"],
  ["an order of a part", "/rounds/parts", "Order something else"],
  ["a lubrication point", "/points/1", "Change the point"],
  ["hour meters", "/rounds/meters"],
  ["a sum", "/sums/preload?axis=3"],
];

for (const [name, path, open] of FORMS) {
  test(`by keyboard alone: all of ${name} is reached, named and shown`, async ({ page }) => {
    await page.goto(path);
    await page.waitForLoadState("networkidle");
    if (open) {
      await page.getByRole("button", { name: open }).press("Enter");
      await expect(page.locator("main form").last()).toBeVisible();
      // From the head of the page, as one who comes to it.
      await page.getByRole("link", { name: "Iron Patience" }).focus();
    }
    const stops = await walk(page);
    expect(stops.length).toBeGreaterThan(12);
    expect(stops.filter((s) => s.name === "")).toEqual([]);
    expect(stops.filter((s) => !s.shown).map((s) => `${s.role} “${s.name}” ${s.html}`)).toEqual([]);
    expect(await missed(page)).toEqual([]);
  });
}
