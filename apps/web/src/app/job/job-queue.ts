import type { JobAct, JobEventRecord } from "@iron/contract";

/** Acts not yet taken by the server, kept in the browser so that nothing is lost with the tab. */
export interface QueuedAct {
  readonly act: JobAct;
  readonly at: string;
  readonly by: string;
  /** Proves that it was made in their session. */
  readonly seal?: string | undefined;
}

/** What waits, as events that the page can show before the server has them. */
export function pendingEvents(
  known: readonly JobEventRecord[],
  queue: readonly QueuedAct[],
): readonly JobEventRecord[] {
  const keys = new Set(known.map((e) => e.key));
  return queue.flatMap(({ act, at, by }): JobEventRecord[] => {
    if (keys.has(act.key)) return [];
    switch (act.kind) {
      case "sign": {
        const { system: _, ...sign } = act;
        return [{ ...sign, at, by }];
      }
      case "undo":
        return [{ kind: "undo", step: act.step, key: act.key, at, by }];
      case "note":
        return [{ kind: "note", step: act.step, words: act.words, key: act.key, at, by }];
      case "kit":
        return [{ ...act, at, by }];
      default:
        // A sheet planned anew is made by the server.
        return [];
    }
  });
}
