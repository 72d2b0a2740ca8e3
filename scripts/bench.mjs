import { ensureInstalled, ROOT } from "./ensure.mjs";

ensureInstalled();
const { build } = await import("esbuild");
await build({
  absWorkingDir: ROOT,
  entryPoints: ["bench/main.ts"],
  outfile: "dist/bench/main.cjs",
  bundle: true,
  platform: "node",
  target: "node20",
  format: "cjs",
  packages: "external",
  alias: {
    "@iron/core": `${ROOT}/packages/core/src/index.ts`,
    "@iron/contract": `${ROOT}/packages/contract/src/index.ts`,
  },
  tsconfig: `${ROOT}/tsconfig.base.json`,
  logLevel: "warning",
});
await import(`${ROOT}/dist/bench/main.cjs`);
