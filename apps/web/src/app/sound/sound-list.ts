import { ChangeDetectionStrategy, Component, computed, inject, input, output } from "@angular/core";
import type { Sound } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { Preferences } from "../data/preferences";
import { soundLine } from "./sound.view";

/** Recordings of an axis, the newest first. */
@Component({
  selector: "ip-sound-list",
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (rows().length) {
      <h2>Recordings</h2>
      <ul>
        @for (row of rows(); track row.id) {
          <li>
            <button
              type="button"
              pButton
              text
              [class.on]="row.on"
              [attr.aria-current]="row.on ? 'true' : null"
              (click)="picked.emit(row.id)"
            >
              {{ row.text }}
            </button>
          </li>
        }
      </ul>
    }
  `,
  styles: `
    ul {
      list-style: none;
      padding: 0;
      margin: 0;
    }
    button {
      text-align: left;
      min-height: var(--touch);
    }
    .on {
      font-weight: 700;
    }
  `,
})
export class SoundList {
  readonly sounds = input.required<readonly Sound[]>();
  readonly chosen = input<Sound | null>(null);
  readonly picked = output<number>();
  private readonly preferences = inject(Preferences);
  protected readonly rows = computed(() =>
    this.sounds().map((sound) => ({
      id: sound.id,
      on: sound.id === this.chosen()?.id,
      text: `${soundLine(sound, this.preferences.system())}${sound.aside ? " (set aside)" : sound.well ? " (when it was well)" : sound.state === "arriving" ? " (not all here)" : ""}`,
    })),
  );
}
