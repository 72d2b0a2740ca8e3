import { chmodSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { onPostgres } from "./in-dialect";
import { placeOf } from "./postgres";
import { STORE_FILE, storeUrl } from "./store";

describe("where a shop’s store is", () => {
  const folder = mkdtempSync(join(tmpdir(), "iron-store-"));
  const file = join(folder, STORE_FILE);
  afterAll(() => rmSync(folder, { recursive: true }));
  const says = (text: string, mode = 0o600): void => {
    writeFileSync(file, text);
    chmodSync(file, mode);
  };

  it("is a file in its folder, unless that names a PostgreSQL server", () => {
    expect(storeUrl(folder)).toBeNull();
    says("postgresql://ilse@db.shop.test/iron\n", 0o644);
    expect(storeUrl(folder)).toBe("postgresql://ilse@db.shop.test/iron");
  });

  it.each(["", "mysql://ilse@db/iron", "the blue one", "iron.sqlite"])("“%s” is refused in words", (text) => {
    says(text);
    expect(() => storeUrl(folder)).toThrow(/store\.url holds no address of a store: one line, as postgresql:\/\//);
  });

  it("a password that others may read is refused; it is never said", () => {
    says("postgresql://ilse:secret@db/iron", 0o640);
    expect(() => storeUrl(folder)).toThrow(/holds a password, and others may read it: chmod 600/);
    says("postgresql://ilse:secret@db/iron");
    expect(placeOf(storeUrl(folder) ?? "")).toBe("postgresql://db/iron");
  });
});

describe("a statement of SQLite’s on PostgreSQL", () => {
  it("a table has PostgreSQL’s kinds, texts compared by their bytes, and ids that follow the highest", () => {
    expect(
      onPostgres(
        `create table thing (
        id integer primary key, name text not null unique collate nocase, text text not null, grams real,
        bytes blob not null, plan text check (plan is null or json_valid(plan))) strict`,
      ).map((s) => s.replace(/\s+/g, " ")),
    ).toEqual([
      'create table thing ( id bigint primary key, name text collate nocase not null unique, text text collate "C" not null, grams double precision, bytes bytea not null, plan text collate "C" check (plan is null or json_valid(plan)))',
      "create trigger a_next_id before insert on thing for each row execute function next_id()",
    ]);
  });

  it("what refuses or does something is a function and a trigger", () => {
    expect(
      onPostgres(`create trigger a_no_delete before delete on a
       begin select raise(abort, 'a is append-only'); end`),
    ).toEqual([
      "create function a_no_delete() returns trigger language plpgsql as $$ begin raise exception 'a is append-only'; return null; end $$",
      "create trigger a_no_delete before delete on a for each row execute function a_no_delete()",
    ]);
  });

  it("what changes rows goes as it is", () => {
    expect(onPostgres("delete from axis_summary")).toEqual(["delete from axis_summary"]);
  });
});
