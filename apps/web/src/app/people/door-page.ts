import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { keeperTrouble, secretTrouble, type Somebody } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import type { Observable } from "rxjs";
import { Api } from "../data/api";
import { Door } from "../data/door";
import { problemFrom } from "../data/problems";
import { SetUp } from "./set-up";
import { PinPad } from "./pin-pad";

/** Who is it? Stands over what is on the screen, which stays as it is. */
@Component({
  selector: "ip-door",
  imports: [ButtonDirective, PinPad, SetUp],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section role="dialog" aria-modal="true" aria-labelledby="door-title">
      @if (door.asked(); as asked) {
        <h1 id="door-title">{{ asked.name }}, your PIN again</h1>
        <p>This is signed with your name.</p>
        <ip-pin-pad label="PIN or passphrase" does="Sign" [message]="message()" [busy]="busy()" (given)="prove($event)">
          <button type="button" pButton severity="secondary" (click)="asked.answered.next(false)">Not now</button>
        </ip-pin-pad>
      } @else if (me()?.door === "set-up") {
        <ip-set-up (entered)="door.take($event)" />
      } @else if (me()?.chooses) {
        <h1 id="door-title">{{ me()?.person?.name }}, choose a PIN of your own</h1>
        @if (step() === "given") {
          <p>The one you came in with was for once.</p>
          <ip-pin-pad label="The one you were given" [message]="message()" (given)="keepGiven($event)" />
        } @else if (step() === "wanted") {
          <p>Six digits or more, or a passphrase. Not one that others guess.</p>
          <ip-pin-pad label="Your own" [message]="message()" (given)="keepWanted($event)" />
        } @else {
          <ip-pin-pad label="The same once more" [message]="message()" [busy]="busy()" (given)="choose($event)" />
        }
      } @else if (one(); as one) {
        <h1 id="door-title">{{ one.name }}</h1>
        <ip-pin-pad
          label="PIN or passphrase"
          does="Sign in"
          [message]="message()"
          [busy]="busy()"
          (given)="enter(one, $event)"
        >
          <button type="button" pButton severity="secondary" (click)="pick(null)">Somebody else</button>
        </ip-pin-pad>
        @if (alone()) {
          <p class="alone">
            Until then you can go on here: what you note waits on this device, and goes once you have signed in.
          </p>
          <button type="button" pButton severity="secondary" (click)="goOn(one)">Go on as {{ one.name }}</button>
        }
        <p class="quiet">Forgotten? A keeper of the system gives you another: Shop, then People.</p>
      } @else {
        <h1 id="door-title">Who is it?</h1>
        <div class="names">
          @for (name of me()?.names; track name.id) {
            <button type="button" pButton severity="secondary" (click)="pick(name)">
              <span class="sign" aria-hidden="true">{{ name.sign }}</span>
              {{ name.name }}
            </button>
          } @empty {
            <p class="warn">Nobody has a PIN yet.</p>
          }
        </div>
      }
    </section>
  `,
  styles: `
    :host {
      position: fixed;
      inset: 0;
      /* Over whatever list, dialog or drawer was open. */
      z-index: 10000;
      overflow: auto;
      background: var(--sheet);
    }
    section {
      max-width: 880px;
      margin: 0 auto;
      /* Below it stands the Stop of what still moves. */
      padding: var(--space-6) var(--space-5) 140px;
    }
    .quiet {
      margin-top: var(--space-4);
    }
    .alone {
      margin-top: var(--space-4);
    }
    .names {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
      gap: var(--space-3);
    }
    .names .p-button {
      min-height: 72px;
      font-size: var(--type-4);
      justify-content: flex-start;
      gap: var(--space-3);
    }
    .sign {
      min-width: 2.4em;
      color: var(--graphite);
    }
  `,
})
export class DoorPage {
  protected readonly door = inject(Door);
  private readonly api = inject(Api);
  protected readonly me = this.door.me;
  protected readonly one = signal<Somebody | null>(null);
  protected readonly message = signal("");
  protected readonly busy = signal(false);
  /** Of choosing one’s own: the one that was given, the one that is wanted, and that once more. */
  protected readonly step = signal<"given" | "wanted" | "again">("given");
  private given = "";
  private wanted = "";

  /** No server answered: nobody can be let in, and the work does not wait. */
  protected readonly alone = computed(() => this.cut() && this.door.stale());
  private readonly cut = signal(false);

  protected goOn(one: Somebody): void {
    this.pick(null);
    this.door.goOnAs(one);
  }

  protected pick(one: Somebody | null): void {
    this.message.set("");
    this.cut.set(false);
    this.one.set(one);
  }

  protected enter(one: Somebody, secret: string): void {
    this.sent(this.api.call("signIn", { body: { personId: one.id, secret } }), (me) => {
      this.given = me.chooses ? secret : "";
      this.step.set(me.chooses ? "wanted" : "given");
      this.one.set(null);
      this.door.take(me);
    });
  }

  protected prove(secret: string): void {
    this.sent(this.door.prove(secret), () => undefined);
  }

  protected keepGiven(secret: string): void {
    this.given = secret;
    this.step.set("wanted");
  }

  protected keepWanted(secret: string): void {
    const keeper = this.me()?.person?.role === "keeper";
    const trouble = secretTrouble(secret) || (keeper ? keeperTrouble(secret) : "");
    this.message.set(trouble);
    if (trouble) return;
    this.wanted = secret;
    this.step.set("again");
  }

  protected choose(secret: string): void {
    if (secret !== this.wanted) {
      this.message.set("That was another one. Choose once more.");
      this.step.set("wanted");
      return;
    }
    const { given, wanted } = this;
    this.sent(
      this.api.call("changeOwnSecret", { body: { secret: given, wanted } }),
      (me) => this.door.take(me),
      () => this.step.set("given"),
    );
  }

  private sent<T>(asked: Observable<T>, then: (value: T) => void, failed: () => void = () => undefined): void {
    this.busy.set(true);
    this.message.set("");
    asked.subscribe({
      next: (value) => {
        this.busy.set(false);
        then(value);
      },
      error: (failure: unknown) => {
        this.busy.set(false);
        const { status, detail } = problemFrom(failure);
        this.message.set(detail);
        this.cut.set(status === 0);
        // Whether that is so for the whole page is asked at once.
        if (status === 0 && !this.door.stale()) this.door.load();
        failed();
      },
    });
  }
}
