import { TickBox } from "../../shared/tick-box";
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { DIVISION_FRACTIONS, formatSize, type TestStep, type UnitSystem } from "@iron/core";
import type { Run } from "@iron/contract";
import { InputText } from "primeng/inputtext";
import { dialEntry, entryLabel, typedEntry, type Entry } from "./entry.view";
import { RunStore } from "./run-store";
import { type Choice, ChoiceField } from "../../shared/fields";
import { ChoicesPipe } from "../../shared/choices.pipe";

/** Readings by hand: typed figures with Enter, or divisions and fractions of a dial. */
@Component({
  selector: "ip-entry-panel",
  imports: [ButtonDirective, TickBox, InputText, ChoiceField, ChoicesPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (submit)="$event.preventDefault(); enter()" novalidate>
      @if (step().action === "zero") {
        <p class="quiet">When the axis stands there and the indicator shows zero, say so.</p>
        <div class="acts">
          <button pButton type="submit" [disabled]="store.busy()">It stands at zero</button>
        </div>
      } @else if (dial() && step().action === "read") {
        <div class="fields">
          <ip-choice-field label="Needle went" [value]="negative()" [choices]="signs" (chosen)="negative.set($event)" />
          <div class="field">
            <label for="divisions">Whole divisions of {{ division() }}</label>
            <input
              pInputText
              id="divisions"
              #field
              inputmode="numeric"
              autocomplete="off"
              [value]="text()"
              (input)="text.set($any($event.target).value)"
              [attr.aria-describedby]="error() ? 'entry-error' : null"
            />
          </div>
          <ip-choice-field
            label="and"
            [value]="fraction()"
            [choices]="fractions | choices: 'fraction' : 'label'"
            (chosen)="fraction.set($event)"
          />
        </div>
      } @else {
        <div class="field narrow">
          <label for="typed">{{ label() }}</label>
          <input
            pInputText
            id="typed"
            #field
            class="large"
            inputmode="decimal"
            autocomplete="off"
            [value]="text()"
            (input)="text.set($any($event.target).value)"
            [attr.aria-invalid]="!!error()"
            [attr.aria-describedby]="error() ? 'entry-error' : null"
          />
        </div>
      }
      @if (error()) {
        <p id="entry-error" class="wrong" role="alert">{{ error() }}</p>
      }
      @if (step().action !== "zero") {
        <ip-tick-box [checked]="spoilt()" (ticked)="spoilt.set($event)"
          >I passed the target: keep it as spoilt</ip-tick-box
        >
        <div class="acts">
          <button pButton type="submit" [disabled]="store.busy()">
            Take reading <kbd aria-hidden="true">Enter</kbd>
          </button>
        </div>
      }
    </form>
  `,
  styles: `
    .narrow {
      max-width: 280px;
    }
    .large {
      font-size: var(--type-5);
    }
    .acts {
      margin-top: var(--space-2);
    }
  `,
})
export class EntryPanel {
  readonly run = input.required<Run>();
  readonly step = input.required<TestStep>();
  readonly system = input.required<UnitSystem>();
  readonly dial = input.required<boolean>();
  protected readonly store = inject(RunStore);
  protected readonly signs: readonly Choice<boolean>[] = [
    { id: false, label: "plus, past zero" },
    { id: true, label: "minus, before zero" },
  ];
  protected readonly fractions = DIVISION_FRACTIONS;
  protected readonly text = signal("");
  protected readonly fraction = signal(0);
  protected readonly negative = signal(false);
  protected readonly spoilt = signal(false);
  protected readonly error = signal("");
  private readonly field = viewChild<ElementRef<HTMLInputElement>>("field");
  protected readonly label = computed(() =>
    entryLabel(this.step(), this.run().setup.indicator.unit, this.run().plan.countsStill),
  );
  protected readonly division = computed(() =>
    formatSize(this.run().setup.indicator.resolutionMm, this.run().setup.indicator.unit === "in" ? "inch" : "metric"),
  );

  protected enter(): void {
    const entry = this.read();
    if (!entry.ok) {
      this.error.set(entry.error);
      return;
    }
    this.error.set("");
    this.store.take(entry.reading, () => {
      this.text.set("");
      this.fraction.set(0);
      this.spoilt.set(false);
      setTimeout(() => this.field()?.nativeElement.focus());
    });
  }

  private read(): Entry {
    const { indicator } = this.run().setup;
    const step = this.step();
    if (step.action === "zero") {
      return {
        ok: true,
        reading: {
          source: "typed",
          step: step.index,
          value: 0,
          widthMm: indicator.resolutionMm,
          entered: "set to zero",
          spoilt: false,
        },
      };
    }
    if (this.dial() && step.action === "read") {
      return dialEntry(this.text(), {
        fraction: this.fraction(),
        negative: this.negative(),
        step,
        divisionMm: indicator.resolutionMm,
        rangeMm: indicator.rangeMm,
        spoilt: this.spoilt(),
      });
    }
    return typedEntry(this.text(), {
      step,
      unit: indicator.unit,
      resolutionMm: indicator.resolutionMm,
      rangeMm: indicator.rangeMm,
      spoilt: this.spoilt(),
      countsStill: this.run().plan.countsStill,
    });
  }
}
