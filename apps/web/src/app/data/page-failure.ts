import { ErrorHandler, inject, Injectable, Injector } from "@angular/core";
import { Notices } from "./notices";

/** What fails in the page itself is said: nobody takes for kept what was never sent. */
@Injectable()
export class PageFailure extends ErrorHandler {
  // Asked for when it is wanted: notices are not there yet while the page starts.
  private readonly injector = inject(Injector);

  override handleError(error: unknown): void {
    super.handleError(error);
    const message = error instanceof Error ? error.message : String(error);
    this.injector
      .get(Notices)
      .error(
        new Error(
          `This page failed, and what you did last is not kept: ${message} What you typed is still here; try again, and reload if it fails again.`,
        ),
      );
  }
}
