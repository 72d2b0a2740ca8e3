import { DayField } from "../shared/day-field";
import { dayOf, giveText, isGivenTo, type FoundState } from "@iron/core";
import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import type { LubricationPointRecord, LubricationVisitInput, Rounds } from "@iron/contract";
import { newKey } from "../data/new-key";
import { Api } from "../data/api";
import { Preferences } from "../data/preferences";
import { saidIn } from "../data/problems";
import { dayText } from "../shared/times.text";
import { PhotoQueue } from "../job/photo-queue";
import { FoundForm, type FoundVisit } from "./found-form";
import { RoundsNav } from "./rounds-nav";
import { FOUND_LETTERS, walkOf } from "./rounds.view";
import { RefusedVisits } from "./refused-visits";
import { VisitQueue } from "./visit-queue";
import { Trouble } from "../shared/trouble";
import { ChoiceField } from "../shared/fields";
import { ChoicesPipe } from "../shared/choices.pipe";
import { LoadingLines } from "../shared/loading";
import { InputText } from "primeng/inputtext";

/** A round that was walked on paper, typed in: one letter a point, Enter goes on. */
@Component({
  selector: "ip-paper",
  imports: [
    RefusedVisits,
    FoundForm,
    InputText,
    LoadingLines,
    ButtonDirective,
    DayField,
    RoundsNav,
    Trouble,
    ChoiceField,
    ChoicesPipe,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    <ip-rounds-nav />
    <main class="sheet">
      <h1>Type a paper round in</h1>
      @if (error()) {
        <ip-trouble [message]="error()" (again)="load()" />
      } @else if (rounds() && days().length === 0) {
        <p>Nothing is planned in the coming two weeks, so there is no round to type in.</p>
      } @else if (rounds()) {
        <div class="acts">
          <ip-choice-field
            label="Round of"
            [value]="date()"
            [choices]="days() | choices: 'date' : 'label'"
            (chosen)="date.set($event)"
          />
          <ip-day-field label="Walked on" [value]="doneOn()" [most]="today" (picked)="doneOn.set($event)" />
        </div>
        <p class="quiet">
          A letter a point: d dry, r right, f flooded, i dirty, b blocked; empty where nothing was done. Enter goes to
          the next. Checks, places and amounts that stand on the paper go in under More.
        </p>
        <ip-refused-visits />
        <form (submit)="$event.preventDefault()" novalidate aria-label="Paper round">
          <table class="rows">
            <thead>
              <tr>
                <th scope="col">Point</th>
                <th scope="col" class="words">Give</th>
                <th scope="col" class="words">Found</th>
              </tr>
            </thead>
            <tbody>
              @for (row of rows(); track row.point.id) {
                <tr>
                  <td>
                    {{ row.stop.nickname }}, {{ row.point.place }}
                    @if (!row.point.partsNut && (row.point.answered.length || row.point.outlets.length)) {
                      <button
                        type="button"
                        pButton
                        text
                        [attr.aria-expanded]="more() === row.point.id"
                        [attr.aria-label]="'More of ' + row.stop.nickname + ', ' + row.point.place"
                        (click)="more.set(more() === row.point.id ? null : row.point.id)"
                      >
                        More
                      </button>
                    }
                  </td>
                  <td class="words">{{ dose(row.point) }}</td>
                  <td class="words">
                    <input
                      pInputText
                      class="letter"
                      maxlength="1"
                      autocomplete="off"
                      [value]="typed(row.point.id)"
                      (input)="letter(row.point.id, $any($event.target))"
                      (keydown.enter)="onward($any($event.target))"
                      [attr.aria-label]="'Found at ' + row.stop.nickname + ', ' + row.point.place"
                    />
                    {{ said(row.point.id) }}
                  </td>
                </tr>
                @if (more() === row.point.id) {
                  <tr>
                    <td colspan="3">
                      <ip-found-form
                        [point]="row.point"
                        [photos]="photos.waiting().length"
                        (found)="keepOne(row.point, $event)"
                        (photo)="photos.takeOf(row.point, $event)"
                      />
                    </td>
                  </tr>
                }
              } @empty {
                <tr>
                  <td colspan="3">Nothing is planned on this day.</td>
                </tr>
              }
            </tbody>
          </table>
          @if (letterError()) {
            <p class="wrong" role="alert">{{ letterError() }}</p>
          }
          @if (kept()) {
            <p role="status">
              {{ kept() }} {{ kept() === 1 ? "visit" : "visits" }} kept{{
                queue.waiting().length ? ", " + queue.waiting().length + " on their way" : ""
              }}.
            </p>
          }
          <div class="acts next">
            <button type="button" pButton [disabled]="count() === 0" (click)="keep()">
              Keep {{ count() }} {{ count() === 1 ? "visit" : "visits" }}
            </button>
          </div>
        </form>
      } @else {
        <ip-loading>Loading the rounds…</ip-loading>
      }
    </main>
  `,
})
export class PaperEntry {
  private readonly api = inject(Api);
  private readonly preferences = inject(Preferences);
  protected readonly queue = inject(VisitQueue);
  protected readonly photos = inject(PhotoQueue);
  protected readonly dose = giveText;
  protected readonly today = dayOf(new Date());
  protected readonly rounds = signal<Rounds | null>(null);
  protected readonly error = signal("");
  protected readonly letterError = signal("");
  protected readonly date = signal("");
  protected readonly doneOn = signal(this.today);
  protected readonly letters = signal<Readonly<Record<number, string>>>({});
  protected readonly kept = signal(0);
  /** The point whose checks, places and amounts are typed in. */
  protected readonly more = signal<number | null>(null);
  private readonly done = signal<ReadonlySet<number>>(new Set());
  protected readonly days = computed(() =>
    (this.rounds()?.days ?? [])
      .filter((d) => d.stops.length)
      .map((d) => ({ date: d.date, label: dayText(`${d.date}T12:00:00`) })),
  );
  protected readonly rows = computed(() => {
    const rounds = this.rounds();
    return rounds ? walkOf(rounds, this.date()).filter((r) => !this.done().has(r.point.id)) : [];
  });
  protected readonly count = computed(() => this.rows().filter((r) => this.stateOf(r.point.id)).length);

  constructor() {
    this.load();
  }

  protected load(): void {
    this.error.set("");
    this.api.call("rounds").subscribe({
      next: (rounds) => {
        this.rounds.set(rounds);
        if (!this.date()) this.date.set(this.days().at(0)?.date ?? "");
      },
      error: saidIn(this.error),
    });
  }

  protected typed(id: number): string {
    const letters: Partial<Record<number, string>> = this.letters();
    return letters[id] ?? "";
  }

  private stateOf(id: number): FoundState | null {
    return FOUND_LETTERS.get(this.typed(id)) ?? null;
  }

  protected said(id: number): string {
    return this.stateOf(id) ?? "";
  }

  protected letter(id: number, field: HTMLInputElement): void {
    const text = field.value.trim().toLowerCase();
    const good = text === "" || FOUND_LETTERS.has(text);
    this.letterError.set(good ? "" : `“${text}” is none of d, r, f, i, b.`);
    if (!good) field.value = "";
    this.letters.update((all) => ({ ...all, [id]: good ? text : "" }));
  }

  protected onward(field: HTMLInputElement): void {
    const all = [...(field.form?.querySelectorAll<HTMLElement>(".letter, .next button") ?? [])];
    all.at(all.indexOf(field) + 1)?.focus();
  }

  /** One point with all that the paper says of it. */
  protected keepOne(point: LubricationPointRecord, visit: FoundVisit): void {
    this.send(point, visit);
    this.more.set(null);
    this.letters.update((all) => ({ ...all, [point.id]: "" }));
    this.done.update((set) => new Set([...set, point.id]));
  }

  private send(point: LubricationPointRecord, visit: Omit<LubricationVisitInput, "key" | "date">): void {
    const by = this.preferences.who();
    const dated = { ...visit, key: newKey(), date: this.doneOn() };
    this.queue.add({ pointId: point.id, place: point.place, by, visit: dated });
    this.kept.update((n) => n + 1);
  }

  protected keep(): void {
    const rows = this.rows();
    for (const { point } of rows) {
      const found = this.stateOf(point.id);
      if (found) this.send(point, { found, dose: isGivenTo(found) ? point.dose : 0, glitter: false, words: "" });
    }
    const now = rows.filter((r) => this.stateOf(r.point.id)).map((r) => r.point.id);
    this.done.update((set) => new Set([...set, ...now]));
    this.letters.set({});
  }
}
