import { build } from "esbuild";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { ROOT } from "./ensure.mjs";
import bundles from "./jest-bundles.mjs";

const CACHE = join(ROOT, ".cache", "jest");
/** What the web app stands on, sent to the tests as one file: apps/web/jest.config.js maps the same names. */
const LIBRARY = /^(?:@angular\/.+|primeng\/.+|@primeuix\/.+|@testing-library\/dom|rxjs|zod)$/;
/** What the test environment asks for besides. */
const OF_THE_TEST_BED = ["@angular/compiler", "@angular/platform-browser/testing"];

/**
 * What the web app stands on as one file, beside core and contract: every test file begins with an empty registry, and
 * loading its libraries one by one and compiling their half-compiled components took a third of its time.
 */
export default async function libraries() {
  await Promise.all([bundles(), ofTheWeb()]);
}

/** Which libraries the sources of the web app name. */
function named(folder) {
  return readdirSync(folder, { recursive: true, encoding: "utf8" })
    .filter((file) => file.endsWith(".ts"))
    .flatMap((file) => [...readFileSync(join(folder, file), "utf8").matchAll(/^(?:import|\}) .*from "([^"]+)";$/gm)])
    .map((found) => found[1])
    .filter((name) => LIBRARY.test(name));
}

async function ofTheWeb() {
  const web = join(ROOT, "apps", "web");
  const names = [...new Set([...named(join(web, "src")), ...OF_THE_TEST_BED])].sort();
  const made = createHash("sha256").update(names.join());
  for (const file of [join(ROOT, "package-lock.json"), fileURLToPath(import.meta.url)]) made.update(readFileSync(file));
  const stamp = join(CACHE, "libraries.from");
  const from = made.digest("hex");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === from) return;
  rmSync(join(CACHE, "libraries"), { recursive: true, force: true });
  await build({
    absWorkingDir: web,
    stdin: { contents: names.map((name, at) => `export * as m${at} from "${name}";`).join("\n"), resolveDir: web },
    outfile: join(CACHE, "libraries.cjs"),
    bundle: true,
    platform: "browser",
    mainFields: ["es2020", "module", "main"],
    target: "es2022",
    format: "cjs",
    logLevel: "warning",
    plugins: [await linking(web)],
  });
  for (const [at, name] of names.entries()) {
    const file = join(CACHE, "libraries", `${name}.cjs`);
    const up = "../".repeat(name.split("/").length);
    mkdirSync(dirname(file), { recursive: true });
    // A plain object: what esbuild makes asks a function for each name each time it is used.
    writeFileSync(
      file,
      `Object.assign(Object.defineProperty(exports, "__esModule", { value: true }), require("${up}libraries.cjs").m${at});\n`,
    );
  }
  writeFileSync(stamp, from);
}

/** Angular’s own linker, run by the Babel it came with: libraries are published half compiled. */
async function linking(web) {
  const ofWeb = createRequire(join(web, "package.json"));
  const babel = createRequire(ofWeb.resolve("@angular/compiler-cli"))("@babel/core");
  const { ConsoleLogger, LogLevel, NodeJSFileSystem } = await import(ofWeb.resolve("@angular/compiler-cli"));
  const { createEs2015LinkerPlugin } = await import(ofWeb.resolve("@angular/compiler-cli/linker/babel"));
  const linker = createEs2015LinkerPlugin({
    fileSystem: new NodeJSFileSystem(),
    logger: new ConsoleLogger(LogLevel.warn),
    // Our own components are compiled where they are tested, and ask modules for what is in them.
    linkerJitMode: true,
    sourceMapping: false,
  });
  const link = async ({ path }) => {
    const contents = readFileSync(path, "utf8");
    if (!contents.includes("ɵɵngDeclare")) return { contents };
    const options = { filename: path, plugins: [linker], compact: false, configFile: false, babelrc: false };
    return { contents: (await babel.transformAsync(contents, options)).code };
  };
  return { name: "linking", setup: (to) => to.onLoad({ filter: /\.mjs$/ }, link) };
}
