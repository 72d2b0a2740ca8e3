import { cpSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { ShopServer } from "./shop";

/**
 * Fills the demo shop once; each test begins with a copy of its own instead of filling one itself.
 */
export default async function fillOnce(): Promise<() => void> {
  const folder = mkdtempSync(join(tmpdir(), "iron-e2e-demo-"));
  const shop = new ShopServer(["--demo"]);
  await shop.start();
  await shop.stop("SIGTERM");
  cpSync(shop.folder, folder, { recursive: true });
  await shop.close();
  process.env["IRON_E2E_DEMO"] = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}
