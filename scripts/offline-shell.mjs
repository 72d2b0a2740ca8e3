import { createHash } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";

/**
 * The page is made anew at each answer: its nonce is that of its policy. So a browser that keeps it for when no server
 * answers keeps the answer as it came, page and policy, under an address of this build, and no hash of the page is
 * expected of it. A later build has another address: its page is never that of an earlier one.
 */
export function keepPageAsAnswered(folder) {
  const file = join(folder, "ngsw.json");
  if (!existsSync(file)) return;
  const ngsw = JSON.parse(readFileSync(file, "utf8"));
  const everything = JSON.stringify(ngsw.hashTable);
  const shell = `/shell-${createHash("sha256").update(everything).digest("hex").slice(0, 12)}.html`;
  if (ngsw.index !== "/index.html" || !(ngsw.index in ngsw.hashTable))
    throw new Error("ngsw.json has no page of its own to keep.");
  delete ngsw.hashTable[ngsw.index];
  for (const group of ngsw.assetGroups) group.urls = group.urls.map((url) => (url === ngsw.index ? shell : url));
  ngsw.index = shell;
  writeFileSync(file, `${JSON.stringify(ngsw, null, 1)}\n`);
}
