import type { Page } from "@playwright/test";
import { expect, ShopServer, test as base } from "./shop";

/** A shop on a network, by the certificate that was made for it. */
export const test = base.extend({
  // eslint-disable-next-line no-empty-pattern
  shop: async ({}, use) => {
    const shop = new ShopServer(["--demo", "--host", "0.0.0.0", "--made-certificate"]);
    await shop.start();
    await use(shop);
    await shop.close();
  },
  ignoreHTTPSErrors: true,
});

export const PASSPHRASE = "three dry ways";

/** The first who opens a server on a network keeps it, by the code on its console. */
export async function setUp(page: Page, shop: ShopServer): Promise<void> {
  await page.goto("/");
  await page.getByLabel("Code from the server’s console").fill(await shop.setUpCode());
  await page.getByLabel("Your name").fill("Rowan");
  await page.getByLabel("Your sign").fill("RK");
  await page.getByLabel("A passphrase").fill(PASSPHRASE);
  await page.getByRole("button", { name: "Keep this server" }).click();
  await expect(page.getByRole("button", { name: "Rowan: sign out" })).toBeVisible();
}

/** The keeper adds somebody; the PIN to begin with. */
export async function addPerson(
  page: Page,
  name: string,
  { sign, may }: { readonly sign: string; readonly may: string },
): Promise<string> {
  await page.goto("/people");
  await page.getByRole("button", { name: "Add somebody" }).click();
  await page.getByLabel("Name", { exact: true }).fill(name);
  await page.getByLabel("Sign", { exact: true }).fill(sign);
  await page.getByRole("combobox", { name: "May" }).click();
  await page.getByRole("option", { name: may, exact: true }).click();
  await page.getByRole("button", { name: "Add", exact: true }).click();
  const given = page.getByRole("status").filter({ hasText: `${name} comes in with` });
  await expect(given).toBeVisible();
  return given.locator("strong").innerText();
}

/** Presses a PIN on the big keys. */
export async function pressPin(page: Page, pin: string, does = "Go on"): Promise<void> {
  for (const key of pin) await page.getByRole("button", { name: key, exact: true }).click();
  await page.getByRole("button", { name: does, exact: true }).click();
}

export async function signIn(page: Page, name: string, pin: string): Promise<void> {
  await page.getByRole("button", { name, exact: true }).click();
  await pressPin(page, pin, "Sign in");
}

/** Comes in with the PIN that was given, and chooses one. */
export async function comeIn(
  page: Page,
  name: string,
  { given, own }: { readonly given: string; readonly own: string },
): Promise<void> {
  await signIn(page, name, given);
  const chooses = page.getByRole("heading", { name: `${name}, choose a PIN of your own` });
  await expect(chooses).toBeVisible();
  await pressPin(page, own);
  await pressPin(page, own);
  await expect(chooses).toHaveCount(0);
  await expect(page.getByRole("button", { name: `${name}: sign out` })).toBeVisible();
}
