import { spawn } from "node:child_process";
import { rmSync } from "node:fs";
import { join, resolve } from "node:path";
import { ensureBuilt, ensureInstalled, ROOT, say } from "./ensure.mjs";

// `npm start` and `npm run demo`: install and build if needed, then serve. Options go on to the server.
const args = process.argv.slice(2);
const demo = args.includes("--demo");
ensureInstalled();
await ensureBuilt();
if (args.includes("--fresh")) {
  if (!demo) {
    console.error(
      "--fresh is for the demo only: the shop’s own data is never thrown away.",
    );
    process.exit(1);
  }
  const at = args.indexOf("--data");
  const folder = at >= 0 ? resolve(args[at + 1]) : join(ROOT, "demo-data");
  for (const ending of ["", "-wal", "-shm"]) {
    rmSync(join(folder, `iron-patience.sqlite${ending}`), { force: true });
  }
  say("The demo shop starts afresh.");
}
const server = spawn(
  process.execPath,
  [
    "--enable-source-maps",
    join(ROOT, "dist", "server", "main.cjs"),
    ...args.filter((a) => a !== "--fresh"),
  ],
  {
    stdio: "inherit",
    cwd: ROOT,
    env: { LOG_LEVEL: "warn", ...process.env },
  },
);
for (const signal of ["SIGINT", "SIGTERM"])
  process.on(signal, () => server.kill(signal));
server.on("exit", (code) => process.exit(code ?? 0));
