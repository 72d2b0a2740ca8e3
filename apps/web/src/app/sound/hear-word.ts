import { booleanAttribute, ChangeDetectionStrategy, Component, computed, inject, input } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { AxisContext } from "../machine/axis/axis-context";
import { Hear } from "./hear";
import { SHORT_WORDS, wordSound, type HeardWord } from "./word-sound";

/** Plays what a word for a noise means on this axis; nothing where the axis does not make it. */
@Component({
  selector: "ip-hear-word",
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (can()) {
      <button
        type="button"
        pButton
        [severity]="on() ? undefined : 'secondary'"
        [attr.aria-label]="(on() ? 'Stop: ' : 'Hear it: ') + (named() ? short() : text())"
        [attr.aria-pressed]="on()"
        [attr.aria-busy]="busy() || null"
        (click)="press()"
      >
        {{ named() ? short() : busy() ? "…" : on() ? "Stop" : "Hear it" }}
      </button>
    }
  `,
})
export class HearWord {
  readonly word = input.required<HeardWord>();
  readonly text = input.required<string>();
  /** The words stand on the button too. */
  readonly named = input(false, { transform: booleanAttribute });
  private readonly context = inject(AxisContext);
  private readonly hear = inject(Hear);
  protected readonly short = computed(() => SHORT_WORDS[this.word()] ?? this.text());
  protected readonly can = computed(() => {
    const axis = this.context.axis();
    return axis !== null && wordSound(axis.config, this.word()) !== null;
  });
  protected readonly on = computed(() => this.hear.word() === this.word());
  protected readonly busy = computed(() => this.on() && this.hear.making());

  protected press(): void {
    const axis = this.context.axis();
    if (axis) void this.hear.toggle(axis.config, this.word());
  }
}
