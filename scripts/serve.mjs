import { spawn } from "node:child_process";
import { existsSync, rmSync } from "node:fs";
import { join, resolve } from "node:path";
import { parseArgs } from "node:util";
import { ensureBuilt, ensureDriver, ensurePackages, ROOT, say } from "./ensure.mjs";

/** Lies in every folder of a demo: see store/demo-mark.ts. */
const DEMO_MARK = "demo-shop.txt";
// `npm start` and `npm run demo`: install and build if needed, then serve. Options go on to the server.
const args = process.argv.slice(2);
const demo = args.includes("--demo");
if (args.includes("--fresh")) startAfresh();
ensurePackages();
const driver = ensureDriver();
await ensureBuilt();
await driver;

/** Deletes the demo shop: only what lies in a folder that is marked as the demo’s. */
function startAfresh() {
  const { values } = parseArgs({
    args,
    strict: false,
    allowPositionals: true,
    options: { data: { type: "string" } },
  });
  const folder = resolve(String(values.data ?? process.env.IRON_DATA ?? join(ROOT, "demo-data")));
  const database = join(folder, "iron-patience.sqlite");
  if (!demo || (existsSync(database) && !existsSync(join(folder, DEMO_MARK)))) {
    console.error(
      `--fresh is for the demo only, and ${folder} is not marked as a demo’s: a shop’s own data is never thrown away. Nothing was deleted.`,
    );
    process.exit(1);
  }
  for (const ending of ["", "-wal", "-shm"]) rmSync(`${database}${ending}`, { force: true });
  say("The demo shop starts afresh.");
}
const server = spawn(
  process.execPath,
  ["--enable-source-maps", join(ROOT, "dist", "server", "main.cjs"), ...args.filter((a) => a !== "--fresh")],
  {
    stdio: "inherit",
    cwd: ROOT,
    env: { LOG_LEVEL: "warn", ...process.env },
  },
);
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => server.kill(signal));
server.on("exit", (code) => process.exit(code ?? 0));
