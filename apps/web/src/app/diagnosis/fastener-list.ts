import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  signal,
  viewChildren,
} from "@angular/core";
import { FOUND_TORQUE, unitOf, type FindingId } from "@iron/core";
import { Preferences } from "../data/preferences";
import { ChoiceField, NumberField } from "../shared/fields";
import { ChoicesPipe } from "../shared/choices.pipe";

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
  imports: [NumberField, ChoiceField, ChoicesPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    <ul class="questions bare">
      @for (one of fasteners(); track one.name) {
        <li>
          <span class="words">{{ one.name }}</span>
          <span class="wrench">
            <ip-number-field
              class="torque"
              quietly
              none
              quantity="torque"
              [label]="'Torque of ' + one.name"
              [placeholder]="unit()"
              [least]="bound.min"
              [most]="bound.max"
              [hint]="unsaid(one) ? SAY_WHICH : ''"
              [error]="asked() && unsaid(one) ? SAY_WHICH : ''"
              (read)="torques.set(with(one.name, $event))"
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
  private readonly fields = viewChildren(NumberField);
  protected readonly torques = signal<ReadonlyMap<string, number | null>>(new Map());
  protected readonly SAY_WHICH = "Did it hold or turn at that?";
  /** Keeping was tried. */
  protected readonly asked = signal(false);
  protected readonly bound = FOUND_TORQUE;
  protected readonly unit = computed(() => unitOf("torque", this.preferences.system()));

  /** Torque at which it turned or held, N·m; null where none was noted. */
  torqueOf(name: string): number | null {
    return this.torques().get(name) ?? null;
  }

  /** Whether all can be kept; what cannot is said where it stands. */
  mayKeep(): boolean {
    this.asked.set(true);
    return (
      !this.fields().some((field) => field.textError() !== "") && !this.fasteners().some((one) => this.unsaid(one))
    );
  }

  /** A torque without what it did to the fastener is no finding, and would be lost. */
  protected unsaid(one: Fastener): boolean {
    return this.torqueOf(one.name) !== null && this.stateOf(one) === "not looked at";
  }

  protected stateOf(one: Fastener): Found {
    return this.found()[one.name] ?? "not looked at";
  }

  protected set(one: Fastener, state: Found): void {
    this.told.emit({ one, state });
  }

  protected with(name: string, torqueNm: number | null): ReadonlyMap<string, number | null> {
    return new Map([...this.torques(), [name, torqueNm]]);
  }
}
