import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  output,
  signal,
} from "@angular/core";
import { formatNumber, planSeconds, type SoundPlan } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { Microphone, MicrophoneError, type MicrophoneTrouble, type Taken } from "./microphone";

/** After the run is over it is listened on for so long, s: nobody starts a program at once. */
const SLACK_S = 5;

const TROUBLE: Readonly<Record<MicrophoneTrouble, string>> = {
  "plain-http":
    "This page came over plain http from another computer: to such a page no browser gives its microphone. Record with the telephone’s own recorder, save it as WAV and choose the file; or open this page at the computer that serves it.",
  refused: "The microphone was refused. Allow it for this page in the browser, then record again; or choose a file.",
  none: "No microphone was found on this device. Choose a file that another one recorded.",
  taken: "The microphone is in use by something else, or was taken away. Close that, then record again.",
  other: "The microphone did not start. Choose a file that was recorded otherwise.",
};

/** Records with this device’s microphone, and says when to stand and when to go. */
@Component({
  selector: "ip-record-sound",
  imports: [ButtonDirective],
  providers: [Microphone],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (running()) {
      <div class="now" role="status">
        <p class="do">{{ says() }}</p>
        <div class="meter" role="img" [attr.aria-label]="level()">
          <div [style.width.%]="part()" [class.hot]="part() > 96"></div>
        </div>
        <p class="quiet">{{ level() }}</p>
      </div>
      @if (microphone.clipped()) {
        <p class="warn" role="status">Too loud: what knocks is cut off. Lay it further away and record again.</p>
      }
      <div class="acts">
        <button type="button" pButton (click)="end()">It has stopped: keep it</button>
        <button type="button" pButton severity="secondary" (click)="giveUp()">Give it up</button>
      </div>
    } @else {
      <button type="button" pButton [disabled]="busy()" (click)="begin()">Record with this device</button>
      @if (trouble(); as trouble) {
        <p class="bad" role="alert">{{ words[trouble] }}</p>
      }
      @if (short()) {
        <p class="bad" role="alert">Too short: {{ short() }} s. Keep it once the axis has stopped.</p>
      }
    }
  `,
  styles: `
    .do {
      font-size: var(--type-4);
      margin: 0 0 var(--space-2);
    }
    .meter {
      height: 14px;
      max-width: 420px;
      border: 1px solid var(--rule);
    }
    .meter div {
      height: 100%;
      background: var(--blue);
    }
    .meter .hot {
      background: var(--oxide);
    }
  `,
})
export class RecordSound {
  readonly plan = input.required<SoundPlan>();
  readonly busy = input(false);
  readonly taken = output<Taken>();
  /** It records, or has ended. */
  readonly records = output<boolean>();
  protected readonly microphone = inject(Microphone);
  protected readonly words = TROUBLE;
  protected readonly running = signal(false);
  protected readonly trouble = signal<MicrophoneTrouble | null>(null);
  protected readonly short = signal("");
  /** From −60 dB on, 0 to 100. */
  protected readonly part = computed(() =>
    Math.max(0, Math.min(100, 100 + ((this.microphone.levelDb() ?? -60) * 100) / 60)),
  );
  protected readonly level = computed(
    () =>
      `${formatNumber(this.microphone.seconds(), 0)} s, peak ${formatNumber(this.microphone.levelDb() ?? -60, 0)} dB of full scale`,
  );
  protected readonly says = computed(() => {
    const { stillS, passes } = this.plan();
    const left = Math.ceil(stillS - this.microphone.seconds());
    return left > 0
      ? `Leave it standing, drives on: ${left} s more.`
      : `Now set it going: ${passes} ways. It is recorded till it has stopped.`;
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.microphone.drop());
    effect(() => this.records.emit(this.running()));
    effect(() => {
      if (this.running() && this.microphone.seconds() > planSeconds(this.plan()) + SLACK_S) this.end();
    });
  }

  protected async begin(): Promise<void> {
    this.trouble.set(null);
    this.short.set("");
    try {
      await this.microphone.open();
      this.running.set(true);
    } catch (error) {
      this.trouble.set(error instanceof MicrophoneError ? error.trouble : "other");
    }
  }

  protected end(): void {
    const taken = this.microphone.close();
    this.running.set(false);
    if (taken && taken.seconds >= 5) this.taken.emit(taken);
    else this.short.set(formatNumber(taken?.seconds ?? 0, 1));
  }

  protected giveUp(): void {
    this.microphone.drop();
    this.running.set(false);
  }
}
