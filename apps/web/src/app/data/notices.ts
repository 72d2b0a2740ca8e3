import { inject, Injectable } from "@angular/core";
import { MessageService } from "primeng/api";
import { problemFrom } from "./problems";

/** What a notice offers to do. */
export interface Offer {
  readonly label: string;
  readonly press: () => void;
}

/** Short notices at the edge, with something to do where there is: to undo it, mostly. */
@Injectable({ providedIn: "root" })
export class Notices {
  private readonly messages = inject(MessageService);
  /** Failures that somebody has been told of. */
  private readonly done = new WeakSet<object>();

  say(summary: string, undo?: () => void): void {
    this.messages.add({
      severity: "success",
      summary,
      data: undo ? { offer: { label: "Undo", press: undo } } : {},
      life: undo ? 10_000 : 5000,
    });
  }

  /** What failed, in words; handed on as it is: `error: this.notices.error`. */
  readonly error = (error: unknown): void => {
    if (typeof error === "object" && error !== null && this.done.has(error)) return;
    const problem = problemFrom(error);
    this.messages.add({
      severity: "error",
      summary: problem.detail,
      data: {},
      life: 9000,
    });
  };

  /** It has been said: whoever hears of it after that says it no more. */
  told(error: unknown): void {
    if (typeof error === "object" && error !== null) this.done.add(error);
  }

  /** Something went wrong that can be mended by a press: stays until it is pressed or closed. */
  offer(summary: string, offer: Offer): void {
    this.messages.add({
      severity: "error",
      summary,
      data: { offer },
      sticky: true,
    });
  }

  clear(): void {
    this.messages.clear();
  }
}
