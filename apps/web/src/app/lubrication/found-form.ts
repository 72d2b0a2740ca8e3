import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
} from "@angular/core";
import { parseDecimal, type CheckAnswered, type LubricationPointRecord } from "@iron/contract";
import { isGivenTo, type FoundState, type PlaceFound } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { TextField } from "../shared/fields";
import { PhotoField } from "../shared/photo-field";
import { TickBox } from "../shared/tick-box";
import { Single } from "../shared/single";
import type { PhotoTaken } from "../job/photo-queue";
import { CheckRows } from "./check-rows";
import { FoundPlaces } from "./found-places";
import { foundKeys } from "./rounds.view";

/** What was found at a point, and what was given. */
export interface FoundVisit {
  readonly found: FoundState;
  readonly dose: number;
  readonly glitter: boolean;
  readonly friction: boolean;
  readonly outlets: (boolean | null)[];
  readonly places: PlaceFound[];
  readonly checks: CheckAnswered[];
  readonly words: string;
}

/** How a point was found, before anything was given: one key is enough, the rest is besides. */
@Component({
  selector: "ip-found-form",
  imports: [ButtonDirective, CheckRows, FoundPlaces, PhotoField, Single, TextField, TickBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    <ip-found-places [point]="point()" [turn]="turn()" />
    <ip-check-rows [point]="point()" [turn]="turn()" (photo)="photo.emit($event)" />
    <h3>{{ foundHeading() }}</h3>
    @if (unanswered().length) {
      <p class="warn" role="alert">
        Not answered: {{ unanswered().join("; ") }}. Answer, or press again to leave it at that.
      </p>
    }
    <div class="keys">
      @for (key of keys(); track key.state) {
        <button type="button" pButton ipSingle severity="secondary" (click)="tell(key.state)">
          {{ key.label }}
        </button>
      }
    </div>
    @if (!nothingGiven()) {
      <ip-tick-box [checked]="glitter()" (ticked)="glitter.set($event)"
        >Metal glitter or chips in the old grease</ip-tick-box
      >
      <ip-tick-box [checked]="friction()" (ticked)="friction.set($event)"
        >Moves heavier than the time before</ip-tick-box
      >
    }
    <div class="fields">
      @if (point().dose > 0 && point().doseUnit !== "wipe") {
        <ip-text-field
          mode="decimal"
          [label]="'Given, ' + point().doseUnit + '; ' + point().dose + ' if left empty'"
          [value]="given()"
          [error]="givenError()"
          (typed)="type($event)"
        />
      }
      <ip-photo-field [waiting]="photos()" (taken)="photo.emit({ file: $event })" />
    </div>
    <ip-text-field label="Note" [most]="500" [value]="words()" (typed)="words.set($event)" />
  `,
})
export class FoundForm {
  readonly point = input.required<LubricationPointRecord>();
  /** Photos that wait for the server. */
  readonly photos = input(0);
  readonly found = output<FoundVisit>();
  readonly photo = output<PhotoTaken>();
  /** Rises when a visit was told: the next one begins empty. */
  protected readonly turn = signal(0);
  /** Only that and another point empty what is typed: answers make the same point anew. */
  private readonly begun = computed(() => `${this.point().id} ${this.turn()}`);
  private of<T>(start: () => T) {
    return linkedSignal<string, T>({ source: this.begun, computation: start });
  }
  private readonly rows = viewChild.required(CheckRows);
  private readonly fed = viewChild.required(FoundPlaces);
  protected readonly keys = computed(() =>
    this.fed().allTold() ? [{ state: "right" as const, label: "Keep what was told" }] : foundKeys(this.point()),
  );
  /** Nothing is greased or oiled here. */
  protected readonly nothingGiven = computed(() => this.point().dose === 0);
  protected readonly foundHeading = computed(() => {
    if (this.point().way === "bath") return "Its level, before it was topped up";
    if (this.fed().allTold()) return "Each is told";
    if (this.fed().apart()) return "The others, before anything was given";
    return this.nothingGiven() ? "What it was like" : "Found, before anything was given";
  });
  /** Somebody pressed a key with checks left open: asked once. */
  private readonly asked = this.of(() => false);
  protected readonly unanswered = computed(() => (this.asked() ? this.rows().open() : []));
  protected readonly glitter = this.of(() => false);
  protected readonly friction = this.of(() => false);
  protected readonly words = this.of(() => "");
  /** What was given, as typed; the point’s own dose while it is empty. */
  protected readonly given = this.of(() => "");
  protected readonly givenError = this.of(() => "");
  protected type(text: string): void {
    this.given.set(text);
    this.givenError.set("");
  }

  protected tell(found: FoundState): void {
    const typed = this.given().trim();
    const given = typed ? parseDecimal(typed) : this.point().dose;
    if (given === undefined || given < 0 || given > 500) {
      this.givenError.set(`“${typed}” cannot be: a dose is a number from 0 to 500. Nothing was kept.`);
      return;
    }
    if (this.rows().wrong() || this.fed().wrong()) return;
    if (this.rows().open().length && !this.asked()) {
      this.asked.set(true);
      return;
    }
    const fed = this.fed().told(found, given);
    // What is full or lets nothing through gets nothing, unless an amount is typed.
    const none = fed.places.length === 0 && !isGivenTo(found) && !typed;
    this.found.emit({
      ...fed,
      dose: none ? 0 : fed.dose,
      glitter: this.glitter(),
      friction: this.friction(),
      checks: this.rows().answers(),
      words: this.words(),
    });
    this.turn.update((n) => n + 1);
  }
}
