import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import type { Person } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { Door } from "../data/door";
import { Loaded } from "../data/loaded";
import { Notices } from "../data/notices";
import { LoadingLines } from "../shared/loading";
import { momentText as timeSaid } from "../shared/times.text";
import { Trouble } from "../shared/trouble";
import { NumberField } from "../shared/fields";
import { PersonForm } from "./person-form";
import { ROLE_SAYS, standsSaid } from "./people.view";
import { SessionList } from "./session-list";

/** Who works here, what they may, and where they are signed in: for who keeps the system. */
@Component({
  selector: "ip-people",
  imports: [ButtonDirective, LoadingLines, NumberField, PersonForm, SessionList, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>People</h1>
      @if (!may()) {
        <p>Whoever keeps the system adds people and gives PINs.</p>
      } @else if (people.message()) {
        <ip-trouble [message]="people.message()" (again)="people.again()" />
      } @else if (!people.value()) {
        <ip-loading>Looking up who works here.</ip-loading>
      } @else {
        @if (open()) {
          <p class="lead">{{ openSays() }}</p>
        }
        @if (given(); as given) {
          <p class="given" role="status">
            {{ given.name }} comes in with <strong>{{ given.pin }}</strong>, and chooses a PIN then. It is shown this
            once.
            <button type="button" pButton text (click)="given.done()">Noted</button>
          </p>
        }
        <div class="scroll-x" tabindex="0" role="region" aria-label="People">
          <table class="rows stacked">
            <thead>
              <tr>
                <th scope="col">Sign</th>
                <th scope="col" class="words">Name</th>
                <th scope="col" class="words">May</th>
                <th scope="col" class="words">Last here</th>
                <th scope="col"><span class="sr-only">Actions</span></th>
              </tr>
            </thead>
            <tbody>
              @for (row of rows(); track row.person.id) {
                <tr>
                  <td>{{ row.person.sign }}</td>
                  <td class="words">{{ row.person.name }}</td>
                  <td class="words">{{ row.may }}</td>
                  <td class="words" data-head="Last here">
                    <span class="still">{{ row.seen }}</span>
                    @if (row.stands) {
                      <span class="stands">{{ row.stands }}</span>
                    }
                  </td>
                  <td class="still">
                    <button
                      type="button"
                      pButton
                      text
                      [attr.aria-label]="'Change ' + row.person.name"
                      (click)="edit(row.person)"
                    >
                      Change
                    </button>
                    @if (!row.person.retiredAt && !open()) {
                      <button
                        type="button"
                        pButton
                        text
                        [attr.aria-label]="'New PIN for ' + row.person.name"
                        (click)="give(row.person)"
                      >
                        New PIN
                      </button>
                    }
                    <button
                      type="button"
                      pButton
                      text
                      [attr.aria-label]="(row.person.retiredAt ? 'Call back ' : 'Retire ') + row.person.name"
                      (click)="retire(row.person)"
                    >
                      {{ row.person.retiredAt ? "Call back" : "Retire" }}
                    </button>
                  </td>
                </tr>
              } @empty {
                <tr>
                  <td colspan="5">Nobody yet.</td>
                </tr>
              }
            </tbody>
          </table>
        </div>
        @if (editing() !== undefined) {
          <ip-person-form
            [start]="editing() ?? null"
            [first]="!rows().length"
            (kept)="kept($event)"
            (left)="editing.set(undefined)"
          />
        } @else {
          <div class="acts">
            <button type="button" pButton severity="secondary" (click)="editing.set(null)">
              {{ rows().length ? "Add somebody" : "Add yourself, as keeper" }}
            </button>
          </div>
        }
        @if (!open()) {
          <h2>A shared tablet</h2>
          <div class="fields">
            <ip-number-field
              label="Asks who it is after so many quiet minutes"
              [least]="1"
              [most]="240"
              [value]="people.value()?.quietMinutes"
              (read)="setQuiet($event)"
            />
          </div>
          <ip-session-list />
        }
      }
    </main>
  `,
  styles: `
    .lead,
    .given {
      max-width: 720px;
    }
    .given strong {
      font-size: var(--type-4);
      letter-spacing: 0.1em;
    }
    .still {
      white-space: nowrap;
    }
    .stands {
      display: block;
      color: var(--brass);
    }
  `,
})
export class PeoplePage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly door = inject(Door);
  protected readonly open = computed(() => this.door.me()?.door === "open");
  protected readonly may = computed(() => this.door.me() !== null && this.door.may("people"));
  protected readonly people = Loaded.now(() => this.api.call("people"));
  protected readonly editing = signal<Person | null | undefined>(undefined);
  protected readonly given = signal<{ readonly name: string; readonly pin: string; readonly done: () => void } | null>(
    null,
  );
  protected readonly rows = computed(() =>
    (this.people.value()?.people ?? []).map((person) => ({
      person,
      may: ROLE_SAYS[person.role],
      seen: person.lastSeen ? timeSaid(person.lastSeen) : "never",
      stands: standsSaid(person, timeSaid),
    })),
  );
  protected readonly openSays = computed(() =>
    this.rows().length
      ? "This server is reached from this machine alone, by one person: nobody has to sign in. With a second one everybody does."
      : "Nobody has to sign in: this server is reached from this machine alone. Add people before you put it on the network, or where several work at this machine and sign with their names.",
  );

  protected edit(person: Person): void {
    this.editing.set(person);
  }

  protected kept({ name, given }: { readonly name: string; readonly given: string | null }): void {
    this.editing.set(undefined);
    if (given === null) this.entered();
    else this.show(name, given);
  }

  protected give({ id, name }: Person): void {
    this.api.call("giveSecret", { params: { id } }).subscribe({
      next: ({ given }) => this.show(name, given),
      error: this.notices.error,
    });
  }

  /** The second person brings the door: this page is behind it once what was given is noted. */
  private show(name: string, pin: string): void {
    const done = (): void => {
      this.given.set(null);
      this.entered();
    };
    this.given.set({ name, pin, done });
    if (!this.open()) this.people.again();
  }

  private entered(): void {
    this.door.load();
    this.people.again();
  }

  protected retire(person: Person): void {
    const { id, name, sign, role, version } = person;
    const retired = person.retiredAt === null;
    this.api.call("updatePerson", { params: { id }, body: { name, sign, role, version, retired } }).subscribe({
      next: (now) => {
        this.entered();
        if (retired) this.notices.say(`${name} is retired, and signed out everywhere.`, () => this.retire(now));
      },
      error: this.notices.error,
    });
  }

  protected setQuiet(quietMinutes: number | null): void {
    if (quietMinutes === null || quietMinutes === this.people.value()?.quietMinutes) return;
    this.api.call("updateDoor", { body: { quietMinutes } }).subscribe({
      next: () => this.entered(),
      error: this.notices.error,
    });
  }
}
