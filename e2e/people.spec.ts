import type { Job, Me } from "@iron/contract";
import { fillPlain, openJob } from "./job-walk";
import { addPerson, comeIn, PASSPHRASE, pressPin, setUp, signIn, test } from "./people";
import { answerOf, approach, begin, expect, noiseOf } from "./shop";

const WORKS = "measure, diagnose, mend and sign";

test("from the first start on a network to a reading that a second device takes and signs", async ({
  page,
  shop,
  browser,
}) => {
  await setUp(page, shop);
  const given = await addPerson(page, "Ilse", { sign: "IB", may: WORKS });
  const other = await browser.newContext({ baseURL: shop.url, ignoreHTTPSErrors: true });
  const tablet = await other.newPage();
  const noise = noiseOf(tablet);
  await tablet.goto("/machines/1/axes/3");
  await expect(tablet.getByRole("heading", { name: "Who is it?" })).toBeVisible();
  await comeIn(tablet, "Ilse", { given, own: "730164" });
  await begin(tablet, "/machines/1/axes/3", { kind: "two-sided", fill: { Runs: "1" } });
  await approach(tablet);
  await tablet.keyboard.press("z");
  await approach(tablet);
  await tablet.keyboard.press(" ");
  await expect(tablet.getByText("1 of 2 readings")).toBeVisible();
  const id = /runs\/(\d+)/.exec(tablet.url())?.[1];
  await expect
    .poll(async () => (await answerOf<{ readings: { by: string }[] }>(tablet, `/api/runs/${id}`)).readings[0]?.by)
    .toBe("Ilse");
  // The keeper sees where she is signed in, and ends it from there.
  await page.goto("/people");
  await page.getByRole("button", { name: /^Sign Ilse out of/ }).click();
  await expect(page.getByRole("button", { name: /^Sign Ilse out of/ })).toHaveCount(0);
  expect(noise).toEqual([]);
  await tablet.keyboard.press("Backspace");
  await tablet.reload();
  await expect(tablet.getByRole("heading", { name: "Who is it?" })).toBeVisible();
  await other.close();
});

test("a shared tablet asks who it is after a quiet time, and keeps what is on it", async ({
  page,
  shop,
  expectedNoise,
}) => {
  expectedNoise.push(/status of 401/);
  await page.clock.install();
  await setUp(page, shop);
  const given = await addPerson(page, "Ilse", { sign: "IB", may: WORKS });
  await page.goto("/machines/1/axes/1/listen");
  await page.getByLabel("Where it lies").fill("left of the door");
  await page.clock.fastForward("09:30");
  await page.keyboard.press("Tab");
  await page.clock.fastForward("09:30");
  await expect(page.getByRole("button", { name: "Rowan: sign out" })).toBeVisible();
  await page.clock.fastForward("01:00");
  await expect(page.getByRole("heading", { name: "Who is it?" })).toBeVisible();
  // Nothing behind it can be reached, by key or by an assistive device.
  for (const behind of ["#content", "ip-head-band"]) await expect(page.locator(behind)).toHaveAttribute("inert");
  expect((await page.request.get("/api/floor")).status()).toBe(401);
  await comeIn(page, "Ilse", { given, own: "730164" });
  await expect(page.getByLabel("Where it lies")).toHaveValue("left of the door");
  await page.getByRole("button", { name: "Ilse: sign out" }).click();
  await signIn(page, "Rowan", "1");
  await expect(page.getByText("That is not Rowan’s PIN. 4 tries are left, then it waits.")).toBeVisible();
  await page.getByRole("button", { name: "abc" }).click();
  await page.getByLabel("PIN or passphrase").fill(PASSPHRASE);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Rowan: sign out" })).toBeVisible();
});

test("the door stands over whatever was open: a menu, a dialog", async ({ page, shop, expectedNoise }) => {
  expectedNoise.push(/status of 401/);
  await page.clock.install();
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto("/");
  await page.getByLabel("Code from the server’s console").fill(await shop.setUpCode());
  await page.getByLabel("Your name").fill("Rowan");
  await page.getByLabel("Your sign").fill("RK");
  await page.getByLabel("A passphrase").fill(PASSPHRASE);
  await page.getByRole("button", { name: "Keep this server" }).click();
  const comesIn = async (): Promise<void> => {
    await page.getByRole("button", { name: "Rowan", exact: true }).click();
    await page.getByRole("button", { name: "abc" }).click();
    await page.getByLabel("PIN or passphrase").fill(PASSPHRASE);
    await page.keyboard.press("Enter");
    await expect(page.getByRole("heading", { name: "Who is it?" })).toHaveCount(0);
  };
  await page.getByRole("button", { name: "Menu" }).click();
  await page.getByRole("button", { name: "Rowan: sign out" }).click();
  await comesIn();
  const keys = page.getByRole("dialog", { name: "Keys that work here" });
  await page.setViewportSize({ width: 820, height: 1180 });
  await page.getByRole("button", { name: "All keys" }).click();
  await expect(keys).toBeVisible();
  await page.clock.fastForward("11:00");
  await expect(page.getByRole("heading", { name: "Who is it?" })).toBeVisible();
  // Behind it, and out of reach of keys and of assistive devices.
  await expect(page.locator("[inert]").getByRole("dialog", { name: "Keys that work here" })).toHaveCount(1);
  await comesIn();
  await expect(keys).toBeVisible();
});

