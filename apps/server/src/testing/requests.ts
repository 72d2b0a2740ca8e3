import { openApiDocument } from "@iron/contract";
import { randomUUID } from "node:crypto";

type Schema = Readonly<Record<string, unknown>>;

export interface Asked {
  readonly operation: string;
  readonly method: string;
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  /** As it goes out; undefined for none. */
  readonly body: string | undefined;
  /** What was spoilt, in words; empty for a request that keeps to the document. */
  readonly spoilt: string;
}

/** A small generator that repeats itself, 0 to below 1 (Lehmer, modulus 2³¹ − 1). */
export function draws(seed: number): () => number {
  let s = seed;
  return () => (s = (s * 48_271) % 2_147_483_647) / 2_147_483_647;
}

interface Place {
  readonly operation: string;
  readonly method: string;
  readonly path: string;
  readonly parameters: readonly {
    readonly name: string;
    readonly in: string;
    readonly required: boolean;
    readonly schema: Schema;
  }[];
  readonly body: Schema | null;
}

function places(): readonly Place[] {
  const { paths } = openApiDocument("test") as {
    paths: Record<string, Record<string, Schema>>;
  };
  return Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).flatMap(([method, o]): Place[] => {
      // The stream does not end.
      if (o["operationId"] === "deviceStream") return [];
      const body = o["requestBody"] as { content: Record<string, { schema: Schema }> } | undefined;
      return [
        {
          operation: String(o["operationId"]),
          method: method.toUpperCase(),
          path,
          parameters: (o["parameters"] ?? []) as Place["parameters"],
          body: body?.content["application/json"].schema ?? null,
        },
      ];
    }),
  );
}

const ODD_TEXTS = [
  "",
  " ",
  "constructor",
  "__proto__",
  "'; drop table run; --",
  "=1+1",
  "＝1",
  "\u0000",
  "\ud800",
  "‮",
  "x".repeat(5000),
  "9".repeat(5000),
  "1e999",
  "-0",
  "NaN",
  "../../etc",
  "%00",
  "<img src=x>",
  "Ünïcödé",
];
const ODD_VALUES: readonly unknown[] = [
  null,
  true,
  -1,
  0,
  1e308,
  1.5,
  2 ** 53,
  [],
  {},
  [[[[]]]],
  { constructor: 1 },
  { __proto__: { a: 1 } },
  ...ODD_TEXTS,
];
const ODD_IDS = [
  "0",
  "-1",
  "1.5",
  "1e3",
  "x",
  "99999999",
  "9".repeat(40),
  "%E0%A4%A",
  "%2e%2e",
  "1;2",
  "01",
  "+1",
  "%00",
];

