import { signal } from "@angular/core";
import type { FormGroup } from "@angular/forms";
import type { Observable } from "rxjs";
import { saidIn } from "../data/problems";
import { gate, unplaced } from "./schema-form";

/**
 * Sends what stands in a form: only once it is right, and once at a time; what is wrong or failed is said, and what was
 * typed stays. Made where inject() may be used.
 *
 * @example
 * protected readonly sending = new SendForm();
 * // this.sending.send(form, () => this.api.call("keepGeometry", { params, body }), () => onward("/floor"))
 * // in the template: sending.busy(), sending.refusal()
 */
export class SendForm {
  readonly busy = signal(false);
  readonly refusal = signal("");
  private readonly maySend = gate();

  send<T>(form: FormGroup, ask: () => Observable<T>, then: (value: T) => unknown): void {
    if (this.busy()) return;
    this.refusal.set("");
    if (!this.maySend(form)) {
      this.refusal.set(unplaced(form));
      return;
    }
    this.busy.set(true);
    ask().subscribe({
      next: (value) => void then(value),
      error: (failure: unknown) => {
        this.busy.set(false);
        saidIn(this.refusal)(failure);
      },
    });
  }
}
