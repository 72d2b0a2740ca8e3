/** The worker that plans half a year; in a file of its own, since only a bundler can make it. */
export const makeHorizonWorker = (): Worker =>
  new Worker(new URL("./horizon.worker", import.meta.url), { type: "module" });
