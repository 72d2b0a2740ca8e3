import { existsSync, mkdirSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { DATABASE_FILE } from "./database";
import { StartError } from "./start-error";

/** Lies in a folder that holds the demo shop and nothing of anybody’s; `--fresh` deletes only there. */
export const DEMO_MARK = "demo-shop.txt";

/**
 * Marks a folder as the demo’s before anything is written there.
 * @throws StartError for a folder with a shop of its own
 */
export function markDemo(folder: string): void {
  const mark = join(folder, DEMO_MARK);
  if (existsSync(mark)) return;
  const file = join(folder, DATABASE_FILE);
  if (existsSync(file) && statSync(file).size > 0)
    throw new StartError(
      `${folder} holds a shop’s own data: the demo does not go there. Name another folder with --data.`,
    );
  mkdirSync(folder, { recursive: true });
  writeFileSync(mark, "This folder holds the demo shop. “npm run demo -- --fresh” deletes it.\n");
}
