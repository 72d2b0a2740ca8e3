import type Database from "better-sqlite3";

/**
 * Sets the triggers of a file aside while it is filled: nothing is to happen because of a row that happened already.
 * To be called within a transaction; gives what puts them back.
 */
export function setTriggersAside(file: Database.Database): () => void {
  const triggers = file.prepare("select name, sql from sqlite_master where type = 'trigger'").all() as {
    readonly name: string;
    readonly sql: string;
  }[];
  for (const { name } of triggers) file.exec(`drop trigger "${name}"`);
  return () => {
    for (const { sql } of triggers) file.exec(sql);
  };
}
