/** @type {import('jest').Config} */
module.exports = {
  displayName: "web",
  rootDir: __dirname,
  preset: "jest-preset-angular",
  setupFilesAfterEnv: ["<rootDir>/setup-jest.ts"],
  testMatch: ["<rootDir>/src/**/*.spec.ts"],
  moduleNameMapper: {
    "^@iron/core$": "<rootDir>/../../packages/core/src/index.ts",
    "^@iron/contract$": "<rootDir>/../../packages/contract/src/index.ts",
  },
  transform: {
    "^.+\\.(ts|mjs|js|html|svg)$": [
      "jest-preset-angular",
      {
        tsconfig: "<rootDir>/tsconfig.spec.json",
        stringifyContentPathRegex: "\\.(html|svg)$",
        isolatedModules: true,
      },
    ],
  },
};
