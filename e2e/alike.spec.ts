import { DEFAULT_OPTIONS as OPTIONS } from "@iron/core";
import { expect, test } from "./shop";

// Several tabs and tablets at one shop: what one keeps, the others show.

const writes = { "x-working-as": "Ilse" };
/** Alike within two seconds is asked for; a busy machine is given longer, and nobody looks anew. */
const SOON = { timeout: 15_000 };

test("tabs and tablets stay alike, by one stream for each browser", async ({ page, browser, shop }) => {
  const streams: string[] = [];
  page.context().on("request", (request) => {
    if (request.url().endsWith("/api/changes")) streams.push(request.url());
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
