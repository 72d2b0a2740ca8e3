/**
 * Imports go one way: web → contract, core; server → contract, core; contract → core; core → nothing
 * of ours, and neither core nor contract knows Node or a browser framework.
 */
const NODE = ["node:*", "/fs", "/path", "/http", "/crypto", "/os"];
const FRAMEWORKS = ["@angular/*", "express", "kysely", "better-sqlite3", "primeng/*", "chart.js", "rxjs"];
const UP_AND_OUT = [
  "**/packages/**",
  "**/apps/**",
  "**/core/src/**",
  "**/contract/src/**",
  "**/server/src/**",
  "**/web/src/**",
];

function forbid(files, groups, message) {
  return {
    files,
    ignores: ["**/*.spec.ts"],
    rules: {
      "no-restricted-imports": ["error", { patterns: [{ group: groups, message }] }],
    },
  };
}

module.exports.importRules = [
  forbid(
    ["packages/core/src/**/*.ts"],
    ["@iron/*", ...UP_AND_OUT, ...NODE, ...FRAMEWORKS, "zod"],
    "core imports nothing of ours, no Node and no framework.",
  ),
  forbid(
    ["packages/contract/src/**/*.ts"],
    ["@iron/server", "@iron/web", ...UP_AND_OUT, ...NODE, ...FRAMEWORKS],
    "contract imports core only.",
  ),
  forbid(
    ["apps/server/src/**/*.ts"],
    ["@iron/web", ...UP_AND_OUT, "@angular/*"],
    "server imports contract and core only.",
  ),
  forbid(
    ["apps/web/src/**/*.ts"],
    ["@iron/server", ...UP_AND_OUT, ...NODE, "express", "kysely", "better-sqlite3"],
    "web imports contract and core only.",
  ),
];
