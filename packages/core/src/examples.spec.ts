import { readdirSync, readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import * as core from "./index";

interface Example {
  readonly file: string;
  readonly code: string;
  /** As it stands after the slashes. */
  readonly gives: string;
}

const ROOT = __dirname;
const sources = (readdirSync(ROOT, { recursive: true }) as string[]).filter((f) => /(?<!\.spec)\.ts$/.test(f));

/** What a doc comment shows: `@example call(1, 2) // 3`, over one line or several. */
function examplesOf(file: string): readonly Example[] {
  const text = readFileSync(join(ROOT, file), "utf8");
  return [...text.matchAll(/^ \* @example((?:(?!^ \* @|^ \*\/)[^\n]*\n)+)/gm)].flatMap(([, block]) => {
    const lines = block.replace(/^ \* ?/gm, "").trim();
    const cut = lines.lastIndexOf("//");
    if (cut < 0) throw new Error(`${file}: an example does not say what it gives: ${lines}`);
    return [{ file, code: lines.slice(0, cut).trim(), gives: lines.slice(cut + 2).trim() }];
  });
}

/** Runs an example; where it is several statements, what the last one gives. */
function run(code: string, scope: object): unknown {
  const last = code.lastIndexOf(";\n") + 1;
  // In a block of its own: it may have names that the files beside it have too.
  const body = `{ ${code.slice(0, last)}\nreturn (${code.slice(last)}); }`;
  return new Function(...Object.keys(scope), body)(...Object.values(scope)) as unknown;
}

describe("what the doc comments of the core show", () => {
  const examples = sources.flatMap(examplesOf);

  it("is there to be tried", () => {
    expect(examples.length).toBeGreaterThan(390);
  });

  it.each(examples.map((e) => [`${e.file}: ${e.code}`, e] as const))("%s", async (_, { file, code, gives }) => {
    const beside = sources.filter((f) => dirname(f) === dirname(file));
    const own = await Promise.all(beside.map(async (f) => (await import(join(ROOT, f))) as object));
    const scope = Object.assign({}, core, ...own) as object;
    const got = run(code, scope);
    const wanted = run(gives, {});
    if (typeof got !== "number" || typeof wanted !== "number") expect(got).toEqual(wanted);
    else {
      // As many digits as are shown, and right to half of the last.
      const digits = gives.replace(/^[-−]?0*\.?0*/, "").replace(/\D/g, "").length;
      expect(Math.abs(got - wanted)).toBeLessThanOrEqual(
        0.6 * 10 ** (Math.floor(Math.log10(Math.abs(wanted) || 1)) + 1 - digits),
      );
    }
  });
});
