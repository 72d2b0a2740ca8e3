import { build } from "esbuild";

/** Bundles the server and what it takes from the packages into one file; libraries stay outside. */
export function bundleServer(root, outfile) {
  return build({
    absWorkingDir: root,
    entryPoints: ["apps/server/src/main.ts"],
    outfile,
    bundle: true,
    platform: "node",
    target: "node20",
    format: "cjs",
    sourcemap: true,
    packages: "external",
    alias: {
      "@iron/core": `${root}/packages/core/src/index.ts`,
      "@iron/contract": `${root}/packages/contract/src/index.ts`,
    },
    tsconfig: `${root}/tsconfig.base.json`,
    logLevel: "warning",
  });
}
