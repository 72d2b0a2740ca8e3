import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { saveFile } from "../data/save-file";
import { SoundQueue, type WaitingSound } from "./sound-queue";

/** Recordings that are on their way, wait for the server, or were refused by it. */
@Component({
  selector: "ip-sound-waiting",
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (says(); as line) {
      <p [class.warn]="queue.offline()" role="status">{{ line }}</p>
    }
    @for (one of queue.refused(); track one.what.key) {
      <p class="bad" role="alert">
        {{ one.refusal }} The recording is still here; it can be let go once it lies in a file.
      </p>
      <div class="acts">
        <button type="button" pButton severity="secondary" (click)="save(one)">Save it as a file</button>
        <button type="button" pButton text [disabled]="!saved().has(one.what.key)" (click)="queue.read(one.what.key)">
          Let it go
        </button>
      </div>
    }
  `,
  styles: `
    .acts {
      margin-block: var(--space-2) var(--space-4);
    }
  `,
})
export class SoundWaiting {
  protected readonly queue = inject(SoundQueue);
  /** What lies in a file and may be let go. */
  protected readonly saved = signal<ReadonlySet<string>>(new Set());
  protected readonly says = computed(() => {
    const [waiting, offline] = [this.queue.waiting().length, this.queue.offline()];
    if (!waiting) return "";
    const those = waiting === 1 ? "1 recording waits" : `${waiting} recordings wait`;
    if (offline) return `No connection. ${those} on this device, and will be sent by itself.`;
    const more = waiting > 1 ? `, ${waiting - 1} more after it` : "";
    return `Sending the recording… ${(100 * this.queue.sent()).toFixed(0)} %${more}`;
  });

  protected save({ what, axisId, file }: WaitingSound): void {
    saveFile(file, `axis-${axisId}.wav`);
    this.saved.update((all) => new Set([...all, what.key]));
  }
}
