import type { BackupState } from "@iron/contract";
import { ageWords, momentWords } from "./words";

const OVERDUE_MS = 2 * 86_400_000;

/** How the backups stand, in a sentence. */
export function backupWords(state: BackupState, now: Date): string {
  const why = state.wrong ? ` The last try failed: ${state.wrong}` : "";
  if (!state.lastAt) return `No backup has been made yet.${why}`;
  return `Last good backup ${momentWords(state.lastAt)}, ${ageWords(state.lastAt, now)}; ${state.count} kept.${why}`;
}

/** What the floor says of backups: nothing while the last good one is fresh. */
export function backupAlarm(state: BackupState | null, now: Date): string {
  if (!state) return "";
  const at = state.lastAt ? Date.parse(state.lastAt) : null;
  if (at === null) return state.wrong ? backupWords(state, now) : "";
  if (now.getTime() - at <= OVERDUE_MS) return "";
  return `No good backup of this shop’s data for more than two days. ${backupWords(state, now)}`;
}
