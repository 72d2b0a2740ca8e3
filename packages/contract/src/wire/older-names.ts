/** What records, waiting work and backups may still call what has another name now. */
const OLDER_NAMES: Readonly<Record<string, string>> = { lostMm: "reversalValueMm", school: "method" };
/** Names that are older only in members of a list: what may be found at a step was put in words. */
const OLDER_IN: Readonly<Record<string, Readonly<Record<string, string>>>> = { finds: { words: "label" } };

/**
 * A reviver for `JSON.parse` that takes what was written under an older name by its name of today. Records are never
 * written anew, and a tablet may bring work that it noted before we changed our words.
 *
 * @param name - the name the value stands under
 * @param value - what was read there
 * @returns the value, objects with their members by their names of today
 * @example
 * JSON.parse('{"lostMm":0.012}', byTodaysNames); // { reversalValueMm: 0.012 }
 */
export function byTodaysNames(name: string, value: unknown): unknown {
  if (Array.isArray(value)) {
    const names = Object.hasOwn(OLDER_IN, name) ? OLDER_IN[name] : undefined;
    return names ? value.map((member: unknown) => renamed(member, names)) : value;
  }
  return renamed(value, OLDER_NAMES);
}

/** Whether a text can hold an older name at all. */
const HOLDS_OLDER = new RegExp(
  `"(?:${[...Object.keys(OLDER_NAMES), ...Object.values(OLDER_IN).flatMap((names) => Object.keys(names))].join("|")})"\\s*:`,
);

/**
 * Reads JSON text whose members may stand under older names. A reviver is called for every value there is and takes
 * many times as long as the reading itself, so only a text that holds an older name is read with one.
 *
 * @param text - JSON text
 * @returns what it says, by the names of today
 * @throws {SyntaxError} where the text is no JSON
 * @example
 * parseByTodaysNames('{"school":"knee"}'); // { method: "knee" }
 */
export function parseByTodaysNames(text: string): unknown {
  return HOLDS_OLDER.test(text) ? (JSON.parse(text, byTodaysNames) as unknown) : (JSON.parse(text) as unknown);
}

function renamed(value: unknown, names: Readonly<Record<string, string>>): unknown {
  if (typeof value !== "object" || value === null || Array.isArray(value)) return value;
  if (!Object.keys(names).some((name) => Object.hasOwn(value, name))) return value;
  return Object.fromEntries(
    Object.entries(value).map(([name, member]) => [
      Object.hasOwn(names, name) ? (names[name] ?? name) : name,
      member as unknown,
    ]),
  );
}