/** Requests made from the OpenAPI document: many as it says, the others spoilt in one way each. */
export function requests(seed: number): () => Asked {
  const draw = draws(seed);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(draw() * from.length)];
  const all = places();

  const text = (s: Schema): string => {
    if (s["format"] === "uuid") return randomUUID();
    if (s["format"] === "date") return pick(["2026-03-01", "2025-12-31", "2026-11-20"]);
    if (s["format"] === "date-time") return pick(["2026-03-01T08:00:00Z", "2025-12-31T23:59:59.000Z"]);
    const pattern = String(s["pattern"] ?? "");
    if (pattern.includes("[A-Z]{3}")) return pick(["EUR", "GBP"]);
    if (pattern.includes("[A-Z]")) return pick(["X", "Y", "Z", "Z2"]);
    if (pattern.includes("run|result")) return pick(["run 1", "result 1"]);
    const most = Number(s["maxLength"] ?? 30);
    const least = Number(s["minLength"] ?? 0);
    const long = "noisy at one place ".repeat(1 + Math.ceil(most / 19));
    return long.slice(0, Math.max(least, Math.floor(draw() * Math.min(most, 60))));
  };
  const number = (s: Schema, whole: boolean): number => {
    const least = Number(s["minimum"] ?? s["exclusiveMinimum"] ?? -50);
    const most = Number(s["maximum"] ?? s["exclusiveMaximum"] ?? Math.max(least + 10, 500));
    const low = Math.max(least, -1e6);
    const value = low + draw() * (Math.min(most, 1e6) - low);
    return whole ? Math.round(value) : Number(value.toPrecision(5));
  };
  const valueOf = (s: Schema, depth = 0): unknown => {
    if ("const" in s) return s["const"];
    if (Array.isArray(s["enum"])) return pick(s["enum"]);
    const any = (s["anyOf"] ?? s["oneOf"]) as readonly Schema[] | undefined;
    if (any) return valueOf(pick(any), depth);
    switch (s["type"]) {
      case "string":
        return text(s);
      case "number":
      case "integer":
        return number(s, s["type"] === "integer");
      case "boolean":
        return draw() < 0.5;
      case "null":
        return null;
      case "array": {
        // A tuple: as many as it names, one of each.
        const tuple = s["prefixItems"] as readonly Schema[] | undefined;
        if (tuple) return tuple.map((inner) => valueOf(inner, depth + 1));
        const least = Number(s["minItems"] ?? 0);
        const most = Math.min(Number(s["maxItems"] ?? 3), least + 3);
        return Array.from({ length: least + Math.floor(draw() * (most - least + 1)) }, () =>
          valueOf((s["items"] ?? {}) as Schema, depth + 1),
        );
      }
      case "object": {
        const properties = (s["properties"] ?? {}) as Record<string, Schema>;
        const required = new Set((s["required"] ?? []) as string[]);
        return Object.fromEntries(
          Object.entries(properties)
            .filter(([name]) => required.has(name) || draw() < 0.6)
            .map(([name, inner]) => [name, valueOf(inner, depth + 1)]),
        );
      }
      default:
        return pick(ODD_VALUES);
    }
  };

  /** One value somewhere in it is another thing, gone, or one too many. */
  const spoil = (value: unknown): [unknown, string] => {
    if (Array.isArray(value) && value.length > 0 && draw() < 0.7) {
      const at = Math.floor(draw() * value.length);
      const [inner, how] = spoil(value[at]);
      return [value.map((v: unknown, i) => (i === at ? inner : v)), `[${at}]${how}`];
    }
    if (typeof value === "object" && value !== null && !Array.isArray(value)) {
      const keys = Object.keys(value);
      const key = keys.length ? pick(keys) : "";
      const record = value as Record<string, unknown>;
      const way = draw();
      if (!key || way < 0.1)
        return [
          {
            ...record,
            [pick(["extra", "constructor", "__proto__"])]: pick(ODD_VALUES),
          },
          " one more",
        ];
      if (way < 0.3) return [Object.fromEntries(Object.entries(record).filter(([k]) => k !== key)), `.${key} gone`];
      if (way < 0.6) return [{ ...record, [key]: pick(ODD_VALUES) }, `.${key} odd`];
      const [inner, how] = spoil(record[key]);
      return [{ ...record, [key]: inner }, `.${key}${how}`];
    }
    return [pick(ODD_VALUES), " odd"];
  };

  return () => {
    const place = pick(all);
    const spoilt = draw() < 0.6 ? pick(["body", "body", "body", "id", "query", "raw", "header", "method"]) : "";
    let path = place.path.replace(/\{(\w+)\}/g, (_, name: string) => {
      if (spoilt === "id") return pick(ODD_IDS);
      if (name === "key") return randomUUID();
      return name === "id" ? String(1 + Math.floor(draw() * 12)) : pick(["nut-worn", "coupling-screw", "gremlins"]);
    });
    const query = new URLSearchParams();
    for (const p of place.parameters.filter((q) => q.in === "query"))
      if (p.required || draw() < 0.4)
        query.set(
          p.name,
          spoilt === "query"
            ? pick(ODD_TEXTS.filter((o) => o.length < 3000 && o !== "\ud800"))
            : String(valueOf(p.schema)),
        );
    if (query.size) path += `?${query}`;
    let body = place.body ? JSON.stringify(valueOf(place.body)) : undefined;
    let how = spoilt;
    if (spoilt === "body" && body !== undefined) {
      const [value, what] = spoil(JSON.parse(body) as unknown);
      body = JSON.stringify(value);
      how = `body${what}`;
    }
    if (spoilt === "raw" && body !== undefined)
      body = pick([
        body.slice(0, -1),
        "",
        "[",
        "null",
        `${body}${body}`,
        '"text"',
        "\u0000",
        `{"a":${"[".repeat(2000)}`,
      ]);
    const headers: Record<string, string> = { "x-working-as": "Rowan" };
    if (body !== undefined) headers["content-type"] = "application/json";
    if (spoilt === "header") {
      const odd = pick<Record<string, string>>([
        { "content-type": "text/html" },
        { "content-type": "application/json; charset=klingon" },
        { "content-encoding": "br" },
        { "x-working-as": "%E0%A4%A" },
        { "x-working-as": "x".repeat(60) },
        { origin: "http://elsewhere.test" },
        { "sec-fetch-site": "cross-site" },
        { "if-match": '"x"' },
        { range: "bytes=9-1" },
        { accept: "image/webp" },
      ]);
      Object.assign(headers, odd);
    }
    const method = spoilt === "method" ? pick(["PUT", "DELETE", "PATCH", "POST", "OPTIONS", "HEAD"]) : place.method;
    return {
      operation: place.operation,
      method,
      path,
      headers,
      body: ["GET", "HEAD"].includes(method) ? undefined : body,
      spoilt: how,
    };
  };
}

/**
 * What is wrong with an answer: a failure, a refusal that is no problem details (RFC 9457) or says
 * nothing, an inside that shows. Empty when it is as it should be.
 */
export function unlike(
  asked: Asked,
  answer: {
    readonly status: number;
    readonly type: string;
    readonly text: string;
  },
): string {
  const said = `${asked.method} ${asked.path} (${asked.spoilt}) ${asked.body?.slice(0, 300) ?? ""}: ${answer.status} ${answer.text.slice(0, 300)}`;
  if (answer.status >= 500) return `failed: ${said}`;
  if (answer.status < 400 || asked.method === "HEAD") return "";
  if (!answer.type.includes("application/problem+json")) return `refused without problem details: ${said}`;
  const body = JSON.parse(answer.text) as {
    status?: number;
    detail?: string;
    errors?: { path: string; message: string }[];
  };
  if (body.status !== answer.status || !body.detail?.trim()) return `refused without words: ${said}`;
  if (/node_modules|\.ts:\d|\bat \//.test(answer.text)) return `shows its inside: ${said}`;
  const wordless = (body.errors ?? []).some((e) => !e.message.trim());
  return wordless ? `names a field without words: ${said}` : "";
}
