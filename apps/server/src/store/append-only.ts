/** Triggers that refuse to change or delete what was once written. */
export function appendOnly(table: string, what: string): string[] {
  return ["update", "delete"].map(
    (act) =>
      `create trigger ${table}_no_${act} before ${act} on ${table}
       begin select raise(abort, '${what} append-only'); end`,
  );
}
