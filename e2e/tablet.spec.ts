import config from "../playwright.config";
import { setUp } from "./people";
import { ShopServer, test as base } from "./shop";
import { keepsThree } from "./tablet";

/** The shop’s name on its network. */
const NAME = "shop.test";

const test = base.extend({
  // eslint-disable-next-line no-empty-pattern
  shop: async ({}, use) => {
    const shop = new ShopServer(["--demo", "--host", "0.0.0.0", "--name", NAME, "--made-certificate"]);
    await shop.start();
    await use(shop);
    await shop.close();
  },
  baseURL: async ({ shop }, use) => use(shop.at(NAME)),
  ignoreHTTPSErrors: true,
});

test.use({
  viewport: { width: 820, height: 1180 },
  launchOptions: {
    ...config.use?.launchOptions,
    args: [...(config.use?.launchOptions?.args ?? []), `--host-resolver-rules=MAP ${NAME} 127.0.0.1`],
  },
});

test("a tablet on the network: a visit, a signature and a reading are kept", async ({ page, shop, expectedNoise }) => {
  // A certificate that is clicked away is not trusted: then the page is not kept for when no server answers.
  expectedNoise.push(/error occurred when fetching the script/);
  await setUp(page, shop);
  await keepsThree(page);
});
