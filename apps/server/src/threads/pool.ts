import Piscina from "piscina";
import { TASKS, type Tasks } from "./tasks";

export type Given<N extends keyof Tasks> = Parameters<Tasks[N]>[0];
export type Made<N extends keyof Tasks> = Awaited<ReturnType<Tasks[N]>>;

/** Does work somewhere, and hands back what comes of it. */
export interface WorkPool {
  run<N extends keyof Tasks>(task: N, given: Given<N>, signal?: AbortSignal): Promise<Made<N>>;
  close(): Promise<void>;
}

/** In this thread, at once: for tests of what is done, not of where. */
export const inThread: WorkPool = {
  run: async (task, given) => TASKS[task](given as never) as never,
  close: async () => undefined,
};

/** Threads of their own, made when they are wanted and let go when they are not. */
export function threadPool(file: string): WorkPool {
  const pool = new Piscina({
    filename: file,
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 30_000,
  });
  return {
    run: (task, given, signal) => pool.run({ task, given }, signal ? { signal } : {}) as never,
    close: () => pool.destroy(),
  };
}
