import { validate, ValidationSeverity } from "dockerfile-utils";
import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";

// What is kept for running the server as a service is not run here: it is read, and its lines are held against the app.
const ROOT = join(__dirname, "..");
const read = (name: string): string => readFileSync(join(ROOT, "deploy", name), "utf8");
const options = readFileSync(join(ROOT, "apps", "server", "src", "start-options.ts"), "utf8");
/** Every option of a line is one the server knows. */
function known(line: string): void {
  const asked = [...line.matchAll(/--([a-z-]+)/g)].map((m) => m[1]);
  expect(asked.length).toBeGreaterThan(2);
  for (const option of asked)
    expect([option, new RegExp(`^\\s*"?${option}"?: \\{ type:`, "m").test(options)]).toEqual([option, true]);
}

describe("running as a service", () => {
  it("a linter has nothing against the Dockerfile, and would have", () => {
    const says = (text: string) =>
      validate(text, { deprecatedMaintainer: ValidationSeverity.ERROR }).map(
        (d) => `${d.range.start.line + 1}: ${d.message}`,
      );
    expect(says(read("Dockerfile"))).toEqual([]);
    expect(says("FROM node:22\nMAINTAINER me\nRUNN x\n")).toHaveLength(2);
  });

  it("its base is a Node that the project runs on, it builds what is built here, and does not run as root", () => {
    const file = read("Dockerfile");
    const engines = (JSON.parse(readFileSync(join(ROOT, "package.json"), "utf8")) as { engines: { node: string } })
      .engines.node;
    const [, major] = /^FROM node:(\d+)-/m.exec(file) ?? [];
    expect(Number(major)).toBeGreaterThanOrEqual(Number(/\d+/.exec(engines)?.[0]));
    expect(file.lastIndexOf("USER node")).toBeGreaterThan(file.lastIndexOf("FROM"));
    expect(existsSync(join(ROOT, "apps", "server", "src", "main.ts"))).toBe(true);
    known(/^CMD (.+)$/m.exec(file)?.[1] ?? "");
  });

  it("the unit for systemd starts what there is, as nobody in particular, and lets it end by itself", () => {
    const lines = new Map(
      read("iron-patience.service")
        .split("\n")
        .filter((line) => /^[A-Z]/.test(line))
        .map((line) => [line.slice(0, line.indexOf("=")), line.slice(line.indexOf("=") + 1)] as const),
    );
    known(lines.get("ExecStart") ?? "");
    expect(lines.get("User")).not.toBe("root");
    expect(`/var/lib/${lines.get("StateDirectory")}`).toBe(/--data (\S+)/.exec(lines.get("ExecStart") ?? "")?.[1]);
    // Main ends cleanly on this signal.
    const main = readFileSync(join(ROOT, "apps", "server", "src", "main.ts"), "utf8");
    expect(main).toContain(lines.get("KillSignal") ?? "?");
  });

  it("the wrapper for Windows is well-formed and asks for what the server knows", () => {
    const xml = read("iron-patience-service.xml");
    known(/<arguments>(.+)<\/arguments>/.exec(xml)?.[1] ?? "");
    // Each element that is opened is closed, in order.
    const open: string[] = [];
    for (const [element, closes, name] of xml.replace(/<!--[^]*?-->/g, "").matchAll(/<(\/?)([a-zA-Z]+)\b[^>]*>/g)) {
      if (closes) expect(open.pop()).toBe(name);
      else if (!element.endsWith("/>")) open.push(name);
    }
    expect(open).toEqual([]);
  });
});
