import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, signal } from "@angular/core";
import { formatNumber, type SoundComparison } from "@iron/core";
import type { Sound } from "@iron/contract";
import { TickBox } from "../shared/tick-box";
import { mostOf, playedAs } from "./hear-recordings.view";
import { SoundPlayer } from "./sound-player";

/** A recording to be heard, and another beside it: equally loud, slowed, or only what differs. */
@Component({
  selector: "ip-hear-recordings",
  imports: [SoundPlayer, TickBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ip-sound-player [sound]="sound()" label="The recording" [played]="played()[0]" [half]="half()" />
    @if (under(); as other) {
      <h3>The other</h3>
      <ip-sound-player [sound]="other" label="The other recording" [played]="played()[1]" [half]="half()" />
    }
    <div class="ticks">
      <ip-tick-box [checked]="half()" (ticked)="half.set($event)">Half speed, an octave lower</ip-tick-box>
      @if (under()) {
        <ip-tick-box [checked]="equally()" (ticked)="equally.set($event)">Both equally loud</ip-tick-box>
        @if (most(); as band) {
          <ip-tick-box [checked]="alone()" (ticked)="alone.set($event)"
            >Only about {{ hertz(band.midHz) }}, where they differ most</ip-tick-box
          >
        }
      }
    </div>
  `,
  styles: `
    .ticks {
      display: flex;
      flex-wrap: wrap;
      gap: 0 var(--space-5);
    }
  `,
})
export class HearRecordings {
  readonly sound = input.required<Sound>();
  readonly under = input<Sound | null>(null);
  readonly compared = input<SoundComparison | null>(null);
  protected readonly half = signal(false);
  protected readonly equally = signal(true);
  protected readonly most = computed(() => mostOf(this.compared()));
  /** Another pair begins with all of it. */
  protected readonly alone = linkedSignal(() => {
    this.most();
    return false;
  });
  protected readonly played = computed(() => {
    const [one, other] = [this.sound().result, this.under()?.result ?? null];
    const band = this.alone() ? (this.most()?.midHz ?? null) : null;
    return playedAs([one, other], { equally: this.equally() && other !== null, bandHz: band });
  });

  protected hertz(hz: number): string {
    return hz < 1000 ? `${formatNumber(hz, 0)} Hz` : `${formatNumber(hz / 1000, 1)} kHz`;
  }
}
