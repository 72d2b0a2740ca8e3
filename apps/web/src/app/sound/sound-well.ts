import { ChangeDetectionStrategy, Component, computed, input, output } from "@angular/core";
import { RouterLink } from "@angular/router";
import type { Sound } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { driftSaid } from "./sound.view";

/** How a recording has grown since the axis was well, and whether it is itself of when it was. */
@Component({
  selector: "ip-sound-well",
  imports: [ButtonDirective, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>When it was well</h3>
    @for (line of lines(); track line; let first = $first) {
      <p [class.strong]="first && grown()">{{ line }}</p>
    }
    @if (grown()) {
      <a pButton severity="secondary" routerLink="../ask">Open a case on it, or go on with one</a>
    }
    @if (sound().well) {
      <button type="button" pButton text [disabled]="busy()" (click)="kept.emit(false)">
        It was not well: no longer
      </button>
    } @else if (mayBe()) {
      <button
        type="button"
        pButton
        severity="secondary"
        [text]="grown() || doubtful() !== ''"
        [disabled]="busy()"
        (click)="kept.emit(true)"
      >
        Keep it as how {{ letter() }} sounds when it is well
      </button>
    }
  `,
  styles: `
    :host {
      display: block;
      margin-bottom: var(--space-4);
    }
    p {
      max-width: 720px;
    }
    .strong {
      font-weight: 700;
    }
  `,
})
export class SoundWell {
  readonly sound = input.required<Sound>();
  readonly letter = input.required<string>();
  readonly busy = input(false);
  readonly kept = output<boolean>();
  protected readonly grown = computed(() => this.sound().drift?.grown ?? false);
  /** Of what nothing can be said, or whose levels mean nothing, later ones cannot be held beside it. */
  protected readonly mayBe = computed(() => {
    const { result, ownGain } = this.sound();
    return ownGain === false && result !== null && result.troubles.every((t) => t.code === "few-turns");
  });
  /** What does not sound like an axis with nothing wrong may still be how this one sounds. */
  protected readonly doubtful = computed(() =>
    (this.sound().result?.chances["sound"] ?? 0) < 0.5
      ? "It does not sound like an axis with nothing wrong: keep it only if its tests found nothing."
      : "",
  );
  protected readonly lines = computed(() => {
    const { well, drift, ownGain } = this.sound();
    const letter = this.letter();
    if (well)
      return [`This is how ${letter} sounds when it is well. Later recordings at this feed are held beside it.`];
    const doubt = this.mayBe() && this.doubtful() ? [this.doubtful()] : [];
    if (drift) return [...driftSaid(drift, drift.wellId), ...doubt];
    const none = `No recording at this feed since the last work on it is kept as how ${letter} sounds when it is well.`;
    if (this.mayBe()) return [none, ...doubt];
    return [
      none,
      ownGain === false
        ? "This one cannot be: nothing can be said of it."
        : "This one cannot be: the microphone may have turned itself up or down, so how loud it was is not in it.",
    ];
  });
}
