import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output, viewChild } from "@angular/core";
import { parseDecimal, type CheckAnswered, type LubricationPointRecord } from "@iron/contract";
import { centralAdvice, isLineTree, lookingOrder, type FoundState } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { ChoiceField, TextField, type Choice } from "../shared/fields";
import { PhotoField } from "../shared/photo-field";
import { TickBox } from "../shared/tick-box";
import { LineTree } from "./line-tree";
import { CheckRows } from "./check-rows";
import { foundKeys } from "./rounds.view";

/** What was found at a point, and what was given. */
export interface FoundVisit {
  readonly found: FoundState;
  readonly dose: number;
  readonly glitter: boolean;
  readonly friction: boolean;
  readonly outlets: (boolean | null)[];
  readonly checks: CheckAnswered[];
  readonly words: string;
}

/** How a point was found, before anything was given: one key is enough, the rest is besides. */
@Component({
  selector: "ip-found-form",
  imports: [ButtonDirective, CheckRows, ChoiceField, LineTree, PhotoField, TextField, TickBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    @if (point().outlets.length) {
      <p>
        <b>{{ central() ? "Outlets, the farthest first:" : "One by one:" }}</b>
      </p>
      <div class="fields outlets">
        @for (row of outletRows(); track row.name) {
          <ip-choice-field
            [label]="(central() ? 'Outlet: ' : '') + row.name"
            [value]="outlets()[row.index]"
            [choices]="outletStates()"
            (chosen)="outlet(row.index, $event)"
          />
        }
      </div>
    }

    @if (point().outlets.length > 1) {
      <div class="acts">
        <button type="button" pButton severity="secondary" (click)="allWell()">
          {{ central() ? "All are wet" : "All are right" }}
        </button>
      </div>
    }
    @if (branching()) {
      <ip-line-tree [outlets]="point().outlets" [states]="outlets()" />
    }
    @if (lineSays(); as says) {
      <p class="warn" role="status">{{ says }}</p>
    }
    <ip-check-rows [point]="point()" />
    <h3>{{ foundHeading() }}</h3>
    @if (unanswered().length) {
      <p class="warn" role="alert">
        Not answered: {{ unanswered().join("; ") }}. Answer, or press again to leave it at that.
      </p>
    }
    <div class="keys">
      @for (key of keys(); track key.state) {
        <button type="button" pButton severity="secondary" (click)="tell(key.state)">{{ key.label }}</button>
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
      <ip-photo-field [waiting]="photos()" (taken)="photo.emit($event)" />
    </div>
    <ip-text-field label="Note" [most]="500" [value]="words()" (typed)="words.set($event)" />
  `,
})
export class FoundForm {
  readonly point = input.required<LubricationPointRecord>();
  /** Photos that wait for the server. */
  readonly photos = input(0);
  readonly found = output<FoundVisit>();
  readonly photo = output<File>();
  /** Only another point empties what is typed: answers make the same point anew. */
  private readonly pointId = computed(() => this.point().id);
  private of<T>(start: () => T) {
    return linkedSignal<number, T>({ source: this.pointId, computation: start });
  }
  private readonly rows = viewChild.required(CheckRows);
  protected readonly keys = computed(() => foundKeys(this.point()));
  protected readonly central = computed(() => this.point().way === "central line");
  protected readonly branching = computed(() => this.central() && isLineTree(this.point().outlets));
  /** What wet and dry outlets say as they are answered. */
  protected readonly lineSays = computed(() => {
    if (!this.central()) return "";
    const outlets = this.point().outlets.map((name, i) => ({ name, wet: this.outlets()[i] ?? null }));
    const advice = centralAdvice(outlets);
    return advice.repair ? `${advice.says} Look at: ${advice.look.join("; ")}.` : "";
  });
  /** Nothing is greased or oiled here. */
  protected readonly nothingGiven = computed(() => this.point().dose === 0);
  protected readonly foundHeading = computed(() => {
    if (this.point().way === "bath") return "Its level, before it was topped up";
    return this.nothingGiven() ? "What it was like" : "Found, before anything was given";
  });
  /** Somebody pressed a key with checks left open: asked once. */
  private readonly asked = this.of(() => false);
  protected readonly unanswered = computed(() => (this.asked() ? this.rows().open() : []));
  /** An outlet is wet or dry; a carriage that is greased by itself was found right or dry. */
  protected readonly outletStates = computed<readonly Choice<boolean | null>[]>(() => [
    { id: null, label: "not looked at" },
    { id: true, label: this.central() ? "wet" : "right" },
    { id: false, label: "dry" },
  ]);
  protected readonly glitter = this.of(() => false);
  protected readonly friction = this.of(() => false);
  protected readonly words = this.of(() => "");
  /** What was given, as typed; the point’s own dose while it is empty. */
  protected readonly given = this.of(() => "");
  protected readonly givenError = this.of(() => "");
  /** Outlets of a central system as looked at, from the pump outwards. */
  protected readonly outlets = this.of<readonly (boolean | null)[]>(() => this.point().outlets.map(() => null));
  /** In the order they are looked at: of a central line the farthest first. */
  protected readonly outletRows = computed(() => {
    const { outlets } = this.point();
    if (!this.central()) return outlets.map((name, index) => ({ name, index }));
    return lookingOrder(outlets.map((name) => ({ name, wet: null }))).map((name) => ({
      name,
      index: outlets.indexOf(name),
    }));
  });

  /** The usual case in one press; one that is not can still be said. */
  protected allWell(): void {
    this.outlets.set(this.point().outlets.map(() => true));
  }

  protected outlet(index: number, wet: boolean | null): void {
    this.outlets.update((all) => all.map((o, i) => (i === index ? wet : o)));
  }

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
    if (this.rows().wrong()) return;
    if (this.rows().open().length && !this.asked()) {
      this.asked.set(true);
      return;
    }
    const none = found === "flooded" || found === "blocked";
    this.found.emit({
      found,
      dose: none && !typed ? 0 : given,
      glitter: this.glitter(),
      friction: this.friction(),
      outlets: [...this.outlets()],
      checks: this.rows().answers(),
      words: this.words(),
    });
  }
}
