import { chromium } from "@playwright/test";
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { CHROMIUM, ensureBuilt, ensureChromium, ensureInstalled, ROOT } from "./ensure.mjs";

// The pictures of the README, taken anew from a fresh demo shop.
await ensureInstalled();
ensureChromium();
await ensureBuilt();
const data = mkdtempSync(join(tmpdir(), "iron-pictures-"));
const server = spawn(
  process.execPath,
  [join(ROOT, "dist/server/main.cjs"), "--demo", "--data", data, "--port", "0", "--simulation-speed", "20"],
  { env: { ...process.env, LOG_LEVEL: "error" } },
);
const baseURL = await new Promise((done) => {
  server.stdout.on("data", (text) => {
    const found = /http:\/\/[^/]+/.exec(String(text));
    if (found) done(found[0]);
  });
});
const browser = await chromium.launch({
  executablePath: CHROMIUM,
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
});
const page = await browser.newPage({
  baseURL,
  viewport: { width: 1280, height: 800 },
  locale: "en-GB",
  reducedMotion: "reduce",
});
const take = async (name) => {
  await page.waitForLoadState("networkidle").catch(() => undefined);
  await page.waitForTimeout(700);
  await page.screenshot({
    path: join(ROOT, "docs/screenshots", `${name}.png`),
  });
};
const button = (name) => page.getByRole("button", { name });

