import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from "@angular/core";
import { formatQuantity, fromShown, unitOf, type FindingId } from "@iron/core";
import { parseDecimal } from "@iron/contract";
import { Preferences } from "../data/preferences";
import { ChoiceField } from "../shared/fields";
import { ChoicesPipe } from "../shared/choices.pipe";
import { InputText } from "primeng/inputtext";

export const FOUND_STATES = ["tight", "turned", "missing", "not looked at"] as const;
export type Found = (typeof FOUND_STATES)[number];

export interface Fastener {
  readonly name: string;
  /** What it means when it turns; null where that weighs nothing. */
  readonly finding: FindingId | null;
}

/** The fasteners of an axis as the wrench found them, each with the torque it turned at. */
@Component({
  selector: "ip-fastener-list",
  imports: [InputText, ChoiceField, ChoicesPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    <ul class="questions">
      @for (one of fasteners(); track one.name) {
        <li>
          <span></span>
          <span class="words">{{ one.name }}</span>
          <span class="wrench">
            <input
              pInputText
              class="torque"
              inputmode="decimal"
              autocomplete="off"
              [placeholder]="unit()"
              [attr.aria-label]="'Torque of ' + one.name + ', ' + unit()"
              (change)="setTorque(one.name, $any($event.target).value)"
            />
            <ip-choice-field
              quietly
              [label]="one.name"
              [value]="stateOf(one)"
              [choices]="states | choices"
              (chosen)="set(one, $event)"
            />
          </span>
        </li>
      }
    </ul>
    @if (error()) {
      <p class="wrong" role="alert">{{ error() }}</p>
    }
    <p class="quiet">At the torque the machine’s book gives. Note first, tighten afterwards.</p>
  `,
})
export class FastenerList {
  readonly fasteners = input.required<readonly Fastener[]>();
  /** What was found, by name. */
  readonly found = input.required<Readonly<Partial<Record<string, Found>>>>();
  readonly told = output<{ readonly one: Fastener; readonly state: Found }>();
  private readonly preferences = inject(Preferences);
  protected readonly states = FOUND_STATES;
  private readonly torques = signal<ReadonlyMap<string, number>>(new Map());
  private readonly refused = signal<ReadonlyMap<string, string>>(new Map());
  /** Torques that cannot be, in words: nothing is kept while there is one. */
  readonly error = computed(() => [...this.refused().values()].join(" "));
  protected readonly unit = computed(() => unitOf("torque", this.preferences.system()));

  /** Torque at which it turned or held, N·m; null where none was noted. */
  torqueOf(name: string): number | null {
    return this.torques().get(name) ?? null;
  }

  protected stateOf(one: Fastener): Found {
    return this.found()[one.name] ?? "not looked at";
  }

  protected set(one: Fastener, state: Found): void {
    this.told.emit({ one, state });
  }

  protected setTorque(name: string, text: string): void {
    const typed = text.trim();
    const system = this.preferences.system();
    const shown = parseDecimal(typed);
    const value = typed === "" || shown === undefined ? null : fromShown("torque", shown, system);
    const good = typed === "" || (value !== null && value >= 0.1 && value <= 2000);
    const without = <T>(all: ReadonlyMap<string, T>): Map<string, T> => new Map([...all].filter(([n]) => n !== name));
    this.refused.update((all) =>
      good
        ? without(all)
        : without(all).set(
            name,
            `Torque “${typed}” of ${name.toLowerCase()} cannot be: it is a number from ${formatQuantity("torque", 0.1, system)} to ${formatQuantity("torque", 2000, system)}.`,
          ),
    );
    // One that cannot be is no torque, not even the one noted before it.
    this.torques.update((all) => (good && value !== null ? without(all).set(name, value) : without(all)));
  }
}
