import { spawnSync } from "node:child_process";
import { mkdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import { ensureBuilt, ensureChromium, ensureDriver, ensurePackages, ensurePdfText, ROOT, say } from "./ensure.mjs";
import { postgresPrograms, withPostgres } from "./postgres.mjs";

// `npm test`: everything it needs, then Jest, then the browser tests. Reports go to .cache/.
ensurePackages();
const driver = ensureDriver();
ensureChromium();
ensurePdfText();
await ensureBuilt();
await driver;
mkdirSync(join(ROOT, ".cache"), { recursive: true });
const reports = {
  jest: join(ROOT, ".cache", "jest.json"),
  postgres: join(ROOT, ".cache", "jest-postgres.json"),
  playwright: join(ROOT, ".cache", "playwright.json"),
};
for (const file of Object.values(reports)) rmSync(file, { force: true });
const bin = (name) => join(ROOT, "node_modules", ".bin", name);
const test = (name, args, env = {}) =>
  spawnSync(bin(name), args, {
    cwd: ROOT,
    stdio: "inherit",
    env: { ...process.env, ...env },
  }).status ?? 1;

const jestTo = (report) => ["--ci", "--json", `--outputFile=${report}`, "--silent", "--maxWorkers=2"];
say("Jest…");
const jest = test("jest", jestTo(reports.jest));
// Required where everything must hold; elsewhere a shop that has its file needs none.
const postgres = postgresPrograms() ? await onPostgres() : (say("PostgreSQL is not here: its tests are skipped."), 0);
say("Playwright…");
const playwright = test("playwright", ["test"], {
  PLAYWRIGHT_JSON_OUTPUT_NAME: reports.playwright,
});
process.exit(jest || postgres || playwright);

async function onPostgres() {
  say("Jest, on PostgreSQL…");
  return withPostgres(async (url) =>
    test("jest", ["-c", "jest.postgres.config.js", ...jestTo(reports.postgres)], { IRON_TEST_STORE: url }),
  );
}
