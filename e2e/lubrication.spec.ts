import type { Page } from "@playwright/test";
import { foundAs } from "./round-walk";
import { dayAfter, dayOf } from "../packages/core/src/quantity/day";
import type { Rounds } from "@iron/contract";
import { answerOf, choose, drag, expect, test } from "./shop";

/** Opens the first day with some points on it; its walk is shown once the day is marked. */
async function openBusyDay(page: Page): Promise<void> {
  const day = page
    .getByRole("region", { name: "The coming days" })
    .getByRole("button", { name: /[3-9] points$/ })
    .first();
  await day.click();
  await expect(day).toHaveAttribute("aria-pressed", "true");
}

const day = (days: number): string => dayAfter(dayOf(new Date()), days);

test("a round goes on through a killed server, nothing twice; what another has done meanwhile is told", async ({
  page,
  shop,
  expectedNoise,
}) => {
  expectedNoise.push(/ERR_CONNECTION_REFUSED|Failed to load resource/);
  await page.goto("/rounds");
  await openBusyDay(page);
  const place = page.locator("article h2");
  const first = await place.innerText();
  const visits = async (): Promise<readonly string[]> =>
    (await (await page.request.get(`${shop.url}/api/export/lube-visits`)).text()).split("\r\n");
  const before = new Set(await visits());
  await shop.stop("SIGKILL");
  await foundAs(page);
  await expect(place.filter({ hasText: first })).toHaveCount(0);
  await expect(page.getByText(/No connection\. 1 visit is kept in this browser/)).toBeVisible();
  const second = await place.innerText();
  const key = await foundAs(page, "Dry");
  await expect(page.getByText(/2 visits are kept/)).toBeVisible();
  await shop.start();
  await expect(page.getByText(/kept in this browser/)).toHaveCount(0, { timeout: 60_000 });
  const added = (await visits()).filter((l) => !before.has(l));
  expect(added).toHaveLength(2);
  expect(added.some((l) => l.includes(second.split(",")[0]) && l.includes(key === "Dry" ? "dry" : "right"))).toBe(true);
  // Rowan does the next point from another tablet.
  const third = await place.innerText();
  const link = await place.getByRole("link").getAttribute("href");
  await page.request.post(`${shop.url}/api/lube-points/${link?.split("/").pop() ?? ""}/visits`, {
    headers: { "x-working-as": "Rowan" },
    data: { key: crypto.randomUUID(), found: "right", dose: 2, glitter: false, words: "" },
  });
  await foundAs(page);
  await expect(
    page
      .getByRole("alert")
      .filter({ hasText: `${third}: Rowan has done this point already: found right. Nothing was kept twice.` }),
  ).toBeVisible();
  // What was told is not lost for that.
  const count = (await visits()).length;
  await page.getByRole("button", { name: "Keep mine too" }).click();
  await expect.poll(async () => (await visits()).length).toBe(count + 1);
});

test("two people on one round: what the one has done is passed over by the other, and said under the thumb", async ({
  page,
}) => {
  await page.goto("/rounds");
  await openBusyDay(page);
  const place = page.locator("article h2");
  const first = await place.innerText();
  const next = page.getByRole("region", { name: "Walk the round" }).getByRole("listitem").getByRole("link").first();
  const second = await next.innerText();
  const byRowan = async (link: string | null): Promise<void> => {
    const id = /points\/(\d+)/.exec(link ?? "")?.[1];
    const data = { key: crypto.randomUUID(), found: "right", dose: 1, glitter: false, words: "" };
    expect(
      (
        await page.request.post(`/api/lube-points/${id}/visits`, { data, headers: { "x-working-as": "Rowan" } })
      ).status(),
    ).toBe(201);
    // A tablet that is woken looks at once what the others have done.
    await page.evaluate(() => document.dispatchEvent(new Event("visibilitychange")));
  };
  await byRowan(await next.getAttribute("href"));
  await expect(page.getByText(`Done or moved by somebody else meanwhile: ${second}.`)).toBeVisible();
  await expect(place).toHaveText(first);
  await byRowan(await place.getByRole("link").getAttribute("href"));
  await expect(page.getByRole("alert")).toContainText("Somebody else has done this point or moved it meanwhile.");
  await page.getByRole("button", { name: "Go on to the next" }).click();
  await expect(place.filter({ hasText: first })).toHaveCount(0);
});

