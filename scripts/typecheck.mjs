import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { ROOT } from "./ensure.mjs";

const bin = (name) => join(ROOT, "node_modules", ".bin", name);
const checks = [
  ["tsc", ["-p", "packages/core"]],
  ["tsc", ["-p", "packages/contract"]],
  ["tsc", ["-p", "apps/server"]],
  ["tsc", ["-p", "tsconfig.spec.json"]],
  ["ngc", ["-p", "apps/web/tsconfig.app.json", "--noEmit"]],
  ["tsc", ["-p", "apps/web/tsconfig.spec.json"]],
];
let failed = 0;
for (const [name, args] of checks) {
  const { status } = spawnSync(bin(name), args, {
    cwd: ROOT,
    stdio: "inherit",
  });
  if (status !== 0) failed += 1;
}
process.exit(failed ? 1 : 0);
