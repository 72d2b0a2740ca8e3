import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { ensureBuilt, ensureInstalled, ROOT } from "./ensure.mjs";

// `npm run backup`, `npm run restore -- FILE` and `npm run let-in -- NAME`: what is done to the shop's data from the command line.
await ensureInstalled();
await ensureBuilt();
const { status } = spawnSync(process.execPath, [join(ROOT, "dist", "server", "main.cjs"), ...process.argv.slice(2)], {
  stdio: "inherit",
  cwd: ROOT,
});
process.exit(status ?? 1);
