import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { once } from "node:events";
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
/** Debian’s headless build of Chromium, which starts and draws in two thirds of the time; else the whole one. */
export const CHROMIUM =
  ["/usr/bin/chromium-headless-shell", "/usr/bin/chromium"].find((path) => existsSync(path)) ??
  "/usr/bin/chromium-headless-shell";
const PDF_TEXT = "/usr/bin/pdftotext";

/** Runs a command with its output shown; ends this process when it fails. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, {
    cwd: ROOT,
    stdio: "inherit",
    ...options,
  });
  if (error) throw error;
  if (status !== 0) {
    console.error(`${command} ${args.join(" ")} failed (${status}).`);
    process.exit(status ?? 1);
  }
}

export function say(text) {
  console.log(`» ${text}`);
}

function lockFingerprint() {
  return createHash("sha256")
    .update(readFileSync(join(ROOT, "package-lock.json")))
    .digest("hex");
}

/** Installs the locked packages when they are not there or the lock file has changed; compiles nothing. */
export function ensurePackages() {
  const stamp = join(ROOT, "node_modules", ".installed-lock");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === lockFingerprint()) return;
  say("Installing packages (about a minute)…");
  // Not `npm ci`: npm 11 calls its own lock file out of step over optional packages of other platforms.
  // Of all that packages would run, only the database driver’s is needed: see ensureDriver.
  run("npm", ["install", "--no-audit", "--no-fund", "--ignore-scripts"]);
  writeFileSync(stamp, lockFingerprint());
}

/**
 * Fetches or compiles the database driver where it does not load: on a new machine, or under another Node. One
 * processor is busy with it for a minute or two, so that what does not need it goes on meanwhile.
 */
export async function ensureDriver() {
  const tried = spawnSync(process.execPath, ["-e", "new (require('better-sqlite3'))(':memory:')"], { cwd: ROOT });
  if (tried.status === 0) return;
  say("Making the database driver ready (a minute or two where it has to be compiled)…");
  const child = spawn("npm", ["rebuild", "better-sqlite3"], { cwd: ROOT, stdio: "inherit" });
  const [status] = await once(child, "exit");
  if (status === 0) return;
  console.error(`npm rebuild better-sqlite3 failed (${status}). To compile it: python3, make and g++.`);
  process.exit(1);
}

/** All that runs needs: the packages, and the driver. */
export async function ensureInstalled() {
  ensurePackages();
  await ensureDriver();
}

/** Installs Debian’s pdftotext, with which the tests read what stands in a PDF file; says what to do otherwise. */
export function ensurePdfText() {
  if (existsSync(PDF_TEXT)) return;
  const root = process.getuid?.() === 0;
  if (!root || !existsSync("/usr/bin/apt-get")) {
    console.error(
      `The tests of PDF files need pdftotext at ${PDF_TEXT}. As root: apt-get update && apt-get install -y poppler-utils`,
    );
    process.exit(1);
  }
  say("Installing poppler-utils from Debian’s packages for the PDF tests…");
  run("apt-get", ["update", "-qq"]);
  run("apt-get", ["install", "-y", "-qq", "poppler-utils"], {
    env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
    stdio: ["ignore", "ignore", "inherit"],
  });
}

/** Installs Debian’s PostgreSQL where that is asked and we may; whether it is there. */
export function ensurePostgres(there) {
  if (there() || process.getuid?.() !== 0 || !existsSync("/usr/bin/apt-get")) return there();
  say("Installing PostgreSQL from Debian’s packages for the tests of the other store…");
  run("apt-get", ["update", "-qq"]);
  run("apt-get", ["install", "-y", "-qq", "--no-install-recommends", "postgresql"], {
    env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
    stdio: ["ignore", "ignore", "inherit"],
  });
  return there();
}

/** Installs Debian’s Chromium when it is missing and we may; says what to do otherwise. */
export function ensureChromium() {
  if (existsSync(CHROMIUM)) return;
  const root = process.getuid?.() === 0;
  if (!root || !existsSync("/usr/bin/apt-get")) {
    console.error(
      `The browser tests need Chromium at ${CHROMIUM}. As root: apt-get update && apt-get install -y chromium-headless-shell`,
    );
    process.exit(1);
  }
  say("Installing Chromium from Debian’s packages for the browser tests…");
  run("apt-get", ["update", "-qq"]);
  run("apt-get", ["install", "-y", "-qq", "chromium-headless-shell"], {
    env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
    stdio: ["ignore", "ignore", "inherit"],
  });
}

function filesUnder(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.name === "node_modules" || entry.name === ".angular") return [];
    return entry.isDirectory() ? filesUnder(path) : [path];
  });
}

/** A fingerprint of everything the build is made from. */
function sourceFingerprint() {
  const hash = createHash("sha256");
  const files = [
    ...filesUnder(join(ROOT, "packages")),
    ...filesUnder(join(ROOT, "apps")),
    ...[
      "package-lock.json",
      "tsconfig.base.json",
      "scripts/bundle-server.mjs",
      "scripts/precompress.mjs",
      "scripts/offline-shell.mjs",
    ].map((f) => join(ROOT, f)),
  ].filter((f) => !f.endsWith(".spec.ts"));
  for (const file of files.sort()) hash.update(file.slice(ROOT.length)).update(readFileSync(file));
  return hash.digest("hex");
}

/** Builds the server and the web app, unless nothing has changed since the last time. */
export async function ensureBuilt({ force = false } = {}) {
  const stamp = join(ROOT, "dist", ".built-from");
  const fingerprint = sourceFingerprint();
  if (!force && existsSync(stamp) && readFileSync(stamp, "utf8") === fingerprint) return;
  say("Building (about half a minute)…");
  run(join(ROOT, "node_modules", ".bin", "ng"), ["build"], {
    cwd: join(ROOT, "apps", "web"),
    env: { ...process.env, NG_CLI_ANALYTICS: "false" },
  });
  const { keepPageAsAnswered } = await import("./offline-shell.mjs");
  keepPageAsAnswered(join(ROOT, "dist", "web", "browser"));
  const { precompress } = await import("./precompress.mjs");
  await precompress(join(ROOT, "dist", "web", "browser"));
  const { bundleServer } = await import("./bundle-server.mjs");
  await bundleServer(ROOT, "dist/server/main.cjs");
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, fingerprint);
}
