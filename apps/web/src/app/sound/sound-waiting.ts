import { ChangeDetectionStrategy, Component, computed, inject } from "@angular/core";
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
      <p class="bad" role="alert">{{ one.refusal }} The recording is still here.</p>
      <div class="acts">
        <button type="button" pButton severity="secondary" (click)="save(one)">Save it as a file</button>
        <button type="button" pButton text (click)="queue.read(one.what.key)">Let it go</button>
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
  protected readonly says = computed(() => {
    const [waiting, offline] = [this.queue.waiting().length, this.queue.offline()];
    if (!waiting) return "";
    const those = waiting === 1 ? "1 recording waits" : `${waiting} recordings wait`;
    if (offline) return `No connection. ${those} on this device, and will be sent by itself.`;
    const more = waiting > 1 ? `, ${waiting - 1} more after it` : "";
    return `Sending the recording… ${(100 * this.queue.sent()).toFixed(0)} %${more}`;
  });

  protected save({ axisId, file }: WaitingSound): void {
    saveFile(file, `axis-${axisId}.wav`);
  }
}
