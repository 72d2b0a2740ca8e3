import { ChangeDetectionStrategy, Component, input, output, signal } from "@angular/core";
import { TickBox } from "../shared/tick-box";

/** A recording that was made with something else. */
export interface SoundFile {
  readonly file: File;
  /** Null: nobody knows whether it turned itself up or down. */
  readonly ownGain: false | null;
}

/** Takes a WAV file of a run. */
@Component({
  selector: "ip-sound-file",
  imports: [TickBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="field">
      <label for="sound-file">Or a WAV file of such a run</label>
      <input
        id="sound-file"
        class="p-inputtext"
        type="file"
        accept=".wav,audio/wav,audio/x-wav"
        [disabled]="busy()"
        (change)="take($any($event.target))"
      />
    </div>
    <ip-tick-box [checked]="fixed()" (ticked)="fixed.set($event)">
      It was made with its level set by hand, and at the same setting as others of this axis
    </ip-tick-box>
  `,
  styles: `
    ip-tick-box {
      display: block;
      margin-top: var(--space-2);
    }
  `,
})
export class SoundFileField {
  readonly busy = input(false);
  readonly taken = output<SoundFile>();
  protected readonly fixed = signal(false);

  protected take(field: HTMLInputElement): void {
    const [file] = field.files ?? [];
    if (file) this.taken.emit({ file, ownGain: this.fixed() ? false : null });
    // The same file can be chosen again.
    field.value = "";
  }
}