test("a visit is put on another day by hand; the plan heeds it and says what changed and why; the calendar has it", async ({
  page,
}) => {
  await page.goto("/rounds");
  await openBusyDay(page);
  const place = await page.locator("article h2").innerText();
  await page.locator("summary", { hasText: "Not today" }).click();
  await page.getByRole("button", { name: "Put it there" }).click();
  await expect(page.getByRole("alert")).toContainText("Choose the day first.");
  await choose(page.getByLabel("Put it on another day"), 7);
  const rounds = (await (await page.request.get("/api/rounds")).json()) as Rounds;
  // The first of the list asks for a day.
  const to = rounds.days.filter((d) => d.available > 0)[6].date;
  await page.getByRole("button", { name: "Put it there" }).click();
  await expect(page.getByText(new RegExp(`${place}: .* to .*: put there by`))).toBeVisible();
  const file = await page.request.get("/api/rounds/calendar");
  const text = (await file.text()).replace(/\r\n[ \t]/g, "");
  const event = text
    .split("BEGIN:VEVENT")
    .find((e) => e.includes(place.replace(/,/g, "\\,")) && e.includes(`DTSTART;VALUE=DATE:${to.replace(/-/g, "")}`));
  expect(event).toContain("@iron-patience");
  await page.reload();
  await expect(page.getByText(new RegExp(`${place}: .* to .*: put there by`))).toBeVisible();
});

test("a point of the walk is dragged onto another day; a photo is kept with a point", async ({ page }) => {
  await page.goto("/rounds");
  const days = page.getByRole("region", { name: "The coming days" });
  // Both the point and the day are in sight.
  await page.setViewportSize({ width: 1280, height: 1800 });
  await openBusyDay(page);
  const second = page.locator("li.cdk-drag").first();
  const name = await second.getByRole("link").innerText();
  // The last day on which somebody is there: which one it is follows from today.
  const open = days.getByRole("button", { name: /of [1-9]\d* min/ }).last();
  const word = (await open.innerText()).trim().slice(0, 3);
  await drag(page, second, open);
  await expect(page.getByText(new RegExp(`${name}: .* to ${word} .*: put there by`))).toBeVisible();
  const dot = Buffer.from(
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==",
    "base64",
  );
  await page.locator("article h2 a").click();
  // The walk has such a field too, and stands until the point has come.
  await expect(page).toHaveURL(/\/points\/\d+$/);
  await page.getByLabel("Photo, JPEG or PNG").setInputFiles({ name: "nipple.png", mimeType: "image/png", buffer: dot });
  await expect(page.locator("img.photo")).toBeVisible();
  await page.goto("/points/2");
  await expect(page.getByRole("heading", { name: "X ball nut" })).toBeVisible();
});

test("half a year is planned off the page and shown by week; nothing is planned twice", async ({ page }) => {
  await page.goto("/rounds/half-year");
  await expect(page.getByRole("heading", { name: /Half a year fits|more than people have/ })).toBeVisible();
  await expect(page.getByRole("region", { name: "Weeks" }).getByRole("row")).toHaveCount(27);
  await expect(page.getByText(/\d+ visits\. Planned from the beginning\./)).toBeVisible();
  await page.getByRole("navigation", { name: "Lubrication" }).getByRole("link", { name: "Walk" }).click();
  await foundAs(page);
  await page.getByRole("navigation", { name: "Lubrication" }).getByRole("link", { name: "Half a year" }).click();
  await expect(page.getByText(/1 point has changed; the rest keeps its week\./)).toBeVisible();
});

test("a large shop’s half year shows how far it is, can be stopped, and is planned when asked again", async ({
  page,
}) => {
  const points = Array.from({ length: 8000 }, (_, i) => ({
    id: i,
    machine: Math.floor(i / 40),
    bay: String(Math.floor(i / 320)),
    minutes: 3 + (i % 6),
    weight: 1 + (i % 3),
    dueDay: (i * 37) % 90,
    intervalDays: [14, 30, 92, 182][i % 4],
  }));
  const weeks = Array.from({ length: 26 }, (_, i) => ({ from: day(7 * i), minutes: 9000, shut: [] }));
  await page.route("**/api/horizon", (route) => route.fulfill({ json: { weeks, points } }));
  await page.goto("/rounds/half-year");
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(page.getByText("Nothing is planned.")).toBeVisible();
  await expect(page.getByRole("progressbar")).toHaveCount(0);
  await page.getByRole("button", { name: "Plan it" }).click();
  await expect(page.getByText(/^\s*\d{5} visits\. Planned from the beginning/)).toBeVisible();
});

