import { inject, Injectable, InjectionToken, signal } from "@angular/core";
import type { WeekSum } from "@iron/core";
import type { Horizon } from "@iron/contract";
import { makeHorizonWorker } from "./make-horizon-worker";

export type HorizonQuestion = Horizon;
export type HorizonAnswer =
  | { readonly progress: number }
  | {
      readonly sums: readonly WeekSum[];
      readonly visits: number;
      /** Points planned anew with the rest left where it was; null when all was planned. */
      readonly replanned: number | null;
    };

/** Makes the worker that plans off the interface thread. */
export const HORIZON_WORKER = new InjectionToken<() => Worker>("horizon worker", {
  providedIn: "root",
  factory: () => makeHorizonWorker,
});

/** Half a year by week, planned in a worker: with progress, and a way to stop it. */
@Injectable({ providedIn: "root" })
export class HorizonPlanner {
  private readonly make = inject(HORIZON_WORKER);
  private worker: Worker | null = null;
  /** 0 to 1 while it plans; null otherwise. */
  readonly progress = signal<number | null>(null);
  readonly answer = signal<Extract<HorizonAnswer, { sums: unknown }> | null>(null);
  readonly error = signal("");

  plan(question: HorizonQuestion): void {
    this.error.set("");
    const worker = (this.worker ??= this.make());
    this.progress.set(0);
    worker.onmessage = ({ data }: MessageEvent<HorizonAnswer>) => {
      if ("progress" in data) {
        this.progress.set(data.progress);
        return;
      }
      this.progress.set(null);
      this.answer.set(data);
    };
    worker.onerror = (event) => {
      event.preventDefault();
      this.stop();
      this.error.set("The plan could not be made here. Try again.");
    };
    worker.postMessage(question);
  }

  /** Ends it where it is; what was shown before stays. */
  stop(): void {
    this.worker?.terminate();
    this.worker = null;
    this.progress.set(null);
  }
}
