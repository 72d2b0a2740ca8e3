import { inject, Injectable } from "@angular/core";
import { MessageService } from "primeng/api";
import { problemFrom } from "./problems";

/** Short notices at the edge, with a way to undo where there is one. */
@Injectable({ providedIn: "root" })
export class Notices {
  private readonly messages = inject(MessageService);

  say(summary: string, undo?: () => void): void {
    this.messages.add({
      severity: "success",
      summary,
      data: { undo },
      life: undo ? 10_000 : 5000,
    });
  }

  wrong(error: unknown): void {
    const problem = problemFrom(error);
    this.messages.add({
      severity: "error",
      summary: problem.detail,
      data: {},
      life: 9000,
    });
  }

  clear(): void {
    this.messages.clear();
  }
}
