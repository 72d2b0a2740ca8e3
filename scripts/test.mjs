import { spawnSync } from "node:child_process";
import { mkdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import { ensureBuilt, ensureChromium, ensureDriver, ensurePackages, ensurePdfText, ROOT, say } from "./ensure.mjs";

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

say("Jest…");
const jest = test("jest", ["--ci", "--json", `--outputFile=${reports.jest}`, "--silent", "--maxWorkers=2"]);
say("Playwright…");
const playwright = test("playwright", ["test"], {
  PLAYWRIGHT_JSON_OUTPUT_NAME: reports.playwright,
});
process.exit(jest || playwright);
