// A shop is seldom in Greenwich: tests run where the day of the clock and that of UTC differ.
process.env.TZ ??= "America/St_Johns";

const ts = {
  "^.+\\.ts$": [
    "ts-jest",
    {
      tsconfig: {
        module: "CommonJS",
        moduleResolution: "node10",
        target: "ES2022",
        esModuleInterop: true,
        isolatedModules: true,
        ignoreDeprecations: "5.0",
      },
      diagnostics: false,
    },
  ],
};
const moduleNameMapper = {
  "^@iron/core$": "<rootDir>/packages/core/src/index.ts",
  "^@iron/contract$": "<rootDir>/packages/contract/src/index.ts",
};
const node = (displayName, root) => ({
  displayName,
  rootDir: __dirname,
  roots: [`<rootDir>/${root}`],
  testEnvironment: "node",
  testMatch: ["**/*.spec.ts"],
  transform: ts,
  moduleNameMapper,
});

/** @type {import('jest').Config} */
module.exports = {
  testTimeout: 120_000,
  projects: [
    node("core", "packages/core/src"),
    node("contract", "packages/contract/src"),
    node("server", "apps/server/src"),
    node("repository", "scripts"),
    "<rootDir>/apps/web/jest.config.js",
  ],
};
