import { NOTHING_TOLD, toldByAxisSchema } from "./diagnosis/case";
import { OPERATIONS } from "./routes";
import * as z from "zod";

type Schema = Readonly<Record<string, unknown>>;

/** Where a text or a list may come in without an end. */
function endless(schema: unknown, at: string): string[] {
  if (Array.isArray(schema)) return schema.flatMap((s, i) => endless(s, `${at}[${i}]`));
  if (typeof schema !== "object" || schema === null) return [];
  const s = schema as Schema;
  const own: string[] = [];
  const bounded =
    "maxLength" in s || "enum" in s || "const" in s || ["uuid", "date", "date-time"].includes(String(s["format"]));
  // What may be empty has its type in a list.
  const types = [s["type"]].flat();
  if (types.includes("string") && !bounded) own.push(at);
  if (types.includes("array") && !("maxItems" in s) && !("prefixItems" in s)) own.push(`${at}[]`);
  if (
    s["type"] === "object" &&
    s["additionalProperties"] &&
    typeof s["additionalProperties"] === "object" &&
    !("maxProperties" in s) &&
    !("enum" in ((s["propertyNames"] ?? {}) as Schema))
  )
    own.push(`${at}{}`);
  const inner = Object.entries(s).filter(([key]) =>
    [
      "properties",
      "items",
      "anyOf",
      "oneOf",
      "allOf",
      "prefixItems",
      "additionalProperties",
      "propertyNames",
      "$defs",
    ].includes(key),
  );
  return [
    ...own,
    ...inner.flatMap(([key, value]) =>
      key === "properties" || key === "$defs"
        ? Object.entries(value as Schema).flatMap(([name, v]) => endless(v, `${at}.${name}`))
        : key === "items"
          ? endless(value, `${at}[]`)
          : endless(value, at),
    ),
  ];
}

describe("what comes in", () => {
  it("of one case names no more axes than a machine has", () => {
    const told = (n: number) => Object.fromEntries(Array.from({ length: n }, (_, i) => [`${i + 1}`, NOTHING_TOLD]));
    expect(toldByAxisSchema.safeParse(told(12)).success).toBe(true);
    expect(toldByAxisSchema.safeParse(told(13)).error?.issues[0].message).toBe("At most 12 axes.");
  });

  it("has an end: every text and every list of every operation has a most", () => {
    const found = Object.entries(OPERATIONS).flatMap(([name, o]) =>
      (["params", "query", "body"] as const).flatMap((part) =>
        o[part] === null
          ? []
          : endless(
              z.toJSONSchema(o[part] as z.ZodType, {
                io: "input",
                unrepresentable: "any",
              }),
              `${name}.${part}`,
            ),
      ),
    );
    expect(found).toEqual([]);
  });
});
