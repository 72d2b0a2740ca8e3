import type { BackupState } from "@iron/contract";
import { momentText } from "./times.text";

const OVERDUE_MS = 2 * 86_400_000;

function daysAgo(instant: string, now: Date): string {
  const days = Math.floor((now.getTime() - Date.parse(instant)) / 86_400_000);
  if (days < 1) return "less than a day ago";
  return days === 1 ? "a day ago" : `${days} days ago`;
}

/** How the backups stand, in a sentence. */
export function backupText(state: BackupState, now: Date): string {
  const why = state.error ? ` The last try failed: ${state.error}` : "";
  if (!state.lastAt) return `No backup has been made yet.${why}`;
  return `Last good backup ${momentText(state.lastAt)}, ${daysAgo(state.lastAt, now)}; ${state.count} kept.${why}`;
}

/** What the floor says of backups: nothing while the last good one is fresh. */
export function backupAlarm(state: BackupState | null, now: Date): string {
  if (!state) return "";
  const at = state.lastAt ? Date.parse(state.lastAt) : null;
  if (at === null) return state.error ? backupText(state, now) : "";
  if (now.getTime() - at <= OVERDUE_MS) return "";
  return `No good backup of this shop’s data for more than two days. ${backupText(state, now)}`;
}
