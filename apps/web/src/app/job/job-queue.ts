import { parseByTodaysNames, type JobAct, type JobEventRecord } from "@iron/contract";

/** Acts not yet taken by the server, kept in the browser so that nothing is lost with the tab. */
export interface QueuedAct {
  readonly act: JobAct;
  readonly at: string;
  readonly by: string;
}

/** Where a queue is kept between page loads. */
export interface QueueStore {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
  removeItem(key: string): void;
}

const nameOf = (jobId: number): string => `iron-job-${jobId}-waiting`;

export function readQueue(store: QueueStore, jobId: number): readonly QueuedAct[] {
  try {
    const text = store.getItem(nameOf(jobId));
    const list: unknown = text ? parseByTodaysNames(text) : [];
    return Array.isArray(list) ? (list as QueuedAct[]) : [];
  } catch {
    return [];
  }
}

export function writeQueue(store: QueueStore, jobId: number, queue: readonly QueuedAct[]): void {
  try {
    if (queue.length) store.setItem(nameOf(jobId), JSON.stringify(queue));
    else store.removeItem(nameOf(jobId));
  } catch {
    // A full or forbidden store: the queue still lives in this page.
  }
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
