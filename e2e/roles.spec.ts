import { readFileSync } from "node:fs";
import { addPerson, comeIn, setUp, test } from "./people";
import { answerOf, expect } from "./shop";

test("each is offered what is theirs to do; the keeper reads who did what, and takes everything out", async ({
  page,
  shop,
  browser,
}) => {
  await setUp(page, shop);
  const given = await addPerson(page, "Lark", { sign: "LA", may: "look only" });
  const other = await browser.newContext({ baseURL: shop.url, ignoreHTTPSErrors: true });
  const tablet = await other.newPage();
  await tablet.goto("/machines/1");
  await comeIn(tablet, "Lark", { given, own: "730164" });
  await expect(tablet.getByText("To change what stands here is for a planner; Lark is here to look.")).toBeVisible();
  await expect(tablet.getByRole("link", { name: "Measure X" })).toBeVisible();
  for (const name of ["Keep the machine", "Retire the machine", "Add an axis"])
    await expect(tablet.getByRole("button", { name })).toHaveCount(0);
  await tablet.goto("/machines/new");
  await expect(tablet.getByRole("heading", { name: "Not yours to do" })).toBeVisible();
  await expect(tablet.getByRole("button", { name: "Add the machine" })).toBeHidden();
  await page.goto("/machines/1");
  await page.getByLabel("Note", { exact: true }).fill("Stands near the door");
  await page.getByRole("button", { name: "Keep the machine" }).click();
  await expect(page.getByText("Machine kept.")).toBeVisible();
  await page.goto("/record?words=door");
  await expect(page.getByRole("cell", { name: /note: Stands near the door/ })).toBeVisible();
  await expect(page.getByRole("row")).toHaveCount(2);
  await page.getByLabel("Words").fill("no such words");
  await expect(page.getByText("No line has all of that.")).toBeVisible();
  await page.goto("/server");
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Everything, as one zip" }).click(),
  ]);
  const zip = readFileSync(await download.path());
  expect(zip.subarray(0, 2).toString()).toBe("PK");
  expect(zip.includes("tables/machine.json")).toBe(true);
  expect((await tablet.request.get("/api/export/shop")).status()).toBe(403);
  // An address of one’s own for the calendar: open without signing in, until it is renewed.
  await tablet.goto("/rounds");
  const renew = tablet.getByRole("button", { name: "A new address for my calendar" });
  await renew.click();
  const first = await tablet.locator("ip-own-calendar code").innerText();
  const anybody = await browser.newContext({ ignoreHTTPSErrors: true });
  expect(await (await anybody.request.get(first)).text()).toContain("BEGIN:VCALENDAR");
  await tablet.getByRole("button", { name: "Noted" }).click();
  await renew.click();
  await expect(tablet.locator("ip-own-calendar code")).not.toHaveText(first);
  expect((await anybody.request.get(first)).status()).toBe(404);
  expect((await answerOf<{ has: boolean }>(tablet, "/api/me/calendar")).has).toBe(true);
  await anybody.close();
  await other.close();
});