test("a meter file with two bad lines: both named, nothing kept until asked; a lower reading is refused, a reset is not", async ({
  page,
  expectedNoise,
}) => {
  expectedNoise.push(/422/);
  await page.goto("/rounds/meters");
  const bittern = page.getByRole("region", { name: "Bittern" });
  await expect(bittern.getByText(/11\.\d ± \d\.\d\s+hours a day, from its meter\./)).toBeVisible();
  const text = `machine;date;hours\nBittern;${day(0)};4080,5\nNightjar;${day(0)};12\nGodwit;yesterday;6930\n`;
  await page
    .getByLabel("Meter readings, a CSV file")
    .setInputFiles({ name: "meters.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  const alert = page.getByRole("alert").filter({ hasText: "2 lines are wrong; nothing was kept." });
  await expect(alert).toContainText("Line 3, machine: There is no machine “Nightjar”.");
  await expect(alert).toContainText("Line 4, date: “yesterday” is no date: write 2026-03-31.");
  await page.getByRole("button", { name: "Keep the 1 good line all the same" }).click();
  await expect(page.getByText(/2 lines are wrong; 1 kept\./)).toBeVisible();
  await expect(bittern.getByText(/4080\.5 h/)).toBeVisible();
  await bittern.getByLabel("Hours now").fill("12");
  await bittern.getByRole("button", { name: "Keep the reading" }).click();
  await expect(bittern.getByRole("alert")).toContainText("hours is 12: it must be at least 4080.5, as read before");
  await bittern.getByLabel("replaced or set back before").check();
  await bittern.getByRole("button", { name: "Keep the reading" }).click();
  await expect(bittern.getByText(/12 h \(after a reset\)/)).toBeVisible();
  await bittern.getByRole("button", { name: /Take back/ }).click();
  await expect(bittern.getByText(/after a reset/)).toHaveCount(0);
});

test("a paper round is typed in by the keyboard alone", async ({ page }) => {
  await page.goto("/rounds/paper");
  // Which day has several visits depends on the day this is run.
  const { days } = await answerOf<Rounds>(page, "/api/rounds");
  const offered = days.filter((d) => d.stops.length > 0);
  const visits = offered.map((d) => d.stops.reduce((n, s) => n + s.points.length, 0));
  const full = visits.findIndex((n) => n > 1);
  expect(full).toBeGreaterThanOrEqual(0);
  await choose(page.getByLabel("Round of"), full);
  const cells = page.getByRole("textbox", { name: /^Found at/ });
  const count = visits[full];
  await expect(cells).toHaveCount(count);
  await cells.first().focus();
  await page.keyboard.press("x");
  await expect(page.getByRole("alert")).toContainText("“x” is none of d, r, f, i, b.");
  for (let i = 0; i < count; i += 1) {
    await page.keyboard.press(i === 1 ? "d" : "r");
    await page.keyboard.press("Enter");
  }
  await page.keyboard.press("Enter");
  await expect(page.getByText(new RegExp(`${count} visits kept`))).toBeVisible();
  await expect(page.getByText("Nothing is planned on this day.")).toBeVisible();
});

test("a lubricant that must not meet the old one is warned of before it is kept; a point is made, changed, and kept no more", async ({
  page,
  expectedNoise,
}) => {
  expectedNoise.push(/404/);
  await page.goto("/rounds/lubricants");
  await choose(page.getByLabel("In there now"), "grease, lithium, NLGI 2");
  await choose(page.getByLabel("To go in"), "grease, polyurea, NLGI 2");
  await expect(page.getByText(/Thickeners lithium and polyurea: incompatible/)).toBeVisible();
  await page.goto("/machines/2/axes/4/keep");
  await page.getByRole("link", { name: "X ball nut" }).click();
  await page.getByRole("button", { name: "Change the point" }).click();
  await page.getByLabel("Lubricant", { exact: true }).fill("grease, polyurea, NLGI 2");
  await expect(page.getByRole("alert")).toContainText("incompatible with what is in there.");
  await page.getByLabel("Never under, days").fill("4000");
  await page.getByRole("button", { name: "Keep the point" }).click();
  await expect(
    page.getByRole("alert").filter({ hasText: "“4000”: Least interval must be from 1 to 3650 days." }),
  ).toBeVisible();
  await expect(page.getByLabel("Never under, days")).toBeFocused();
  await page.getByLabel("Never under, days").fill("30");
  await page.getByLabel("Lubricant", { exact: true }).fill("grease, lithium, NLGI 2");
  await page.getByRole("button", { name: "Keep the point" }).click();
  await expect(page.getByRole("form", { name: "Lubrication point" })).toHaveCount(0);
  await page.goto("/points/new?machine=2");
  await page.getByRole("textbox", { name: "Place" }).fill("tool changer cam");
  await page.getByLabel("Lubricant", { exact: true }).fill("grease, lithium, NLGI 2");
  await page.getByRole("button", { name: "Keep the point" }).click();
  await expect(page.getByRole("heading", { name: "tool changer cam" })).toBeVisible();
  await page.getByRole("button", { name: "Keep it no more" }).click();
  await expect(page.getByText("This point is kept no more.")).toBeVisible();
  await page.goto("/points/4711");
  await expect(page.getByRole("heading", { name: "This point cannot be shown" })).toBeVisible();
  await expect(page.getByRole("alert")).toContainText("4711");
});

test("days and rules: a holiday empties its day, a method is chosen, a gun is weighed", async ({ page }) => {
  await page.goto("/rounds/keeping");
  await expect(page.getByText(/gun at bay 1: 0\.8\d+ g ± 0\.0\d+ g a stroke/)).toBeVisible();
  await page.getByLabel("Monday, min").fill("2000");
  await page.getByLabel("Tuesday, min").focus();
  await expect(page.getByRole("alert")).toContainText("“2000” cannot be: it must be from 0 to 1440.");
  await page.getByLabel("Monday, min").fill("75");
  await page.getByLabel("Day", { exact: true }).fill(day(1));
  await page.getByLabel("What it is").fill("stocktaking");
  await page.getByRole("button", { name: "Add the holiday" }).click();
  await choose(page.getByLabel("Method"), "by the calendar alone");
  const program = page.getByLabel("G-code file");
  await choose(page.getByLabel("Program of"), "Godwit");
  await program.setInputFiles({ name: "empty.nc", mimeType: "text/plain", buffer: Buffer.from("M30\n") });
  await expect(page.getByRole("alert")).toContainText("nothing in this program moves an axis");
  // 200 mm in a minute: 12 m an hour.
  await program.setInputFiles({
    name: "plate.nc",
    mimeType: "text/plain",
    buffer: Buffer.from("G21 G90 G1 X100 F200\nX0\n"),
  });
  await expect(page.getByText("Godwit X: 0.01 km an hour of running, plate.nc")).toBeVisible();
  await page.getByRole("button", { name: "Keep days and rules" }).click();
  await expect(page.getByText("Kept. The rounds are planned by it.")).toBeVisible();
  const { days } = (await (await page.request.get("/api/rounds")).json()) as {
    days: { date: string; available: number; stops: unknown[] }[];
  };
  expect(days.find((d) => d.date === day(1))).toMatchObject({ available: 0, stops: [] });
});

test("labels and a round print to PDF without overflow", async ({ page }) => {
  await page.setViewportSize({ width: 718, height: 1000 });
  await page.emulateMedia({ media: "print" });
  for (const path of ["/rounds/labels", `/rounds/sheet/${day(1)}`, `/rounds/sheet/${day(0)}`]) {
    await page.goto(path);
    await expect(page.locator(".label, .paper .row, .paper > p").first()).toBeVisible();
    const wide = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
    expect([path, wide]).toEqual([path, 0]);
    const pdf = await page.pdf({ format: "A4", preferCSSPageSize: true });
    expect(pdf.subarray(0, 5).toString()).toBe("%PDF-");
  }
});

test.describe("a shop where it is already tomorrow, or still yesterday", () => {
  // One of the two ends of the world has another day than Greenwich at any hour.
  test.use({
    timezoneId: new Date().getUTCHours() >= 12 ? "Pacific/Kiritimati" : "Etc/GMT+12",
  });

  test("plans, meters and paper go by its own day", async ({ page }) => {
    await page.goto("/rounds/meters");
    const here = await page.evaluate(() => new Date().toLocaleDateString("en-CA"));
    expect(here).not.toBe(new Date().toISOString().slice(0, 10));
    const words = new Date(`${here}T12:00:00Z`)
      .toLocaleDateString("en-GB", { weekday: "short", day: "numeric", month: "short", timeZone: "UTC" })
      .replace(",", "");
    const bittern = page.getByRole("region", { name: "Bittern" });
    await bittern.getByRole("button", { name: "Read the simulated machine" }).click();
    await expect(bittern.getByText(new RegExp(`${words}: \\d+ h`))).toBeVisible();
    await page.goto("/rounds");
    await expect(page.getByRole("region", { name: "The coming days" }).getByRole("listitem").first()).toContainText(
      words,
    );
    const place = await page.locator("article h2").innerText();
    await page.goto("/rounds/paper");
    await expect(page.getByLabel("Walked on")).toHaveValue(here);
    const row = page.getByLabel(new RegExp(`^Found at .*, ${place}$`)).first();
    await row.fill("r");
    await page.getByRole("button", { name: "Keep 1 visit" }).click();
    await expect(page.getByText("1 visit kept.")).toBeVisible();
    await expect(page.getByRole("alert")).toHaveCount(0);
    const file = await (await page.request.get("/api/export/lube-visits")).text();
    expect(file.split(/\r?\n/).filter((l) => l.includes(`,${here},right,`) && l.includes(place))).toHaveLength(1);
    await page.goto("/rounds/half-year");
    await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
  });
});
