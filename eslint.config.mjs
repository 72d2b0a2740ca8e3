import angular from "angular-eslint";
import eslint from "@eslint/js";
import regexp from "eslint-plugin-regexp";
import tseslint from "typescript-eslint";
import imports from "./scripts/import-rules.cjs";

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
      "max-lines": ["error", { max: 350, skipBlankLines: true, skipComments: true }],
      // Columns help in tables that a technician reads; elsewhere code is formatted like all code.
      "no-warning-comments": ["error", { terms: ["prettier-ignore"], location: "anywhere" }],
      eqeqeq: "error",
      // Text from outside takes time as it is long, and never more.
      "regexp/no-super-linear-backtracking": ["error", { report: "certain" }],
      "regexp/no-super-linear-move": "error",
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
    rules: { "no-warning-comments": "off", "max-lines": "off" },
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
    },
  },
  ...imports.importRules,
);
