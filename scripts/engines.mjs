import { readFileSync } from "node:fs";
import { join } from "node:path";
import semver from "semver";
import { ROOT } from "./ensure.mjs";

// Every package of the lock file runs on the oldest of each Node that we promise. What is for another
// platform is never installed here and does not count.
const PROMISED = ["20.19.0", "22.13.0", "24.0.0"];
const read = (name) => JSON.parse(readFileSync(join(ROOT, name), "utf8"));
const { engines } = read("package.json");
const { packages } = read("package-lock.json");
const lacking = ([path, { engines: needs, os, cpu, version }]) =>
  !path.includes("node_modules") || !needs?.node || os || cpu
    ? []
    : PROMISED.filter((node) => !semver.satisfies(node, needs.node)).map(
        (node) => `${path} ${version} wants Node ${needs.node}, not ${node}`,
      );
const wrong = Object.entries(packages).flatMap(lacking);
for (const node of PROMISED)
  if (!semver.satisfies(node, engines.node)) wrong.push(`package.json does not promise Node ${node}`);
for (const line of wrong) console.error(line);
if (wrong.length) process.exit(1);
console.log(`${Object.keys(packages).length} packages run on Node ${PROMISED.join(", ")}`);
