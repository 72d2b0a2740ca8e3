/** @type {import('jest').Config} */
module.exports = {
  displayName: "web",
  rootDir: __dirname,
  preset: "jest-preset-angular",
  globalSetup: "<rootDir>/../../scripts/jest-libraries.mjs",
  setupFilesAfterEnv: ["<rootDir>/setup-jest.ts"],
  // As in jest.config.js: sums take ten times as long by a global that is looked up anew.
  sandboxInjectedGlobals: ["Math"],
  testMatch: ["<rootDir>/src/**/*.spec.ts"],
  moduleNameMapper: {
    // Its libraries as one file, made by scripts/jest-libraries.mjs.
    "^(@angular/.+|primeng/.+|@primeuix/.+|@testing-library/dom|rxjs|zod)$":
      "<rootDir>/../../.cache/jest/libraries/$1.cjs",
    "^@iron/core$": "<rootDir>/../../.cache/jest/core.cjs",
    "^@iron/contract$": "<rootDir>/../../.cache/jest/contract.cjs",
  },
  transform: {
    "^.+\\.(ts|mjs|js|html|svg)$": [
      "jest-preset-angular",
      {
        tsconfig: "<rootDir>/tsconfig.spec.json",
        stringifyContentPathRegex: "\\.(html|svg)$",
      },
    ],
  },
};
