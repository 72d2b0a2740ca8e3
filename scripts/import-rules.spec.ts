import { Linter } from "eslint";
import { importRules } from "./import-rules.cjs";

/** The rule must be able to fail: each forbidden import is tried on a file that is not there. */
describe("import rules", () => {
  const lint = (file: string, code: string): string[] =>
    new Linter().verify(code, importRules as Linter.Config[], { filename: file }).map((m) => m.message);

  it.each([
    ["packages/core/src/axis/x.ts", "@iron/contract"],
    ["packages/core/src/axis/x.ts", "node:fs"],
    ["packages/core/src/axis/x.ts", "@angular/core"],
    ["packages/core/src/axis/x.ts", "../../../contract/src/index"],
    ["packages/contract/src/x.ts", "express"],
    ["packages/contract/src/x.ts", "@iron/server"],
    ["apps/server/src/services/x.ts", "@iron/web"],
    ["apps/server/src/services/x.ts", "../../../web/src/main"],
    ["apps/web/src/app/x.ts", "../../../server/src/app"],
    ["apps/web/src/app/x.ts", "kysely"],
  ])("%s may not import %s", (file, from) => {
    expect(lint(file, `export * from "${from}";\n`)).toHaveLength(1);
  });

  it.each([
    ["packages/contract/src/x.ts", "@iron/core"],
    ["apps/server/src/services/x.ts", "@iron/contract"],
    ["apps/web/src/app/x.ts", "@iron/core"],
    ["packages/core/src/axis/x.ts", "../quantity"],
  ])("%s may import %s", (file, from) => {
    expect(lint(file, `export * from "${from}";\n`)).toEqual([]);
  });
});
