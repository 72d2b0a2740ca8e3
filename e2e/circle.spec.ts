import { circleBody } from "./circle-body";
import { openJob, signOn } from "./job-walk";
import { AS_ROWAN, answerOf, choose, expect, test } from "./shop";
import type { CircleSession } from "@iron/contract";
import type { Page } from "@playwright/test";

/** Reads one way round of the plane that is shown, and waits till it is worked out. */
async function read(page: Page, way: "counterclockwise" | "clockwise"): Promise<void> {
  await page.getByRole("button", { name: `Read it ${way}` }).click();
  await expect(
    page.getByText(new RegExp(`${way === "clockwise" ? "Clockwise" : "Counterclockwise"}, read by the bar`)),
  ).toBeVisible();
}

test.describe("a circle", () => {
  test.describe.configure({ timeout: 300_000 });
  test.use({ speed: "80" });

  test("in three planes finds the axes that tremble, is left and gone on with, and leads to the case of its axis", async ({
    page,
  }) => {
    await page.goto("/machines/1");
    await page.getByRole("link", { name: "Circles" }).click();
    await expect(page.getByText("No circle yet.")).toBeVisible();
    await page.getByRole("link", { name: "Take a circle" }).click();
    await page.getByLabel(/^Note/).fill("Middle of the table");
    await page.getByRole("button", { name: "Begin", exact: true }).click();
    await expect(page).toHaveURL(/\/circles\/\d+$/);
    await read(page, "counterclockwise");
    await read(page, "clockwise");
    // What came of it stays in sight; the next plane is one key further.
    await expect(page.getByRole("button", { name: "XY ✓" })).toHaveAttribute("aria-pressed", "true");
    await page.getByRole("button", { name: "Go on with ZX" }).click();
    await read(page, "counterclockwise");
    // Left in the middle, and gone on with.
    await page.goto("/floor");
    await page.goBack();
    await expect(page.getByRole("button", { name: "ZX", exact: true })).toHaveAttribute("aria-pressed", "true");
    await read(page, "clockwise");
    await page.getByRole("button", { name: "Go on with YZ" }).click();
    await read(page, "counterclockwise");
    await read(page, "clockwise");
    await page.getByRole("button", { name: "XY ✓" }).click();
    const says = page.getByRole("region", { name: "Result" });
    await expect(says).toContainText("X is steady");
    await expect(says).toContainText(/Y trembles by \d/);
    await says.getByText("ISO 230-4 quantities").click();
    await expect(says.getByRole("row", { name: /^Circular hysteresis/ })).toBeVisible();
    await expect(says).toContainText(/along Y, 5\.4\d times a turn of its screw/);
    await page.getByRole("button", { name: "YZ ✓" }).click();
    await expect(says).toContainText(/Z trembles by \d/);
    await page.getByRole("button", { name: "End with what is read" }).click();
    await expect(page.getByRole("button", { name: "End with what is read" })).toHaveCount(0);
    await says.getByRole("link", { name: "Take it to Ask on Z" }).first().click();
    await expect(page).toHaveURL(/\/machines\/1\/axes\/3\/ask$/);
    // What it loses by the circle stands in the axis’ ledger.
    const ledger = await answerOf<{ ledger: { total: { reversalValueMm: number } | null } }>(
      page,
      "/api/axes/3/ledger",
    );
    expect(ledger.ledger.total?.reversalValueMm).toBeGreaterThan(0.015);
  });

  test("is the retest of the job that renewed the bearings: steady, laid over the one before, its spikes normal", async ({
    page,
    shop,
  }) => {
    const begin = async (): Promise<void> => {
      const data = circleBody([380, 205], 100);
      const made = await page.request.post(`${shop.url}/api/machines/1/circles`, { headers: AS_ROWAN, data });
      await page.goto(`/circles/${((await made.json()) as CircleSession).id}`);
      await read(page, "counterclockwise");
      await read(page, "clockwise");
    };
    const says = page.getByRole("region", { name: "Result" });
    await begin();
    await expect(says).toContainText(/Y trembles by \d/);
    await page.getByRole("button", { name: "End with what is read" }).click();
    await expect(page.getByRole("button", { name: "End with what is read" })).toHaveCount(0);
    await openJob(page, "/machines/1/axes/2", "Replace fixed-end bearings", "A circle as a retest too");
    await signOn(page, /^Retest: a circle/);
    const job = page.url();
    // The circle before the job is no retest of it.
    await expect(page.getByRole("link", { name: "Take a circle" })).toBeVisible();
    await expect(page.getByRole("button", { name: /^Use circle/ })).toHaveCount(0);
    await page.getByRole("button", { name: "Sign the step" }).click();
    await expect(page.getByRole("alert")).toContainText("The retest has no circle yet");
    await begin();
    await expect(says).toContainText("Y is steady");
    await expect(says).not.toContainText(/Y trembles by/);
    const circle = page.url();
    await page.getByRole("button", { name: "End with what is read" }).click();
    await expect(page.getByRole("button", { name: "End with what is read" })).toHaveCount(0);
    await page.goto(job);
    await page.getByRole("button", { name: /^Use circle \d+, XY/ }).click();
    await expect(page.getByText(/^Passes\. Circle XY at 1000 mm\/min\./)).toBeVisible();
    await page.getByRole("button", { name: "Sign the step" }).click();
    await signOn(page, null);
    await expect(page.getByText(/Signed off on/)).toBeVisible();
    await page.goto(circle);
    await expect(says).toContainText(/normal/);
    await choose(page.getByLabel("Lay another circle of this plane under it"), 1);
    await page.goto("/machines/1/circles");
    await expect(page.getByRole("region", { name: "Parts of the circles over time" })).toBeVisible();
  });

  test("of a file is drawn and taken apart, and its wrong rows are named", async ({ page, shop }) => {
    const start = await page.request.post(`${shop.url}/api/machines/4/circles`, {
      headers: AS_ROWAN,
      data: circleBody([150, 90], 50),
    });
    expect(start.status()).toBe(201);
    const { id } = (await start.json()) as CircleSession;
    await page.goto(`/circles/${id}`);
    await page.getByRole("button", { name: "From a file…" }).click();
    const file = (text: string) => ({ name: "cut.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
    await page.getByLabel("File with readings of this circle").setInputFiles(file("x_mm,y_mm\n50,a"));
    await expect(page.getByText("Line 2, y_mm: “a” is not a number.")).toBeVisible();
    await page.getByLabel("File with readings of this circle").setInputFiles(file(gauged(0.006)));
    await expect(page.getByText("cut.csv: 360 readings counterclockwise.")).toBeVisible();
    await page.getByRole("button", { name: "Keep these readings" }).click();
    const says = page.getByRole("region", { name: "Result" });
    await expect(says).toContainText("X and Y are out of square");
    await expect(says).toContainText("cannot tell it from servos that follow unlike");
    const out = page.getByRole("checkbox", { name: "X and Y are out of square" });
    await out.check();
    await expect(out).toBeChecked();
    await expect(page.getByRole("img", { name: /^Deviation from the circle/ })).toBeVisible();
  });
});

/** A circle as a measuring machine gauges it, leaning by so much over its radius. */
function gauged(lean: number): string {
  const rows = Array.from({ length: 360 }, (_, i) => {
    const turn = (i * Math.PI) / 180;
    const r = 50 + lean * Math.sin(2 * turn);
    return `${(r * Math.cos(turn)).toFixed(5)},${(r * Math.sin(turn)).toFixed(5)}`;
  });
  return ["x_mm,y_mm", ...rows].join("\n");
}
