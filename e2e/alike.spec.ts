import { DEFAULT_OPTIONS as OPTIONS } from "@iron/core";
import { expect, test } from "./shop";

// Several tabs and tablets at one shop: what one keeps, the others show.

const writes = { "x-working-as": "Ilse" };
/** Alike within two seconds is asked for; a busy machine is given longer, and nobody looks anew. */
const SOON = { timeout: 15_000 };

test("tabs and tablets stay alike, by one stream for each browser", async ({ page, browser, shop }) => {
  const streams: string[] = [];
  page.context().on("request", (request) => {
    if (request.url().includes("/api/changes")) streams.push(request.url());
  });
  await page.goto("/floor");
  const tab = await page.context().newPage();
  await tab.goto("/jobs");
  const other = await browser.newContext({ baseURL: shop.url });
  const tablet = await other.newPage();
  await tablet.goto("/cases");
  await expect(tab.getByRole("heading", { level: 1 })).toBeVisible();
  await expect(tablet.getByRole("heading", { level: 1 })).toBeVisible();
  await expect.poll(() => streams.length, SOON).toBe(1);
  // A machine, a case and a job come from elsewhere.
  const machine = { nickname: "Siskin", bay: "77", kind: "lathe", hoursPerWeek: 40, note: "", letters: ["X"] };
  const made = await page.request.post("/api/machines", { headers: writes, data: machine });
  const { id } = (await made.json()) as { id: number };
  await expect(page.getByRole("link", { name: "Bay 77 Siskin lathe" })).toBeVisible(SOON);
  const { axes } = (await (await page.request.get(`/api/machines/${id}`)).json()) as { axes: { id: number }[] };
  const axisIds = [axes[0].id];
  await page.request.post(`/api/machines/${id}/cases`, { headers: writes, data: { axisIds, answers: {} } });
  await expect(tablet.getByText("Siskin").first()).toBeVisible(SOON);
  const items = [{ axisId: axes[0].id, kind: "tighten" }];
  const job = await page.request.post(`/api/machines/${id}/jobs`, {
    headers: writes,
    data: { items, options: OPTIONS, caseId: null },
  });
  expect(job.ok(), await job.text()).toBe(true);
  // By the stream that the other tab holds.
  await expect(tab.getByText("Siskin").first()).toBeVisible(SOON);
  expect(streams).toHaveLength(1);
  // That tab is closed: the one that stays takes the stream over.
  await page.close();
  await expect.poll(() => streams.length, SOON).toBe(2);
  const again = { ...machine, nickname: "Serin", letters: ["X"] };
  const second = (await (await tab.request.post("/api/machines", { headers: writes, data: again })).json()) as {
    id: number;
  };
  const detail = (await (await tab.request.get(`/api/machines/${second.id}`)).json()) as { axes: { id: number }[] };
  await tab.request.post(`/api/machines/${second.id}/jobs`, {
    headers: writes,
    data: { items: [{ axisId: detail.axes[0].id, kind: "tighten" }], options: OPTIONS, caseId: null },
  });
  await expect(tab.getByText("Serin").first()).toBeVisible(SOON);
  await other.close();
});

test("stations of an axis too: a recording set aside elsewhere, and a case answered elsewhere", async ({
  page,
  browser,
  shop,
}) => {
  const other = await browser.newContext({ baseURL: shop.url });
  const tablet = await other.newPage();
  await page.goto("/machines/1/axes/1/listen");
  await tablet.goto("/machines/1/axes/1/ask");
  await expect(page.getByText("Nothing is recorded of this axis yet.")).toBeVisible();
  await tablet.getByRole("button", { name: "Noise", exact: true }).click();
  await expect(tablet.getByRole("button", { name: "Rumbles, worst in rapid", exact: true })).toBeVisible();
  const plan = { stillS: 2, feedMmMin: 8000, fromMm: 76, strokeMm: 200, passes: 2, dwellS: 0.5 };
  const recorded = await page.request.post("/api/axes/1/device/sound", {
    headers: writes,
    data: { plan, place: "on the column" },
  });
  expect(recorded.ok(), await recorded.text()).toBe(true);
  const { id } = (await recorded.json()) as { id: number };
  await expect(page.getByRole("list").getByRole("button", { name: /simulated, 8000 mm\/min/ })).toBeVisible(SOON);
  await page.request.post(`/api/sounds/${id}/aside`, { headers: writes, data: { reason: "the door stood open" } });
  await expect(page.getByRole("list").getByRole("button", { name: /\(set aside\)$/ })).toBeVisible(SOON);
  await expect(page.getByText("Set aside: the door stood open")).toBeVisible(SOON);
  // A case that another opens and answers is the one this tablet goes on with.
  const opened = await page.request.post("/api/machines/1/cases", {
    headers: writes,
    data: { axisIds: [1], answers: { rumble: true } },
  });
  expect(opened.ok(), await opened.text()).toBe(true);
  await expect(tablet.getByRole("button", { name: "Rumbles, worst in rapid", exact: true })).toHaveAttribute(
    "aria-pressed",
    "true",
    SOON,
  );
  await other.close();
});

test("what was changed before a page’s stream was open is shown as well", async ({ page }) => {
  let open = (): void => undefined;
  const held = new Promise<void>((go) => (open = go));
  await page.route(/\/api\/changes/, async (route) => {
    await held;
    await route.continue();
  });
  await page.goto("/floor");
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  const machine = { nickname: "Dotterel", bay: "78", kind: "lathe", hoursPerWeek: 40, note: "", letters: ["X"] };
  await page.request.post("/api/machines", { headers: writes, data: machine });
  await expect(page.getByRole("link", { name: "Bay 78 Dotterel lathe" })).toHaveCount(0);
  open();
  await expect(page.getByRole("link", { name: "Bay 78 Dotterel lathe" })).toBeVisible(SOON);
});
