import config from "../playwright.config";
import { approach, begin, expect, ShopServer, test as base } from "./shop";

/** The shop’s name on its network, over plain http: to a browser that is no secure origin. */
const NAME = "shop.test";

const test = base.extend({
  // eslint-disable-next-line no-empty-pattern
  shop: async ({}, use) => {
    const shop = new ShopServer([
      "--demo",
      "--host",
      "0.0.0.0",
      "--name",
      NAME,
    ]);
    await shop.start();
    await use(shop);
    await shop.close();
  },
  baseURL: async ({ shop }, use) => use(shop.at(NAME)),
});

test.use({
  viewport: { width: 820, height: 1180 },
  launchOptions: {
    ...config.use?.launchOptions,
    args: [
      ...(config.use?.launchOptions?.args ?? []),
      `--host-resolver-rules=MAP ${NAME} 127.0.0.1`,
    ],
  },
});

test("a tablet on the network, over plain http: a visit, a signature and a reading are kept", async ({
  page,
  shop,
}) => {
  await page.goto("/rounds");
  expect(await page.evaluate(() => window.isSecureContext)).toBe(false);
  const day = page
    .getByRole("region", { name: "The coming days" })
    .getByRole("button", { name: /[3-9] points$/ })
    .first();
  await day.click();
  await expect(day).toHaveAttribute("aria-pressed", "true");
  const place = page.locator("article h2");
  const first = await place.innerText();
  const link = await place.getByRole("link").getAttribute("href");
  await page.getByRole("button", { name: "Dry", exact: true }).click();
  await expect(place.filter({ hasText: first })).toHaveCount(0);
  const point = `${shop.url}/api/lube-points/${/\d+/.exec(link ?? "")?.[0]}`;
  await expect
    .poll(
      async () =>
        (
          (await (await page.request.get(point)).json()) as {
            lastFound: string;
          }
        ).lastFound,
    )
    .toBe("dry");

  await page.goto("/machines/2/axes/4/fix");
  await page.getByLabel("Replace or reset the coupling").check();
  await page.getByRole("button", { name: "Open the job" }).click();
  await expect(page).toHaveURL(/\/jobs\/\d+$/);
  await page.getByRole("button", { name: /^Take over/ }).click();
  await page.getByRole("button", { name: "Sign the step" }).click();
  await expect(page.getByText(/^1 of \d+ steps signed/)).toBeVisible();
  const job = `${shop.url}/api${new URL(page.url()).pathname}`;
  await expect
    .poll(
      async () =>
        ((await (await page.request.get(job)).json()) as { events: unknown[] })
          .events.length,
    )
    .toBe(1);

  await begin(page, "/machines/1/axes/3", "two-sided", { Runs: "1" });
  await approach(page);
  await page.keyboard.press("z");
  await approach(page);
  await page.keyboard.press(" ");
  await expect(page.getByText("1 of 2 readings")).toBeVisible();
});
