import { DEFAULT_OPTIONS as OPTIONS } from "@iron/core";
import type { Page } from "@playwright/test";
import { answerOf, expect, ShopServer, test as base } from "./shop";
import { PASSPHRASE, signIn } from "./people";
import { foundAs } from "./round-walk";
import { laidBy } from "./tablet";

// A tablet that has been there before, and no server: it opens, work is done, and goes on its way once one answers.

/** Not the loopback’s own name, where nothing is kept; a browser takes it for its own machine and trusts it. */
const NAME = "shop.localhost";
const PIN = "714902";

const test = base.extend({
  shop: async ({ timezoneId }, use) => {
    const shop = new ShopServer(["--demo", "--name", NAME], timezoneId);
    await shop.start();
    await use(shop);
    await shop.close();
  },
  baseURL: async ({ shop }, use) => use(shop.at(NAME)),
});

/** What somebody signed in changes, from the page they are signed in on. */
async function send<T>(page: Page, path: string, body: object): Promise<T> {
  const answer = await page.evaluate(
    async ([at, sent]) => {
      const me = (await (await fetch("/api/me")).json()) as { token: string; person: { name: string } };
      const headers = { "content-type": "application/json", "x-working-as": me.person.name, "x-token": me.token };
      const got = await fetch(at, { method: "POST", headers, body: sent });
      return { status: got.status, body: (await got.json()) as unknown };
    },
    [path, JSON.stringify(body)] as const,
  );
  expect([200, 201], JSON.stringify(answer.body)).toContain(answer.status);
  return answer.body as T;
}

test("opens without a server; work is done, brought by another, and what two did is told", async ({
  page,
  browser,
  shop,
  expectedNoise,
}) => {
  expectedNoise.push(/ERR_CONNECTION_REFUSED/, /status of 50\d/, /status of 40[139]/, /net::ERR_/);
  const made = { headers: { "x-working-as": "Rowan" } };
  const people = [
    { name: "Rowan", sign: "RK", role: "keeper", secret: PASSPHRASE },
    { name: "Ilse", sign: "IB", role: "technician", secret: PIN },
  ];
  for (const data of people)
    expect((await page.request.post(`${shop.url}/api/people`, { ...made, data })).status()).toBe(201);
  await page.goto("/floor");
  await signIn(page, "Ilse", PIN);
  await expect(page.getByRole("button", { name: "Ilse: sign out" })).toBeVisible();
  const job = (axisId: number) =>
    send<{ id: number }>(page, "/api/machines/5/jobs", {
      items: [{ axisId, kind: "tighten" }],
      options: OPTIONS,
      caseId: null,
    });
  const [walked, signedTwice] = [await job(13), await job(14)];
  await page.reload();
  const paths = [
    "/api/rounds",
    `/api/jobs/${walked.id}`,
    `/api/jobs/${signedTwice.id}`,
    "/api/machines/5",
    "/api/axes/13/history",
    "/api/axes/14/history",
  ];
  await expect.poll(() => laidBy(page, paths)).toBe(true);
  const tablet = page.context();
  await page.goto("about:blank");

  // Elsewhere the first step of one of them is signed; then nothing answers any more.
  const office = await browser.newContext({ baseURL: shop.at(NAME), serviceWorkers: "block" });
  const desk = await office.newPage();
  await desk.goto(`/jobs/${signedTwice.id}`);
  await signIn(desk, "Rowan", "").catch(() => undefined);
  await desk.getByLabel("PIN or passphrase").fill(PASSPHRASE);
  await desk.getByRole("button", { name: "Sign in", exact: true }).click();
  await desk.getByRole("button", { name: /^Take over/ }).click();
  // The page counts it at once: the server has it once it says so.
  const taken = desk.waitForResponse((r) => r.url().endsWith("/acts"));
  await desk.getByRole("button", { name: "Sign the step" }).click();
  expect((await taken).status()).toBe(200);
  await office.close();
  await shop.stop("SIGKILL");

  const cold = await tablet.newPage();
  const line = cold.getByRole("banner").getByRole("status");
  for (const id of [walked.id, signedTwice.id]) {
    await cold.goto(`/jobs/${id}`);
    await cold.getByRole("button", { name: /^Take over/ }).click();
    await cold.getByRole("button", { name: "Sign the step" }).click();
    await expect(cold.getByText(/^1 of \d+ steps signed/)).toBeVisible();
  }
  await expect(line).toHaveText("No connection, 2 wait");
  await cold.goto("/rounds");
  const place = cold.locator("article.stop h2");
  const visited = await place.innerText();
  await foundAs(cold);
  await expect(place).not.toHaveText(visited);
  await expect(line).toHaveText("No connection, 3 wait");
  // The shift is over: she leaves; the next one can go on by name while nobody can be let in.
  await cold.getByRole("button", { name: "Ilse: sign out" }).click();
  await cold.getByRole("button", { name: "Rowan", exact: true }).click();
  await cold.getByLabel("PIN or passphrase").fill(PASSPHRASE);
  await cold.getByRole("button", { name: "Sign in", exact: true }).click();
  await cold.getByRole("button", { name: "Go on as Rowan" }).click();
  await expect(place).toBeVisible();

  // The server is back: Rowan signs in, and brings what Ilse did, under her name.
  await shop.start();
  await cold.getByRole("button", { name: "Rowan", exact: true }).click();
  await cold.getByLabel("PIN or passphrase").fill(PASSPHRASE);
  await cold.getByRole("button", { name: "Sign in", exact: true }).click();
  await expect(cold.getByRole("button", { name: "Rowan: sign out" })).toBeVisible();
  await expect(line).toHaveCount(0);
  // The step that two had signed is told, where it is.
  await cold.getByRole("link", { name: "1 not taken" }).click();
  await cold.getByRole("link", { name: `Job ${signedTwice.id}: a step signed` }).click();
  await expect(cold).toHaveURL(new RegExp(`/jobs/${signedTwice.id}$`));
  await expect(cold.getByText(/The server did not take what was entered\./)).toBeVisible();
  await cold.getByRole("button", { name: "I have read it" }).click();
  await expect(cold.getByRole("link", { name: "1 not taken" })).toHaveCount(0);
  const { events } = await answerOf<{ events: { by: string }[] }>(cold, `/api/jobs/${walked.id}`);
  expect(events.map((e) => e.by)).toEqual(["Ilse"]);
  const { lines } = await answerOf<{ lines: { by: string; what: string; detail: string }[] }>(
    cold,
    "/api/record?words=brought",
  );
  expect(lines.map((l) => [l.by, /brought by Rowan/.test(l.detail)])).toEqual([
    ["Ilse", true],
    ["Ilse", true],
  ]);
});
