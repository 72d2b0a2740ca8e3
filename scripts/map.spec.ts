import { existsSync, readdirSync, readFileSync } from "node:fs";
import { dirname, join } from "node:path";

const root = join(__dirname, "..");
const FLOORS = ["packages/core/src", "packages/contract/src", "apps/server/src", "apps/web/src/app"];
const read = (name: string): string => readFileSync(join(root, name), "utf8");

describe("what leads into the code", () => {
  it("docs/MAP.md names files that are there", () => {
    const rows = read("docs/MAP.md")
      .split("\n")
      .filter((line) => line.startsWith("|"))
      .slice(2)
      .map((line) => line.split("|").slice(2, 6));
    expect(rows.length).toBeGreaterThan(30);
    const gone: string[] = [];
    for (const row of rows)
      row.forEach((cell, floor) => {
        let room = "";
        for (const [, name] of cell.matchAll(/`([^`*]+)`/g)) {
          const here = [name, join(room, name)].find((path) => existsSync(join(root, FLOORS[floor], path)));
          if (here === undefined) gone.push(`${FLOORS[floor]}/${name}`);
          else if (here.includes("/")) room = dirname(here);
        }
      });
    expect(gone).toEqual([]);
  });

  it("docs/reference/sums.md names files of core that are there, and every file of a sum is in it", () => {
    const text = read("docs/reference/sums.md");
    const named = text
      .split("\n")
      .filter((line) => line.startsWith("|") && !line.startsWith("| what"))
      .flatMap((line) => {
        let room = "";
        return [...(line.split("|")[2] ?? "").matchAll(/`([^`*]+)`/g)].map(([, name]) => {
          const path = [name, join(room, name)].find((p) => existsSync(join(root, FLOORS[0], p))) ?? "";
          if (path.includes("/")) room = dirname(path);
          return { name, path };
        });
      });
    expect(named.length).toBeGreaterThan(50);
    expect(named.filter(({ path }) => path === "")).toEqual([]);
    const there = new Set(named.map(({ path }) => path.replace(/\/$/, "")));
    const rooms = readdirSync(join(root, FLOORS[0], "sums"), { withFileTypes: true }).filter((d) => d.isDirectory());
    const files = rooms.flatMap(({ name: room }) =>
      readdirSync(join(root, FLOORS[0], "sums", room))
        .filter((name) => name.endsWith(".ts") && !/\.spec\.|^index|^types/.test(name))
        .map((name) => `sums/${room}/${name}`),
    );
    expect(files.length).toBeGreaterThan(8);
    expect(files.filter((path) => !there.has(path) && !there.has(dirname(path)))).toEqual([]);
  });

  it("CONTRIBUTING.md names files, scripts and links that are there", () => {
    const text = read("CONTRIBUTING.md");
    const paths = [...text.matchAll(/`((?:packages|apps|docs|e2e|scripts)\/[^`*<]+)`/g)].map((m) => m[1]);
    expect(paths.length).toBeGreaterThan(9);
    expect(paths.filter((path) => !existsSync(join(root, path)))).toEqual([]);
    const scripts = Object.keys((JSON.parse(read("package.json")) as { scripts: object }).scripts);
    const asked = [...text.matchAll(/`npm run ([\w:]+)/g)].map((m) => m[1]);
    expect(asked.filter((name) => !scripts.includes(name))).toEqual([]);
    const links = [...text.matchAll(/\]\(([^)]+)\)/g)].map((m) => m[1]);
    expect(links.filter((link) => !existsSync(join(root, link)))).toEqual([]);
  });
});
