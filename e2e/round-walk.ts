import type { Page } from "@playwright/test";

const WELL = ["Right", "Looked at", "Was clean", "At its mark"] as const;

/** Every check of the point under the thumb fine, then a key: the wanted one where the point has it, else that all was well. */
export async function foundAs(page: Page, wanted?: "Dry" | "Blocked"): Promise<string> {
  const stop = page.locator("article.stop");
  await stop.locator(".keys").getByRole("button").first().waitFor();
  for (const fine of await stop.getByRole("radio", { name: "Fine", exact: true }).all()) await fine.check();
  const keys = await stop.locator(".keys").getByRole("button").allInnerTexts();
  const key = wanted && keys.includes(wanted) ? wanted : (keys.find((k) => WELL.some((w) => w === k)) ?? keys[0]);
  await stop.locator(".keys").getByRole("button", { name: key, exact: true }).click();
  return key;
}
