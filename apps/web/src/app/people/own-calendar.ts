import { Clipboard } from "@angular/cdk/clipboard";
import { DOCUMENT } from "@angular/common";
import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { Door } from "../data/door";
import { Notices } from "../data/notices";

/** An address by which one’s own calendar program reads the rounds: it signs in nowhere, so the address is the key. */
@Component({
  selector: "ip-own-calendar",
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (signsIn()) {
      @if (address(); as address) {
        <p role="status">
          Your calendar program subscribes to this address; it is shown this once, and the one before is shut:
          <code>{{ address }}</code>
        </p>
        <div class="acts">
          <button type="button" pButton severity="secondary" (click)="copy(address)">
            {{ copied() ? "Copied" : "Copy it" }}
          </button>
          <button type="button" pButton text (click)="noted()">Noted</button>
        </div>
      } @else {
        <p class="quiet">
          A calendar program can subscribe to the rounds by an address of your own. Whoever has it reads the rounds and
          nothing else.
        </p>
        <div class="acts">
          <button type="button" pButton severity="secondary" [disabled]="busy()" (click)="renew()">
            A new address for my calendar
          </button>
        </div>
      }
    } @else {
      <p class="quiet">A calendar program can subscribe to the address of the calendar file.</p>
    }
  `,
  styles: `
    code {
      display: block;
      overflow-wrap: anywhere;
    }
  `,
})
export class OwnCalendar {
  private readonly api = inject(Api);
  private readonly door = inject(Door);
  private readonly notices = inject(Notices);
  private readonly clipboard = inject(Clipboard);
  private readonly origin = inject(DOCUMENT).location.origin;
  protected readonly signsIn = computed(() => this.door.me()?.door === "people");
  private readonly shown = signal("");
  protected readonly address = this.shown.asReadonly();
  protected readonly copied = signal(false);
  protected readonly busy = signal(false);

  protected renew(): void {
    this.busy.set(true);
    this.copied.set(false);
    this.api.call("renewCalendar").subscribe({
      next: ({ path }) => {
        this.busy.set(false);
        this.shown.set(this.origin + path);
      },
      error: (failure: unknown) => {
        this.busy.set(false);
        this.notices.error(failure);
      },
    });
  }

  protected noted(): void {
    this.shown.set("");
  }

  protected copy(address: string): void {
    this.copied.set(this.clipboard.copy(address));
  }
}
