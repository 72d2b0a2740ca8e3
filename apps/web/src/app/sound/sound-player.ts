import {
  ChangeDetectionStrategy,
  Component,
  computed,
  CSP_NONCE,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from "@angular/core";
import type { Sound } from "@iron/contract";
import { Preferences } from "../data/preferences";
import { inkOfPage } from "../shared/chart";
import { DRAW_WAVE } from "./draw-wave";
import { motionIn, type Played } from "./hear-recordings.view";
import { MAKE_CHAIN, type SoundChain } from "./sound-chain";

/** Plays one recording, and draws it once it is unfolded. */
@Component({
  selector: "ip-sound-player",
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <audio
      #audio
      controls
      preload="none"
      [src]="url()"
      [attr.aria-label]="label()"
      (pointerup)="through()"
      (keydown)="through()"
      (play)="through()"
      (loadedmetadata)="pace()"
    ></audio>
    <details class="part" (toggle)="unfolded($any($event.target).open)">
      <summary>See it: wave, motion and spectrogram</summary>
      @if (state(); as said) {
        <p class="quiet" role="status">{{ said }}</p>
      }
      <div #wave class="wave" role="img" [attr.aria-label]="'Wave and spectrogram of: ' + label()"></div>
    </details>
  `,
  styles: `
    audio {
      width: 100%;
      max-width: 720px;
    }
    .wave {
      max-width: 720px;
    }
  `,
  styleUrl: "../shared/folds.css",
})
export class SoundPlayer {
  readonly sound = input.required<Sound>();
  readonly label = input.required<string>();
  readonly played = input.required<Played>();
  readonly half = input(false);
  private readonly makeChain = inject(MAKE_CHAIN);
  private readonly draw = inject(DRAW_WAVE);
  private readonly nonce = inject(CSP_NONCE, { optional: true }) ?? undefined;
  private readonly audio = viewChild.required<ElementRef<HTMLAudioElement>>("audio");
  private readonly wave = viewChild.required<ElementRef<HTMLElement>>("wave");
  protected readonly url = computed(() => `/api/sounds/${this.sound().id}/wav`);
  protected readonly state = signal("");
  private chain: SoundChain | null = null;
  private takeAway: (() => void) | null = null;
  private readonly open = signal(false);

  constructor() {
    const preferences = inject(Preferences);
    effect(() => {
      const played = this.played();
      this.chain?.set(played);
      this.pace();
    });
    effect((gone) => {
      const [sound, open] = [this.sound(), this.open()];
      // By night it is drawn anew, in that night’s colours.
      preferences.shift();
      if (!open) return;
      let stale = false;
      gone(() => {
        stale = true;
        this.clear();
      });
      void this.show(sound, () => stale);
    });
    inject(DestroyRef).onDestroy(() => {
      this.chain?.close();
      this.clear();
    });
  }

  /**
   * Filters and gain are put in with the press that plays it: a browser lets nothing sound before, and some of them
   * nothing that comes after it.
   */
  protected through(): void {
    const { gainDb, bandHz } = this.played();
    if (!this.chain && (gainDb !== 0 || bandHz !== null)) this.chain = this.makeChain(this.audio().nativeElement);
    this.chain?.set(this.played());
  }

  /** At half speed it is an octave lower as well: blows are told apart, not smoothed over. */
  protected pace(): void {
    const audio = this.audio().nativeElement;
    audio.preservesPitch = false;
    audio.playbackRate = this.half() ? 0.5 : 1;
  }

  protected unfolded(open: boolean): void {
    this.open.set(open);
  }

  private async show(sound: Sound, stale: () => boolean): Promise<void> {
    const container = this.wave().nativeElement;
    this.state.set("Fetching and drawing it…");
    try {
      const audio = this.audio().nativeElement;
      const asked = { container, audio, motion: motionIn(sound), ink: inkOfPage() };
      const takeAway = await this.draw({ ...asked, nonce: this.nonce });
      if (stale()) return takeAway();
      this.takeAway = takeAway;
      this.state.set("");
    } catch {
      if (!stale()) this.state.set("It could not be fetched and drawn. Close this and open it again.");
    }
  }

  private clear(): void {
    this.takeAway?.();
    this.takeAway = null;
    this.wave().nativeElement.replaceChildren();
  }
}
