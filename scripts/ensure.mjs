import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
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

/** Installs the locked packages when they are not there or the lock file has changed. */
export function ensureInstalled() {
  const stamp = join(ROOT, "node_modules", ".installed-lock");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === lockFingerprint()) return;
  say("Installing packages (a few minutes; the database driver may be compiled)…");
  // Not `npm ci`: npm 11 calls its own lock file out of step over optional packages of other platforms.
  run("npm", ["install", "--no-audit", "--no-fund"]);
  writeFileSync(stamp, lockFingerprint());
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
    ...["package-lock.json", "tsconfig.base.json", "scripts/bundle-server.mjs", "scripts/precompress.mjs"].map((f) =>
      join(ROOT, f),
    ),
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
  const { precompress } = await import("./precompress.mjs");
  await precompress(join(ROOT, "dist", "web", "browser"));
  const { bundleServer } = await import("./bundle-server.mjs");
  await bundleServer(ROOT, "dist/server/main.cjs");
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, fingerprint);
}