test("nothing that moves is covered by the door: a quiet time waits for its end, and whoever stands there stops it", async ({
  page,
  shop,
  expectedNoise,
}) => {
  expectedNoise.push(/status of 401/);
  await page.clock.install();
  await setUp(page, shop);
  await begin(page, "/machines/1/axes/3", { kind: "two-sided", fill: { Runs: "1" } });
  const { token } = await answerOf<Me>(page, "/api/me");
  const headers = { "x-working-as": "Rowan", "x-token": token ?? "" };
  const jog = await page.request.post("/api/axes/3/device/jog", { headers, data: { byMm: 90, feedMmMin: 1 } });
  expect(jog.ok()).toBe(true);
  const moving = async (): Promise<boolean> => (await answerOf<{ moving: boolean }>(page, "/api/axes/3/device")).moving;
  await expect(page.getByRole("button", { name: "Stop", exact: true })).toBeEnabled();
  await page.clock.fastForward("50:00");
  await expect(page.getByRole("button", { name: "Rowan: sign out" })).toBeVisible();
  expect(await moving()).toBe(true);
  // The page does not hear of its session’s end, as on a slow line, until something was pressed that was not done.
  let hears = (): void => undefined;
  const pressed = new Promise<void>((go) => (hears = go));
  await page.route(/\/api\//, async (route) => {
    if (route.request().method() === "GET") await pressed;
    await route.continue();
  });
  expect((await page.request.post("/api/sign-out", { headers, data: {} })).ok()).toBe(true);
  await page.keyboard.press("Backspace");
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("heading", { name: "Who is it?" })).toBeVisible();
  hears();
  await expect(page.getByText("The simulated Z axis moves.")).toBeVisible();
  await page.getByRole("button", { name: "Stop it" }).click();
  await expect(page.getByText("The simulated Z axis moves.")).toHaveCount(0);
  await page.getByRole("button", { name: "Rowan" }).click();
  await page.getByRole("button", { name: "abc" }).click();
  await page.getByLabel("PIN or passphrase").fill(PASSPHRASE);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Rowan: sign out" })).toBeVisible();
  await expect(page.getByText(/this was not done/)).toBeVisible();
  await expect(page.getByRole("button", { name: "Stop", exact: true })).toBeDisabled();
  expect(await moving()).toBe(false);
});

test("a session that ended elsewhere: what was pressed waits for its own, and goes under no other name", async ({
  page,
  shop,
  expectedNoise,
}) => {
  expectedNoise.push(/status of 401/);
  await setUp(page, shop);
  const given = await addPerson(page, "Ilse", { sign: "IB", may: WORKS });
  await page.goto("/shop");
  await page.getByLabel("Name", { exact: true }).fill("Lower Mill");
  const end = async (): Promise<void> => {
    const { token } = await answerOf<Me>(page, "/api/me");
    const headers = { "x-working-as": "Rowan", "x-token": token ?? "" };
    expect((await page.request.post("/api/sign-out", { headers, data: {} })).ok()).toBe(true);
  };
  await end();
  await page.getByRole("button", { name: "Keep the shop" }).click();
  await expect(page.getByRole("heading", { name: "Who is it?" })).toBeVisible();
  await page.getByRole("button", { name: "Rowan" }).click();
  await page.getByRole("button", { name: "abc" }).click();
  await page.getByLabel("PIN or passphrase").fill(PASSPHRASE);
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByText("The shop is kept.")).toBeVisible();
  await page.getByLabel("Name", { exact: true }).fill("Upper Mill");
  await end();
  await page.getByRole("button", { name: "Keep the shop" }).click();
  await comeIn(page, "Ilse", { given, own: "730164" });
  await expect(
    page.getByText("Rowan sent this, and Ilse is here now: send it again if it is to be yours."),
  ).toBeVisible();
  expect((await answerOf<{ name: string }>(page, "/api/shop")).name).toBe("Lower Mill");
});

