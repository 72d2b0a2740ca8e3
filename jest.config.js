// A shop is seldom in Greenwich: tests run where the day of the clock and that of UTC differ.
process.env.TZ ??= "America/St_Johns";

const ts = {
  "^.+\\.ts$": "<rootDir>/scripts/jest-esbuild.cjs",
  // Comes as an ES module alone.
  "node_modules/fourier-transform/.+\\.js$": "<rootDir>/scripts/jest-esbuild.cjs",
};
const moduleNameMapper = {
  "^@iron/core$": "<rootDir>/packages/core/src/index.ts",
  "^@iron/contract$": "<rootDir>/packages/contract/src/index.ts",
};
/** What stands on core and contract loads each as one file. */
const bundled = {
  "^@iron/core$": "<rootDir>/.cache/jest/core.cjs",
  "^@iron/contract$": "<rootDir>/.cache/jest/contract.cjs",
};
const node = (displayName, root, more = {}) => ({
  displayName,
  rootDir: __dirname,
  roots: [`<rootDir>/${root}`],
  testEnvironment: "node",
  testMatch: ["**/*.spec.ts"],
  transform: ts,
  transformIgnorePatterns: ["/node_modules/(?!fourier-transform/)"],
  moduleNameMapper,
  // Within a test’s own context a global is looked up anew each time it is used: sums take ten times as long by it.
  sandboxInjectedGlobals: ["Math"],
  ...more,
});
const above = { moduleNameMapper: bundled, globalSetup: "<rootDir>/scripts/jest-bundles.mjs" };

/** @type {import('jest').Config} */
module.exports = {
  testTimeout: 120_000,
  projects: [
    node("core", "packages/core/src"),
    node("contract", "packages/contract/src"),
    node("server", "apps/server/src", above),
    node("repository", "scripts"),
    "<rootDir>/apps/web/jest.config.js",
  ],
};
