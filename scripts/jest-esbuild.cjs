const { transformSync } = require("esbuild");
const { createHash } = require("node:crypto");
const { readFileSync } = require("node:fs");

const OWN = readFileSync(__filename);

/** TypeScript for Jest by esbuild, which takes the types off and checks none: `npm run typecheck` does. */
module.exports = {
  process: (text, file) =>
    transformSync(text, {
      loader: "ts",
      format: "cjs",
      target: "es2022",
      // Jest runs what is required; import() it does not.
      supported: { "dynamic-import": false },
      sourcemap: "inline",
      sourcefile: file,
    }),
  getCacheKey: (text, file) => createHash("sha1").update(OWN).update(file).update(text).digest("hex"),
};
