import { readFileSync } from "node:fs";
import { join } from "node:path";
import { ROOT } from "./ensure.mjs";

// Sums Jest’s and Playwright’s reports; a report that is missing counts as one failure.
function read(name) {
  try {
    return JSON.parse(readFileSync(join(ROOT, ".cache", name), "utf8"));
  } catch {
    console.error(`.cache/${name} is missing: its tests did not run to their end.`);
    return null;
  }
}

const jest = read("jest.json");
const playwright = read("playwright.json");
const suites = [jest, read("jest-postgres.json")];
const passed = suites.reduce((sum, s) => sum + (s?.numPassedTests ?? 0), playwright?.stats.expected ?? 0);
const failed =
  suites.reduce((sum, s) => sum + (s ? s.numFailedTests + s.numRuntimeErrorTestSuites : 1), 0) +
  (playwright ? playwright.stats.unexpected + playwright.stats.flaky + playwright.errors.length : 1);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed > 0 || passed === 0 ? 1 : 0);