try {
  await page.goto("/floor");
  await page.getByRole("combobox", { name: "Who is working" }).click();
  await page.getByRole("option", { name: "Ilse" }).click();
  // Nothing is pointed at in a picture.
  await page.mouse.move(0, 0);
  await page.evaluate(() => document.activeElement?.blur());
  await take("floor");
  await page.goto("/machines/1/axes/3/measure");
  await take("measure");
  await page.goto("/machines/2/axes/6/listen");
  await button("Run the simulated axis").click();
  await page.getByText("A recording makes causes").waitFor();
  await take("listen");
  await page.goto("/machines/2/axes/4/history");
  await take("history");
  await page.goto("/machines/1/axes/3/ask");
  await button("Noise").click();
  await button("Rumbles, worst in rapid").click();
  await page.getByText(/Case \d+, opened/).waitFor();
  await button("Go on").click();
  await page.getByText("These would tell most now").waitFor();
  await page.waitForTimeout(6000);
  await take("ask");
  await button("Run the simulated axis and note what shows").click();
  await page.getByText(/^Simulated:/).waitFor();
  await page.waitForTimeout(1200);
  await page.goto("/machines/1/axes/3/locate/fastener-check");
  await button("Do it on the simulated machine").click();
  await page.waitForTimeout(600);
  await button("Keep the result").click();
  await page.goto("/machines/1/axes/3/measure/new/end-float");
  await page.getByLabel("Runs").fill("3");
  await button("Begin the test").click();
  await button("Make this approach").waitFor();
  for (let i = 0; i < 5; i += 1) {
    await page.keyboard.press("m");
    await page.waitForTimeout(1500);
    await page.keyboard.press(i === 0 ? "z" : " ");
    await page.waitForTimeout(500);
  }
  await take("run");
  await button("Test program…").click();
  await button("Run it on the simulated machine").click();
  await page.getByText(/Done: 6 of 6/).waitFor({ timeout: 30_000 });
  await page.goto("/machines/1/axes/3/locate");
  await page.getByRole("heading", { name: "What to do" }).waitFor();
  await take("locate");
  await page.goto("/cases/1");
  await take("finding");
  await page.goto("/causes");
  await take("causes");
  await page.goto("/machines/1/axes/3/fix");
  await page.getByLabel("Replace fixed-end bearings", { exact: true }).check();
  await take("fix");
  await button("Open the job").click();
  await page.waitForURL(/jobs\/\d+/);
  await page.waitForTimeout(800);
  // On to the step that tries every screw of the fixed end.
  for (let i = 0; i < 40; i += 1) {
    if (await page.getByLabel("one or more loose").count()) break;
    const found = page.getByRole("group", { name: "Found" }).getByRole("radio").first();
    if (await found.count()) await found.check();
    const who = page.getByLabel("Who vouches");
    if (await who.count()) await who.fill("Ilse");
    const over = button(/Take over/);
    if (await over.count()) await over.click();
    await button("Sign the step").click();
    await page.waitForTimeout(350);
  }
  await page.getByLabel("one or more loose").check();
  await take("job");
  await page.goto("/machines/1/axes/2/set");
  await button("Begin Gib setting").click();
  await page.waitForURL(/series/);
  for (let i = 0; i < 40; i += 1) {
    const go = button(/Go there and read/);
    await go
      .or(page.getByText(/not needed any more/))
      .first()
      .waitFor();
    if (!(await go.count())) break;
    await go.click().catch(() => undefined);
    await page.waitForTimeout(250);
  }
  await take("gib");
  await page.goto("/sums/preload?axis=3");
  await take("sums");
  await page.goto("/rounds");
  // Which point comes first, and with which keys, follows from today.
  await page.locator("article.stop .keys button").first().waitFor();
  await take("rounds");
  await page.goto("/rounds/parts");
  await page.getByRole("columnheader", { name: "Hold" }).waitFor();
  await take("parts");
  await page.goto("/machines/1/circles/new");
  await button("Begin").click();
  for (const way of ["counterclockwise", "clockwise"]) {
    await button(`Read it ${way}`).click();
    await page.getByText(way === "clockwise" ? /Clockwise, read by/ : /Counterclockwise, read by/).waitFor();
  }
  await take("circle");
  await page.goto("/machines/6/axes/15/table/new");
  await button("Keep this version").click();
  await button("Tell the simulated control").click();
  await page.getByRole("link", { name: "Read the travel again" }).click();
  await page.getByLabel("Runs").fill("2");
  await page.getByRole("button", { name: /^Begin/ }).click();
  await button("Test program…").click();
  await button("Run it on the simulated machine").click();
  await page.getByText(/^Done: /).waitFor({ timeout: 180_000 });
  await page.goto("/machines/6/axes/15/table/1");
  await page.getByText(/It stands in the control as it was made/).waitFor();
  await take("table");
  await page.goto("/machines/4/stands/levels");
  const level = [0.08, 0.03, 0.05, -0.03];
  for (const [i, slope] of level.entries()) {
    await page
      .getByLabel(/^It shows/)
      .nth(i)
      .fill(String(slope + 0.005));
    await page
      .getByLabel(/^turned end for end/)
      .nth(i)
      .fill(String(slope - 0.005));
  }
  await page.getByLabel(/rises for a turn/).fill("1.5");
  await button("Keep the levels").click();
  await page.getByText(/^Foot 1/).waitFor();
  await page.goto("/machines/4/stands/sweep");
  const reading = page.getByRole("textbox", { name: /^Reading/ });
  for (const [i, um] of [0, 0, 0, 5, 11, 15, 0, 0, 0, 4, 8, 12].entries()) await reading.nth(i).fill(String(um));
  await button("Keep the readings").click();
  await page
    .getByText(/leans towards/)
    .first()
    .waitFor();
  await take("stands");
  // The shop’s people come last: from then on one signs in.
  const people = [
    { name: "Rowan", sign: "RK", role: "keeper", secret: "three dry ways" },
    { name: "Ilse", sign: "IB", role: "technician", secret: "714902" },
    { name: "Tomas", sign: "TV", role: "technician", secret: "618204" },
    { name: "Ama", sign: "AO", role: "planner", secret: "930517" },
    { name: "Visitor", sign: "V", role: "look", secret: "246813" },
  ];
  const send = async (path, data, headers = {}) => {
    const answer = await page.request.post(path, { data, headers: { "x-working-as": "Rowan", ...headers } });
    if (!answer.ok()) throw new Error(`${path}: ${await answer.text()}`);
    return answer.json();
  };
  await send("/api/people", people[0]);
  await send("/api/people", people[1]);
  const idOf = async (name) => {
    const { names } = await (await page.request.get("/api/me")).json();
    return names.find((n) => n.name === name).id;
  };
  const signIn = async ({ name, secret }) => send("/api/sign-in", { personId: await idOf(name), secret });
  const { token } = await signIn(people[0]);
  for (const one of people.slice(2)) await send("/api/people", one, { "x-token": token });
  await page.goto("/people");
  await page.getByRole("heading", { name: "Signed in" }).waitFor();
  await take("people");
} finally {
  await browser.close();
  server.kill("SIGTERM");
  rmSync(data, { recursive: true, force: true });
}
