import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, untracked } from "@angular/core";
import { parseDecimal, type LubricationPointRecord } from "@iron/contract";
import {
  centralAdvice,
  isLineTree,
  lookingOrder,
  placesFound,
  placesText,
  type FoundState,
  type PlaceFound,
  type PlaceSaid,
} from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { ChoiceField, TextField, type Choice } from "../shared/fields";
import { LineTree } from "./line-tree";
import { FOUND_KEYS } from "./rounds.view";

const WET: readonly Choice<boolean | null>[] = [
  { id: null, label: "not looked at" },
  { id: true, label: "wet" },
  { id: false, label: "dry" },
];
const AS_OTHERS: readonly Choice<FoundState | null>[] = [
  { id: null, label: "as the others" },
  ...FOUND_KEYS.map(({ state, label }) => ({ id: state, label: label.toLowerCase() })),
];

/** What goes with a visit of what a point feeds. */
export interface PlacesTold {
  readonly found: FoundState;
  readonly dose: number;
  readonly outlets: (boolean | null)[];
  readonly places: PlaceFound[];
}

/**
 * What a point feeds: the outlets of a central line, wet or dry, or places that share its dose. The usual case is one
 * press; one by one is opened when they are not alike.
 */
@Component({
  selector: "ip-found-places",
  imports: [ButtonDirective, ChoiceField, LineTree, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    @if (names().length) {
      <div class="acts">
        @if (central() && names().length > 1) {
          <button type="button" pButton severity="secondary" (click)="allWet()">All outlets are wet</button>
        }
        <button
          type="button"
          pButton
          severity="secondary"
          [attr.aria-expanded]="open()"
          [attr.aria-controls]="'places-' + point().id"
          (click)="open.set(!open())"
        >
          {{ central() ? "Outlets one by one" : "They are not alike: one by one" }}
        </button>
      </div>
      @if (summary(); as said) {
        <p role="status">{{ said }}</p>
      }
      <div [id]="'places-' + point().id" [hidden]="!open()">
        @if (open()) {
          <div class="fields outlets">
            @for (row of rows(); track row.name) {
              @if (central()) {
                <ip-choice-field
                  [label]="'Outlet: ' + row.name"
                  [value]="wet()[row.index]"
                  [choices]="wetStates"
                  (chosen)="tellWet(row.index, $event)"
                />
              } @else {
                <ip-choice-field
                  [label]="row.name"
                  [value]="states()[row.index]"
                  [choices]="placeStates"
                  (chosen)="tellState(row.index, $event)"
                />
                @if (point().dose > 0 && point().doseUnit !== "wipe") {
                  <ip-text-field
                    mode="decimal"
                    [label]="row.name + ' given, ' + point().doseUnit + '; empty: its share'"
                    [value]="given()[row.index]"
                    [error]="errorOf(row.index)"
                    (typed)="type(row.index, $event)"
                  />
                }
              }
            }
          </div>
          @if (branching()) {
            <ip-line-tree [outlets]="names()" [states]="wet()" />
          }
        }
      </div>
      @if (lineSays(); as says) {
        <p class="warn" role="status">{{ says }}</p>
      }
    }
  `,
})
export class FoundPlaces {
  readonly point = input.required<LubricationPointRecord>();
  /** Rises when a visit was told: the next one begins empty. */
  readonly turn = input(0);
  /** Only that and another point empty what is told: answers make the same point anew. */
  private readonly begun = computed(() => `${this.point().id} ${this.turn()}`);
  private of<T>(start: () => T) {
    return linkedSignal<string, T>({ source: this.begun, computation: () => untracked(start) });
  }
  protected readonly wetStates = WET;
  protected readonly placeStates = AS_OTHERS;
  protected readonly open = this.of(() => false);
  readonly names = computed(() => this.point().outlets);
  protected readonly central = computed(() => this.point().way === "central line");
  protected readonly branching = computed(() => this.central() && isLineTree(this.names()));
  /** Outlets of a central line, from the pump outwards. */
  protected readonly wet = this.of<readonly (boolean | null)[]>(() => this.names().map(() => null));
  protected readonly states = this.of<readonly (FoundState | null)[]>(() => this.names().map(() => null));
  /** What each place was given, as typed. */
  protected readonly given = this.of<readonly string[]>(() => this.names().map(() => ""));
  /** In the order they are looked at: of a central line the farthest first. */
  protected readonly rows = computed(() => {
    const names = this.names();
    const rows = names.map((name, index) => ({ name, index }));
    if (!this.central()) return rows;
    const order = lookingOrder(names.map((name) => ({ name, wet: null })));
    return order.map((name) => ({ name, index: names.indexOf(name) }));
  });
  /** Something was said of a place by itself. */
  readonly apart = computed(
    () => !this.central() && (this.states().some((s) => s !== null) || this.given().some((g) => g.trim() !== "")),
  );
  /** Every place was told by itself: there are no others for a key to speak of. */
  readonly allTold = computed(() => this.apart() && this.states().every((s) => s !== null));
  /** What the closed list holds, or what it was like the last time. */
  protected readonly summary = computed(() => {
    if (this.central()) return this.wetText();
    const told = placesText(
      this.names().flatMap((name, i) => {
        const found = this.states()[i];
        return found && found !== "right" ? [{ name, found, dose: 0 }] : [];
      }),
    );
    if (told) return `Told: ${told}.`;
    const last = placesText(this.point().places);
    return last ? `Last time: ${last}.` : "";
  });
  /** What wet and dry outlets say as they are answered. */
  protected readonly lineSays = computed(() => {
    if (!this.central()) return "";
    const advice = centralAdvice(this.names().map((name, i) => ({ name, wet: this.wet()[i] ?? null })));
    return advice.repair ? `${advice.says} Look at: ${advice.look.join("; ")}.` : "";
  });

  private wetText(): string {
    const looked = this.wet().filter((w) => w !== null);
    if (looked.length === 0) return "";
    const all = this.names().length;
    const wet = looked.filter(Boolean).length;
    return wet === all ? `All ${all} are wet.` : `${looked.length} of ${all} looked at, ${looked.length - wet} dry.`;
  }

  /** Nothing may be kept while an amount cannot be read. */
  wrong(): boolean {
    return this.names().some((_, i) => this.errorOf(i) !== "");
  }

  /** What the key for the others and what was told apart make together. */
  told(others: FoundState, dose: number): PlacesTold {
    const outlets = this.central() ? [...this.wet()] : [];
    if (!this.apart()) return { found: others, dose, outlets, places: [] };
    const said = this.names().map((_, i): PlaceSaid => ({
      found: this.states()[i],
      dose: parseDecimal(this.given()[i].trim()) ?? null,
    }));
    const all = placesFound(this.names(), { said, others, dose });
    return { found: all.found, dose: all.dose, outlets, places: [...all.places] };
  }

  /** The usual case in one press; one that is not can still be said. */
  protected allWet(): void {
    this.wet.set(this.names().map(() => true));
  }

  protected tellWet(index: number, wet: boolean | null): void {
    this.wet.update((all) => all.map((one, i) => (i === index ? wet : one)));
  }

  protected tellState(index: number, found: FoundState | null): void {
    this.states.update((all) => all.map((one, i) => (i === index ? found : one)));
  }

  protected type(index: number, text: string): void {
    this.given.update((all) => all.map((one, i) => (i === index ? text : one)));
  }

  protected errorOf(index: number): string {
    const text = this.given()[index].trim();
    if (!text) return "";
    const amount = parseDecimal(text);
    return amount === undefined || amount < 0 || amount > 500
      ? `“${text}” cannot be: a dose is a number from 0 to 500.`
      : "";
  }
}
