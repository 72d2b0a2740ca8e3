import { signal } from "@angular/core";
import type { Observable } from "rxjs";
import { problemFrom } from "./problems";

/**
 * Saving what several people can edit: it goes out with the version it began from. Where somebody else has saved
 * meanwhile, what is kept now is {@link theirs}; sent again, mine goes over it knowingly.
 *
 * @example
 * this.edit.send((version) => this.api.call("updateMachine", { params, body: { ...draft, version } }), () => done());
 */
export class VersionedSave<T extends { readonly version: number }> {
  /** What somebody else has saved since the edit began. */
  readonly theirs = signal<T | null>(null);
  /** What the server would not have, in its words. */
  readonly message = signal("");
  readonly busy = signal(false);
  private version = 0;

  /** An edit begins from what is kept now; whatever is loaded since, another’s change is not gone over unseen. */
  begin(kept: { readonly version: number } | null): void {
    this.version = kept?.version ?? 0;
    this.leave();
  }

  leave(): void {
    this.theirs.set(null);
    this.message.set("");
  }

  send<R>(
    request: (version: number) => Observable<R>,
    done: (answer: R) => void,
    refused: (problem: ReturnType<typeof problemFrom>) => void = () => undefined,
  ): void {
    if (this.busy()) return;
    this.busy.set(true);
    request(this.version).subscribe({
      next: (answer) => {
        this.busy.set(false);
        this.leave();
        done(answer);
      },
      error: (error: unknown) => {
        const problem = problemFrom(error);
        this.busy.set(false);
        this.message.set(problem.detail);
        if (problem.status === 409 && problem.current) {
          const theirs = problem.current as T;
          this.theirs.set(theirs);
          this.version = theirs.version;
        }
        refused(problem);
      },
    });
  }
}
