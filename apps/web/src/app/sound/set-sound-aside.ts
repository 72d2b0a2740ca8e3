import { ChangeDetectionStrategy, Component, input, output, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { TextField } from "../shared/fields";

/** Sets a recording aside, once it is said why. */
@Component({
  selector: "ip-set-sound-aside",
  imports: [ButtonDirective, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (asking()) {
      <ip-text-field
        label="Why is it set aside?"
        [most]="200"
        [error]="missing() ? 'Say in a word why it is set aside.' : ''"
        (typed)="reason.set($event)"
      />
      <div class="acts">
        <button type="button" pButton [disabled]="busy()" (click)="set()">Set it aside</button>
        <button type="button" pButton severity="secondary" (click)="asking.set(false)">Leave it</button>
      </div>
    } @else {
      <button type="button" pButton text (click)="asking.set(true)">Set this recording aside</button>
    }
  `,
})
export class SetSoundAside {
  readonly busy = input(false);
  readonly because = output<string>();
  protected readonly asking = signal(false);
  protected readonly reason = signal("");
  protected readonly missing = signal(false);

  protected set(): void {
    const reason = this.reason().trim();
    this.missing.set(reason === "");
    if (reason) this.because.emit(reason);
  }
}
