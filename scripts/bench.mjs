import { ensureBuilt, ensureInstalled, ROOT } from "./ensure.mjs";

// `npm run bench` and `npm run soak`: which of the two is the first argument of this script.
const [what] = process.argv.splice(2, 1);
await ensureInstalled();
if (what === "soak" || ["server", "web"].includes(process.argv[2])) await ensureBuilt();
const { build } = await import("esbuild");
await build({
  absWorkingDir: ROOT,
  entryPoints: [`bench/${what}.ts`],
  outfile: `dist/bench/${what}.cjs`,
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
await import(`${ROOT}/dist/bench/${what}.cjs`);
