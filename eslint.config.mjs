import angular from "angular-eslint";
import eslint from "@eslint/js";
import jsdoc from "eslint-plugin-jsdoc";
import regexp from "eslint-plugin-regexp";
import tseslint from "typescript-eslint";
import imports from "./scripts/import-rules.cjs";

/** Functions that others call. */
const EXPORTED = ["ExportNamedDeclaration > FunctionDeclaration"];

export default tseslint.config(
  {
    ignores: ["dist/**", "**/.angular/**", ".cache/**", "coverage/**", "playwright-report/**", "test-results/**"],
  },
  {
    files: ["**/*.ts"],
    plugins: { regexp },
    extends: [eslint.configs.recommended, ...tseslint.configs.strict, ...tseslint.configs.stylistic],
    rules: {
      "@typescript-eslint/no-explicit-any": "error",
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "max-lines-per-function": ["error", { max: 60, skipBlankLines: true, skipComments: true }],
      "max-lines": ["error", { max: 350 }],
      // What else a function takes has names where it is called.
      "max-params": ["error", 3],
      // Columns help in tables that a technician reads; elsewhere code is formatted like all code.
      "no-warning-comments": ["error", { terms: ["prettier-ignore"], location: "anywhere" }],
      eqeqeq: "error",
      // Text from outside takes time as it is long, and never more.
      "regexp/no-super-linear-backtracking": ["error", { report: "certain" }],
      "regexp/no-super-linear-move": "error",
    },
  },
  {
    // Every function that others call says what it does, takes and gives, in units, with an example that a test runs.
    files: ["packages/core/src/**/*.ts"],
    ignores: ["**/*.spec.ts", "**/*.suite.ts", "**/*.testing.ts"],
    plugins: { jsdoc },
    rules: {
      "jsdoc/require-jsdoc": ["error", { publicOnly: true, require: { FunctionDeclaration: true } }],
      "jsdoc/require-description": ["error", { contexts: EXPORTED }],
      "jsdoc/require-param": ["error", { checkDestructured: false, contexts: EXPORTED }],
      "jsdoc/require-param-description": ["error", { contexts: EXPORTED }],
      "jsdoc/check-param-names": ["error", { checkDestructured: false }],
      "jsdoc/require-returns": ["error", { contexts: EXPORTED }],
      "jsdoc/require-returns-description": ["error", { contexts: EXPORTED }],
      "jsdoc/require-example": ["error", { contexts: EXPORTED }],
    },
  },
  {
    files: ["apps/web/src/**/*.ts"],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      "@angular-eslint/component-selector": ["error", { type: "element", prefix: "ip", style: "kebab-case" }],
      "@angular-eslint/prefer-on-push-component-change-detection": "error",
      "no-restricted-properties": [
        "error",
        {
          object: "crypto",
          property: "randomUUID",
          message: "It does not exist over plain http on a network: use newKey().",
        },
      ],
      // Components without a body of their own are decorated all the same.
      "@typescript-eslint/no-extraneous-class": ["error", { allowWithDecorator: true }],
    },
  },
  {
    files: ["**/*.table.ts"],
    rules: { "no-warning-comments": "off", "max-lines": "off", "max-params": "off" },
  },
  {
    // A test's body is a list of what must hold.
    files: ["**/*.spec.ts", "**/*.suite.ts", "e2e/**/*.ts"],
    rules: { "max-lines-per-function": "off", "max-params": "off" },
  },
  {
    // Express knows the one that answers errors by its four, and a drawing’s boxes and arrows are as SVG has them.
    files: [
      "apps/server/src/http/errors.ts",
      "apps/web/src/app/chain/drawings.ts",
      "apps/web/src/app/sums/drawings.ts",
    ],
    rules: { "max-params": "off" },
  },
  {
    // A chart, and a catalogue of odd requests, are one literal each: parts with names of their own would hide the whole.
    files: [
      "apps/web/src/app/diagnosis/load-trace.view.ts",
      "apps/web/src/app/measure/hand/hand-test-chart.ts",
      "apps/web/src/app/measure/history/history-chart.ts",
      "apps/web/src/app/measure/run/profile-chart.ts",
      "apps/web/src/app/prove/circle-chart.ts",
      "apps/web/src/app/sums/sums.view.ts",
      "apps/server/src/testing/requests.ts",
    ],
    rules: { "max-lines-per-function": "off" },
  },
  {
    // They read what our own pages say.
    files: ["e2e/**/*.ts"],
    rules: { "regexp/no-super-linear-move": "off" },
  },
  {
    files: ["apps/web/src/**/*.html"],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: {
      "@angular-eslint/template/no-any": "off",
      "max-lines": ["error", { max: 150 }],
    },
  },
  ...imports.importRules,
);
