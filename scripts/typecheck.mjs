import { spawnSync } from "node:child_process";
import { join } from "node:path";
import ts from "typescript";
import { ROOT } from "./ensure.mjs";

/**
 * `npm run typecheck`: every file once, in the first program it belongs to. As six runs of the compiler, each would
 * look through all that the floors below it had looked through.
 *
 * `--built` leaves the web app’s own files and templates to the production build that has just been through them.
 */
const PROGRAMS = [
  "packages/core/tsconfig.json",
  "packages/contract/tsconfig.json",
  "apps/server/tsconfig.json",
  "tsconfig.spec.json",
  "apps/web/tsconfig.spec.json",
];
const APP = "apps/web/tsconfig.app.json";
const host = {
  getCanonicalFileName: (name) => name,
  getCurrentDirectory: () => ROOT,
  getNewLine: () => "\n",
};

function configOf(path) {
  return ts.getParsedCommandLineOfConfigFile(
    join(ROOT, path),
    { noEmit: true },
    { ...ts.sys, getCurrentDirectory: () => ROOT, onUnRecoverableConfigFileDiagnostic: (wrong) => fail([wrong]) },
  );
}

let failed = false;
function fail(found) {
  if (found.length === 0) return;
  failed = true;
  console.error(ts.formatDiagnosticsWithColorAndContext(found, host));
}

// The Angular compiler looks at these, templates with them.
const looked = new Set(configOf(APP).fileNames);
for (const path of PROGRAMS) {
  const { fileNames, options, errors } = configOf(path);
  fail(errors);
  const program = ts.createProgram(fileNames, options);
  fail([...program.getOptionsDiagnostics(), ...program.getGlobalDiagnostics()]);
  for (const name of fileNames) {
    if (looked.has(name)) continue;
    looked.add(name);
    const file = program.getSourceFile(name);
    fail([...program.getSyntacticDiagnostics(file), ...program.getSemanticDiagnostics(file)]);
  }
}
if (!process.argv.includes("--built")) {
  const { status } = spawnSync(join(ROOT, "node_modules", ".bin", "ngc"), ["-p", APP, "--noEmit"], {
    cwd: ROOT,
    stdio: "inherit",
  });
  failed ||= status !== 0;
}
process.exit(failed ? 1 : 0);
