import { spawnSync } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { format, resolveConfig } from "prettier";
import { ROOT } from "./ensure.mjs";

// Proves which floor and room imports what (.dependency-cruiser.cjs), and that the drawing in docs/floors.md
// is of today. `--draw` draws it anew.
const DRAWING = join(ROOT, "docs", "floors.md");
// They put everything together, and so know everything.
const ENTRIES = new Set(["index", "app", "main"]);
const ROOM = "^(packages|apps)/[^/]+/src/(app/)?[^/.]+";

function cruise(...args) {
  const { status, stdout, stderr } = spawnSync(
    join(ROOT, "node_modules", ".bin", "depcruise"),
    ["packages", "apps/server/src", "apps/web/src", ...args],
    { cwd: ROOT, encoding: "utf8", maxBuffer: 64e6 },
  );
  if (status !== 0) {
    console.error(stdout || stderr);
    process.exit(1);
  }
  return stdout;
}

const [summary] = cruise("--output-type", "err").trim().split("\n");
const rooms = JSON.parse(
  cruise(
    "--exclude",
    "\\.(spec|testing)\\.|/testing/|/coverage/|node_modules",
    "--collapse",
    ROOM,
    "--output-type",
    "json",
  ),
);

const place = (path) => {
  const found = /^(?:packages|apps)\/([^/]+)\/src\/(?:app\/)?([^/.]+)(?:\/|$)/.exec(path);
  return found ? { floor: found[1], room: found[2] } : null;
};
const within = new Map();
const across = new Set();
for (const { source, dependencies } of rooms.modules)
  for (const { resolved } of dependencies) {
    const [from, to] = [place(source), place(resolved)];
    if (!from || !to) {
      const [a, b] = [source, resolved].map((path) => /^(?:packages|apps)\/([^/]+)\//.exec(path)?.[1]);
      if (a && b && a !== b) across.add(`${a} --> ${b}`);
      continue;
    }
    if (from.floor !== to.floor) across.add(`${from.floor} --> ${to.floor}`);
    else if (from.room !== to.room && !ENTRIES.has(from.room))
      within.set(from.floor, (within.get(from.floor) ?? new Set()).add(`${from.room} --> ${to.room}`));
  }
const drawn = (lines) => ["```mermaid", "flowchart TD", ...[...lines].sort().map((l) => `  ${l}`), "```"].join("\n");
const page = [
  "# Floors and rooms",
  "Drawn by `npm run floors -- --draw` from the imports as they are, tests left out. What may be so, and why, stands in `.dependency-cruiser.cjs`.",
  "## Floors",
  drawn(across),
  ...[...within].sort().flatMap(([floor, lines]) => [`## Rooms of ${floor}`, drawn(lines)]),
].join("\n\n");
const text = await format(page, { ...(await resolveConfig(DRAWING)), parser: "markdown" });
if (process.argv.includes("--draw")) writeFileSync(DRAWING, text);
else if (readFileSync(DRAWING, "utf8") !== text) {
  console.error("docs/floors.md is not of today: npm run floors -- --draw");
  process.exit(1);
}
console.log(summary || "no dependency violations found");
