import { build } from "esbuild";
import { ROOT } from "./ensure.mjs";

/**
 * Core and contract as one file each, for the tests of what stands on them: every test file begins with an empty
 * registry, and loading their three hundred files one by one took most of its time. Their own tests read the sources.
 */
export default async function bundles() {
  await Promise.all(["core", "contract"].map(ours));
}

const ours = (name) =>
  build({
    absWorkingDir: ROOT,
    entryPoints: [`packages/${name}/src/index.ts`],
    outfile: `.cache/jest/${name}.cjs`,
    bundle: true,
    platform: "neutral",
    mainFields: ["module", "main"],
    target: "es2022",
    format: "cjs",
    sourcemap: "inline",
    external: ["@iron/core", "zod", "papaparse"],
    logLevel: "warning",
  });
