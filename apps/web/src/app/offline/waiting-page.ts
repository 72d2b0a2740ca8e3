import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { Door } from "../data/door";
import { Notices } from "../data/notices";
import { saveFile } from "../data/save-file";
import { Waiting, type Held, type NotTaken } from "../data/waiting";
import { sentText } from "../shared/sent.text";
import { belongs, endingOf, filesOf, saysOf, waitsOf } from "./waiting.view";

/** What was noted on this device and is not with the server: what it waits for, and what can be done about it. */
@Component({
  selector: "ip-waiting",
  imports: [ButtonDirective, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>What waits on this device</h1>
      @if (waits().length || refused().length) {
        <p class="lead">
          Noted here, and not with the server yet. It lies in this browser: do not clear it, and do not give the device
          away before it has gone.
        </p>
      }
      @if (refused().length) {
        <section aria-labelledby="not-taken">
          <h2 id="not-taken">Not taken</h2>
          @if (someLarge()) {
            <p class="quiet">A photo or a recording can be let go once it lies in a file.</p>
          }
          <ul class="plain-list">
            @for (one of refused(); track one.key) {
              <li>
                <p>
                  @if (one.path) {
                    <a [routerLink]="one.path">{{ one.what }}</a>
                  } @else {
                    {{ one.what }}
                  }
                  @if (one.says; as entered) {
                    <span class="says quiet"> {{ sentText(entered) }}</span>
                  }
                </p>
                <p class="bad">{{ one.message }}</p>
                <div class="acts">
                  @if (one.again; as again) {
                    <button type="button" pButton severity="secondary" (click)="again()">Send it again</button>
                  }
                  <button type="button" pButton severity="secondary" (click)="saveRefused(one)">
                    Save it as a file
                  </button>
                  <button
                    type="button"
                    pButton
                    text
                    [disabled]="one.large && !saved().has(one.key)"
                    (click)="one.read()"
                  >
                    Let it go
                  </button>
                </div>
              </li>
            }
          </ul>
        </section>
      }
      @for (who of waits(); track who.by) {
        <section [attr.aria-label]="who.by">
          <h2>{{ who.by }}</h2>
          <p [class.warn]="who.stuck">{{ who.why }}</p>
          <ul class="plain-list">
            @for (one of who.items; track one.key) {
              <li>
                @let of = belongsTo(one.address);
                <p>
                  @if (of.path) {
                    <a [routerLink]="of.path">{{ of.to }}</a>
                  } @else {
                    {{ of.to }}
                  }
                  <span class="says quiet"> {{ says(one) }}</span>
                </p>
                <div class="acts">
                  <button type="button" pButton severity="secondary" (click)="save(one)">Save it as a file</button>
                  @if (who.stuck) {
                    <button type="button" pButton text [disabled]="!saved().has(one.key)" (click)="letGo(one)">
                      Let it go
                    </button>
                  }
                </div>
              </li>
            }
          </ul>
        </section>
      } @empty {
        @if (refused().length === 0) {
          <p>Nothing waits: all that was noted here is with the server.</p>
        }
      }
    </main>
  `,
  styles: `
    .acts {
      margin-block: var(--space-2) var(--space-4);
    }

    .says {
      display: block;
    }

    .plain-list {
      list-style: none;
      padding: 0;
    }
  `,
})
export class WaitingPage {
  private readonly door = inject(Door);
  private readonly waiting = inject(Waiting);
  private readonly notices = inject(Notices);
  protected readonly belongsTo = belongs;
  protected readonly says = saysOf;
  protected readonly sentText = sentText;
  /** What lies in a file and may be let go. */
  protected readonly saved = signal<ReadonlySet<string>>(new Set());
  protected readonly waits = computed(() => {
    const me = this.door.me();
    // Without a server who can sign in is what it was: not known.
    const names = me?.door === "people" && !this.door.stale() ? me.names.map((n) => n.name) : null;
    const held = this.waiting.boxes().flatMap((box) => box.held());
    return waitsOf(held, { waitsFor: this.waiting.names(), names });
  });
  protected readonly refused = this.waiting.notTaken;
  protected readonly someLarge = computed(() => this.refused().some((one) => one.large));

  protected save(one: Held): void {
    for (const [file, name] of filesOf(one)) saveFile(file, name);
    this.saved.update((all) => new Set([...all, one.key]));
  }

  protected saveRefused(one: NotTaken): void {
    const file = one.file();
    saveFile(file, `not-taken-${one.key.slice(0, 8)}.${endingOf(file)}`);
    this.saved.update((all) => new Set([...all, one.key]));
  }

  protected letGo(one: Held): void {
    for (const box of this.waiting.boxes()) box.letGo(one.key);
    this.notices.say("Let go: it lies in the file that was saved.");
  }
}
