/** The server cannot start, in words: which file, why, and what to do. */
export class StartError extends Error {
  override readonly name = "StartError";
}

const CAUSES: readonly [code: RegExp, cause: string, remedy: string][] = [
  [
    /^SQLITE_FULL|^ENOSPC/,
    "there is no room left on its disk",
    "Make room there and start again: nothing was changed.",
  ],
  [
    /^SQLITE_READONLY|^SQLITE_CANTOPEN|^EACCES|^EPERM|^EROFS/,
    "it cannot be written or its folder cannot be used",
    "Give this user the right to write there, or name another folder with --data.",
  ],
  [
    /^SQLITE_CORRUPT|^SQLITE_NOTADB/,
    "it is damaged or is no database of ours",
    "Keep it aside and restore the last good backup: npm run restore -- FILE. Backups lie in the folder “backups” beside it.",
  ],
  [/^SQLITE_BUSY|^SQLITE_LOCKED/, "another program holds it", "Close that program and start again."],
  [
    /^SQLITE_IOERR|^EIO/,
    "its disk fails to read or write",
    "Look at the disk; then start again, or restore the last good backup on another: npm run restore -- FILE.",
  ],
];

/** The cause alone, without a path: for answers that leave the server. */
export function causeOf(error: unknown): string {
  const inner = error instanceof StartError ? error.cause : error;
  const { code = "" } = (inner ?? {}) as { code?: string };
  const known = CAUSES.find(([pattern]) => pattern.test(code));
  return known ? `${known[1]}.` : "the server’s log says why.";
}

/** What SQLite or the file system says, as somebody before the machine needs it. */
export function startFailure(path: string, error: unknown): StartError {
  const { code = "" } = error as { code?: string };
  const known = CAUSES.find(([pattern]) => pattern.test(code));
  const said = error instanceof Error ? error.message : String(error);
  return new StartError(
    known
      ? `${path} cannot be opened: ${known[1]}. ${known[2]}`
      : `${path} cannot be brought up to date (${said}). It is as it was, and a copy was made beside it before. Start the version you had, or restore a backup: npm run restore -- FILE.`,
    { cause: error },
  );
}
