import { ChangeDetectionStrategy, Component, effect, input, output } from "@angular/core";
import { FormControl, ReactiveFormsModule } from "@angular/forms";
import { RadioButton } from "primeng/radiobutton";
import type { Choice } from "./fields";

let made = 0;

/** One of a few, all in sight, each large enough for a glove. */
@Component({
  selector: "ip-one-of",
  imports: [RadioButton, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fieldset>
      <legend>{{ legend() }}</legend>
      @for (one of choices(); track one.id) {
        <label class="key" [class.on]="value() === one.id" [for]="name + one.id"
          ><p-radiobutton [name]="name" [inputId]="name + one.id" [value]="one.id" [formControl]="control" />{{
            one.label
          }}</label
        >
      }
    </fieldset>
  `,
  styles: `
    fieldset {
      display: flex;
      flex-wrap: wrap;
      gap: var(--space-3);
      border: 0;
      margin: 0;
      padding: 0;
    }
    .key {
      display: inline-flex;
      align-items: center;
      gap: var(--space-3);
      min-height: 52px;
      padding: 0 var(--space-4);
      border: 1px solid var(--ink);
      border-radius: var(--corner);
      cursor: pointer;
    }
    .key.on {
      background: var(--wash);
      border-color: var(--blue);
      outline: 2px solid var(--blue);
      outline-offset: -2px;
      font-weight: 700;
    }
    @media (max-width: 600px) {
      .key {
        flex: 1 1 40%;
      }
    }
  `,
})
export class OneOf<T extends string> {
  readonly legend = input.required<string>();
  readonly choices = input.required<readonly Choice<T>[]>();
  readonly value = input.required<T | null | undefined>();
  readonly picked = output<T>();
  protected readonly name = `one-of-${(made += 1)}`;
  protected readonly control = new FormControl<T | null>(null);

  constructor() {
    effect(() => this.control.setValue(this.value() ?? null, { emitEvent: false }));
    this.control.valueChanges.subscribe((id) => {
      if (id !== null) this.picked.emit(id);
    });
  }
}
