import { expect, test } from "./shop";

const PARTS = /\.(js|css)$/;

test.beforeEach(({ expectedNoise }) => {
  expectedNoise.push(/ERR_NETWORK_CHANGED|ERR_INTERNET_DISCONNECTED|Failed to (load|fetch)/);
});

test("a page whose parts did not arrive says so, and starts by itself once they do", async ({ page }) => {
  await page.route(PARTS, (route) => route.abort("internetdisconnected"));
  await page.goto("/floor");
  await expect(page.getByRole("alert")).toContainText("did not arrive whole");
  await page.unroute(PARTS);
  await expect(page.getByRole("heading", { name: /machines/i }).first()).toBeVisible();
  await expect(page.getByRole("alert")).toHaveCount(0);
});

test("the first place asked for did not arrive: said, and it starts by itself", async ({ page }) => {
  // All but what the first page is made of.
  await page.goto("/floor");
  await expect(page.getByLabel("Who is working")).toBeVisible();
  const here = await page.evaluate(() => performance.getEntriesByType("resource").map((e) => new URL(e.name).pathname));
  await page.route(PARTS, (route) =>
    here.includes(new URL(route.request().url()).pathname) ? route.fallback() : route.abort("internetdisconnected"),
  );
  await page.goto("/rounds");
  await expect(page.getByRole("alert")).toContainText("did not arrive whole");
  await page.unroute(PARTS);
  await expect(page.getByRole("region", { name: "The coming days" })).toBeVisible();
  await expect(page.getByRole("alert")).toHaveCount(0);
});

test("a place that does not arrive leaves what is typed here, and is gone to when asked again", async ({ page }) => {
  await page.goto("/shop");
  await page.getByLabel("Name", { exact: true }).fill("Harrow Fen");
  await page.route(PARTS, (route) => route.abort("internetdisconnected"));
  await page.getByRole("link", { name: "Sums" }).click();
  const notice = page.getByText(/^That page did not arrive/);
  await expect(notice).toBeVisible();
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Harrow Fen");
  await page.unroute(PARTS);
  await page.getByRole("button", { name: "Ask again" }).click();
  await expect(page).toHaveURL(/\/sums$/);
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
});

test("what does not come after five tries is not tried for ever, and says who can help", async ({ page }) => {
  await page.route(/main-.*\.js$/, (route) => route.abort("internetdisconnected"));
  await page.goto("/floor");
  await expect(page.getByRole("alert")).toContainText("6 times over: ask who keeps the server");
  await page.unroute(/main-.*\.js$/);
  await page.getByRole("button", { name: "Start now" }).click();
  await expect(page.getByLabel("Who is working")).toBeVisible();
});

test("a place that takes its time is said to be on its way, and what is here stays", async ({ page }) => {
  await page.goto("/shop");
  await expect(page.getByRole("heading", { name: "Backups" })).toBeVisible();
  let letGo = (): void => undefined;
  const gate = new Promise<void>((open) => (letGo = open));
  await page.route(PARTS, async (route) => {
    await gate;
    await route.continue();
  });
  await page.getByRole("link", { name: "Sums" }).click();
  const said = page.getByRole("status").filter({ hasText: "on its way" });
  await expect(said).toBeVisible();
  await expect(page.getByRole("heading", { name: "Backups" })).toBeVisible();
  letGo();
  await expect(page).toHaveURL(/\/sums$/);
  await expect(said).toHaveCount(0);
});
