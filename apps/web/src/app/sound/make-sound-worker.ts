/** The worker that makes a sound; in a file of its own, since only a bundler can make it. */
export const makeSoundWorker = (): Worker => new Worker(new URL("./sound.worker", import.meta.url), { type: "module" });
