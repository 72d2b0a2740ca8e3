import { spawnSync } from "node:child_process";
import { ShopServer, test as base } from "./shop";
import { keepsThree } from "./tablet";

/** A network of the test’s own: two addresses that nothing else on the machine has. */
const NAME = `iron-${process.pid}`;
const [OURS, SHOPS] = ["10.213.77.1", "10.213.77.2"];
const [NEAR, FAR] = [`in${process.pid}`, `if${process.pid}`];

const ip = (...args: readonly string[]): boolean =>
  spawnSync("ip", args, { stdio: "ignore" }).status === 0;
const inside = (...args: readonly string[]): boolean =>
  ip("netns", "exec", NAME, "ip", ...args);

function madeNetwork(): boolean {
  return (
    process.getuid?.() === 0 &&
    ip("netns", "add", NAME) &&
    ip("link", "add", NEAR, "type", "veth", "peer", "name", FAR) &&
    ip("link", "set", FAR, "netns", NAME) &&
    ip("addr", "add", `${OURS}/30`, "dev", NEAR) &&
    ip("link", "set", NEAR, "up") &&
    inside("addr", "add", `${SHOPS}/30`, "dev", FAR) &&
    inside("link", "set", FAR, "up") &&
    inside("link", "set", "lo", "up")
  );
}

const test = base.extend({
  // eslint-disable-next-line no-empty-pattern
  shop: async ({}, use, testInfo) => {
    const made = madeNetwork();
    try {
      testInfo.skip(!made, "It takes root and network namespaces.");
      const by = ["ip", "netns", "exec", NAME];
      const shop = new ShopServer(["--demo", "--host", SHOPS], undefined, by);
      await shop.start();
      await use(shop);
      await shop.close();
    } finally {
      ip("netns", "del", NAME);
      ip("link", "del", NEAR);
    }
  },
  baseURL: async ({ shop }, use) => use(shop.at(SHOPS)),
});

test.use({ viewport: { width: 820, height: 1180 } });

test("a tablet at the address of a network of its own: a visit, a signature and a reading are kept", async ({
  page,
  shop,
}) => {
  await keepsThree(page, shop.at(SHOPS));
});