test("a forgotten PIN: too many tries wait, the keeper gives another, and what was before opens nothing", async ({
  page,
  shop,
  browser,
}) => {
  await setUp(page, shop);
  const given = await addPerson(page, "Ilse", { sign: "IB", may: "look only" });
  const other = await browser.newContext({ baseURL: shop.url, ignoreHTTPSErrors: true });
  const tablet = await other.newPage();
  await tablet.goto("/floor");
  await comeIn(tablet, "Ilse", { given, own: "730164" });
  await tablet.getByRole("button", { name: "Ilse: sign out" }).click();
  await tablet.getByRole("button", { name: "Ilse", exact: true }).click();
  for (let i = 0; i < 5; i += 1) {
    await pressPin(tablet, "730165", "Sign in");
    await expect(
      tablet.getByText(i < 4 ? /tr(y is|ies are) left, then it waits/ : /^Too many wrong tries for Ilse/),
    ).toBeVisible();
    if (i < 4) await expect(tablet.getByText(i === 3 ? "One try is left" : `${4 - i} tries are left`)).toBeVisible();
  }
  await page.reload();
  await expect(page.getByText(/too many wrong tries: waits until/)).toBeVisible();
  await page.getByRole("button", { name: "New PIN for Ilse" }).click();
  const fresh = await page.locator(".given strong").innerText();
  await pressPin(tablet, "730164", "Sign in");
  await expect(tablet.getByText("That is not Ilse’s PIN.")).toBeVisible();
  await pressPin(tablet, fresh, "Sign in");
  await expect(tablet.getByRole("heading", { name: "Ilse, choose a PIN of your own" })).toBeVisible();
  await other.close();
});

test("a hold is signed with the PIN of whoever vouches for it, and not without", async ({
  page,
  shop,
  browser,
  expectedNoise,
}) => {
  expectedNoise.push(/status of 40[13]/);
  await setUp(page, shop);
  const given = await addPerson(page, "Ilse", { sign: "IB", may: WORKS });
  const other = await browser.newContext({ baseURL: shop.url, ignoreHTTPSErrors: true });
  const tablet = await other.newPage();
  await tablet.goto("/floor");
  await comeIn(tablet, "Ilse", { given, own: "730164" });
  await other.close();

  await openJob(page, "/machines/2/axes/4", "Replace or reset the coupling");
  const vouches = page.getByRole("combobox", { name: "Who vouches, by PIN" });
  const signed = page.getByText(/^\d+ of \d+ steps signed/);
  await expect(signed).toBeVisible();
  while ((await vouches.count()) === 0) {
    const before = await signed.innerText();
    await fillPlain(page);
    await page.getByRole("button", { name: "Sign the step" }).click();
    await expect(signed).not.toHaveText(before);
  }
  const before = await signed.innerText();
  await fillPlain(page);
  await vouches.click();
  await page.getByRole("option", { name: "Ilse" }).click();
  await page.getByRole("button", { name: "Sign the step" }).click();
  const asks = page.getByRole("heading", { name: "Ilse, your PIN again" });
  await expect(asks).toBeVisible();
  await page.getByRole("button", { name: "Not now" }).click();
  await expect(page.getByText("Ilse, your PIN again: this is signed with your name.")).toBeVisible();
  await expect(signed).toHaveText(before);
  await fillPlain(page);
  await vouches.click();
  await page.getByRole("option", { name: "Ilse" }).click();
  await page.getByRole("button", { name: "Sign the step" }).click();
  await pressPin(page, "730165", "Sign");
  await expect(page.getByText(/^That is not Ilse’s PIN/)).toBeVisible();
  await pressPin(page, "730164", "Sign");
  await expect(asks).toHaveCount(0);
  await expect(signed).not.toHaveText(before);
  const job = await answerOf<Job>(page, `/api${new URL(page.url()).pathname}`);
  const last = job.events.at(-1);
  expect(last).toMatchObject({ kind: "sign", holdBy: "Ilse", by: "Rowan" });
});

test("a stranger’s page in the same browser changes nothing", async ({ page, shop }) => {
  await setUp(page, shop);
  const body = `<form method="post" action="${shop.url}/api/sign-out" enctype="text/plain"><input name="a" value="b"></form>
    <script>
      fetch("${shop.url}/api/sign-out", { method: "POST", credentials: "include", mode: "no-cors" }).catch(() => {});
      fetch("${shop.url}/api/floor", { credentials: "include" }).then(() => (document.title = "read"), () => (document.title = "refused"));
    </script>`;
  const stranger = await page.context().newPage();
  await stranger.route("https://stranger.test/**", (route) => route.fulfill({ contentType: "text/html", body }));
  await stranger.goto("https://stranger.test/");
  await expect(stranger).toHaveTitle("refused");
  await stranger.locator("form").evaluate((form) => (form as HTMLFormElement).submit());
  await expect(stranger.getByText("Requests from other sites are refused.")).toBeVisible();
  await page.reload();
  await expect(page.getByRole("button", { name: "Rowan: sign out" })).toBeVisible();
});
