import { ChangeDetectionStrategy, Component, DestroyRef, inject, input } from "@angular/core";
import type { FindingId } from "@iron/core";
import { Hear } from "./hear";
import { HearWord } from "./hear-word";

/** What the words for noises mean, to be heard one after the other: as this axis would make them at its usual feed. */
@Component({
  selector: "ip-hear-words",
  imports: [HearWord],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="What the words sound like">
      <h3>Hear what is meant</h3>
      <div class="acts">
        <ip-hear-word named word="well" text="Nothing wrong" />
        @for (word of words(); track word.id) {
          <ip-hear-word named [word]="word.id" [text]="word.label" />
        }
      </div>
      <p class="quiet">
        Made for this axis at the feed it is listened to, all equally loud and plain. Yours may sound otherwise, and a
        small loudspeaker leaves out what is low.
      </p>
      @if (hear.error(); as error) {
        <p class="bad" role="alert">{{ error }}</p>
      }
    </section>
  `,
  styles: `
    section {
      margin-top: var(--space-5);
    }
  `,
})
export class HearWords {
  readonly words = input.required<readonly { readonly id: FindingId; readonly label: string }[]>();
  protected readonly hear = inject(Hear);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.hear.stop());
  }
}
