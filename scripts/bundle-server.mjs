import { build } from "esbuild";
import { dirname, join } from "node:path";

/** Bundles the server and what it takes from the packages into one file; libraries stay outside. */
export async function bundleServer(root, outfile) {
  await bundle(root, "apps/server/src/main.ts", outfile);
  // What takes long runs in threads of its own.
  await bundle(root, "apps/server/src/threads/worker.ts", join(dirname(outfile), "worker.cjs"));
}

function bundle(root, entry, outfile) {
  return build({
    absWorkingDir: root,
    entryPoints: [entry],
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
