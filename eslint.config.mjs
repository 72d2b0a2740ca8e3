import angular from "angular-eslint";
import eslint from "@eslint/js";
import tseslint from "typescript-eslint";
import imports from "./scripts/import-rules.cjs";

export default tseslint.config(
  {
    ignores: [
      "dist/**",
      "**/.angular/**",
      ".cache/**",
      "coverage/**",
      "playwright-report/**",
      "test-results/**",
    ],
  },
  {
    files: ["**/*.ts"],
    extends: [
      eslint.configs.recommended,
      ...tseslint.configs.strict,
      ...tseslint.configs.stylistic,
    ],
    rules: {
      "@typescript-eslint/no-explicit-any": "error",
      "@typescript-eslint/no-unused-vars": [
        "error",
        { argsIgnorePattern: "^_", varsIgnorePattern: "^_" },
      ],
      "max-lines": [
        "error",
        { max: 420, skipBlankLines: true, skipComments: true },
      ],
      eqeqeq: "error",
    },
  },
  {
    files: ["apps/web/src/**/*.ts"],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      "@angular-eslint/component-selector": [
        "error",
        { type: "element", prefix: "ip", style: "kebab-case" },
      ],
      "@angular-eslint/prefer-on-push-component-change-detection": "error",
      "no-restricted-properties": [
        "error",
        {
          object: "crypto",
          property: "randomUUID",
          message:
            "It does not exist over plain http on a network: use newKey().",
        },
      ],
      // Components without a body of their own are decorated all the same.
      "@typescript-eslint/no-extraneous-class": [
        "error",
        { allowWithDecorator: true },
      ],
    },
  },
  {
    files: ["apps/web/src/**/*.html"],
    extends: [
      ...angular.configs.templateRecommended,
      ...angular.configs.templateAccessibility,
    ],
    rules: {
      "@angular-eslint/template/no-any": "off",
    },
  },
  ...imports.importRules,
);
