import { PostgresAdapter, sql, type Kysely, type RawBuilder } from "kysely";

// The store is SQLite’s, and for shops that outgrow one file PostgreSQL’s. What the two say differently is said here.

/** Is this store a PostgreSQL server’s? */
export const isPostgres = (db: Pick<Kysely<unknown>, "getExecutor">): boolean =>
  db.getExecutor().adapter instanceof PostgresAdapter;

/** Brings a store’s form along: statements as SQLite takes them, one after the other, on either. */
export async function change(db: Kysely<unknown>, statements: readonly string[]): Promise<void> {
  const said = isPostgres(db) ? statements.flatMap(onPostgres) : statements;
  for (const statement of said) await sql.raw(statement).execute(db);
}

/** Changes rows as only SQLite says it: of the time when every store was a file, so that none on PostgreSQL has any. */
export async function changeOnFile(db: Kysely<unknown>, statements: readonly string[]): Promise<void> {
  if (!isPostgres(db)) await change(db, statements);
}

/** What runs once before the first statement: what SQLite has of itself and PostgreSQL has not. */
export const POSTGRES_BEGINNING: readonly string[] = [
  `create collation if not exists nocase (provider = icu, locale = 'und-u-ks-level2', deterministic = false)`,
  `create or replace function json_valid(said text) returns boolean immutable strict language plpgsql as $$
   begin perform said::jsonb; return true; exception when others then return false; end $$`,
  // As text; yes and no are 1 and 0.
  `create or replace function json_extract(said text, path text) returns text immutable strict language sql as $$
   select case found when 'true'::jsonb then '1' when 'false'::jsonb then '0' else found #>> '{}' end
   from (select jsonb_path_query_first(said::jsonb, path::jsonpath)) as t(found) $$`,
  // The next id is one above the highest, as in SQLite: a server has its store to itself, and gaps mean nothing was lost.
  `create or replace function next_id() returns trigger language plpgsql as $$
   begin
     if new.id is null then
       execute format('select coalesce(max(id), 0) + 1 from %I', tg_table_name) into new.id;
     end if;
     return new;
   end $$`,
];

/** A statement of SQLite’s, as PostgreSQL says it; what changes rows goes as it is. */
export function onPostgres(statement: string): readonly string[] {
  const [, name, when, act, table, body] =
    /^create trigger (\w+) (before|after) ([\s\S]+?) on (\w+)\s+begin ([\s\S]+); end$/.exec(statement) ?? [];
  if (body !== undefined) {
    const [, words] = /^select raise\(abort, '([^']+)'\)$/.exec(body) ?? [];
    const does = words ? `raise exception '${words}'` : body;
    return [
      `create function ${name}() returns trigger language plpgsql as $$ begin ${does}; return null; end $$`,
      `create trigger ${name} ${when} ${act} on ${table} for each row execute function ${name}()`,
    ];
  }
  if (!/^(create|alter) table\b/.test(statement))
    return [statement.replace(/coalesce\(p\.name, ''\)/, `$& collate "C"`)];
  const typed = statement
    .replace(/\) strict$/, ")")
    .replace(/\binteger\b/g, "bigint")
    .replace(/\breal\b/g, "double precision")
    .replace(/\bblob\b/g, "bytea")
    // By its bytes, as SQLite compares it.
    .replace(/(?<=\w) text\b/g, ` text collate "C"`)
    .replace(/collate "C"([\w ]*) collate nocase/g, "collate nocase$1");
  const [, own] = /^create table (\w+) \(\s*id bigint primary key/.exec(typed) ?? [];
  if (!own) return [typed];
  return [typed, `create trigger a_next_id before insert on ${own} for each row execute function next_id()`];
}

export type ColumnKind = "text" | "integer" | "real";

/** Rows that came as one JSON text, as a table `r` to select from; in their order by `r.n`. */
export function rowsOfJson(
  db: Pick<Kysely<unknown>, "getExecutor">,
  json: string,
  columns: Readonly<Record<string, ColumnKind>>,
): RawBuilder<unknown> {
  const names = Object.keys(columns);
  if (!isPostgres(db)) {
    const values = names.map((c) => sql`value ->> ${sql.lit(`$.${c}`)} as ${sql.id(c)}`);
    return sql`(select key as n, ${sql.join(values)} from json_each(${json})) as r`;
  }
  const typed = names.map((c) => sql`${sql.id(c)} ${sql.raw(typeOn(true, columns[c]))}`);
  const ids = sql.join([...names, "n"].map((c) => sql.id(c)));
  return sql`rows from (jsonb_to_recordset(${json}::jsonb) as (${sql.join(typed)})) with ordinality as r(${ids})`;
}

/** A table of this connection alone, in which rows are laid ready: `n` is their order. */
export function stagedTable(
  db: Pick<Kysely<unknown>, "getExecutor">,
  columns: Readonly<Record<string, ColumnKind>>,
): RawBuilder<unknown> {
  const postgres = isPostgres(db);
  const order = postgres ? "bigint generated always as identity" : "integer primary key";
  const typed = Object.entries(columns).map(([name, kind]) => sql`${sql.id(name)} ${sql.raw(typeOn(postgres, kind))}`);
  return sql`create temp table staged (n ${sql.raw(order)}, ${sql.join(typed)})`;
}

/** How a kind of column is called. */
const typeOn = (postgres: boolean, kind: ColumnKind): string =>
  postgres ? { text: "text", integer: "bigint", real: "double precision" }[kind] : kind;

/** `like`, whatever the case of the letters. */
export const like = (db: Pick<Kysely<unknown>, "getExecutor">): RawBuilder<unknown> =>
  isPostgres(db) ? sql`ilike` : sql`like`;
