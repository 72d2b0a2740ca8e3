import { ChangeDetectionStrategy, Component, input, output } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { InputText } from "primeng/inputtext";

/** What was typed, which of the two it is, and the field it stands in until it is kept. */
export interface StockMove<K extends string> {
  readonly kind: K;
  readonly field: HTMLInputElement;
}

/** A number with two things it may be: counted on the shelf, or come in, or taken out. */
@Component({
  selector: "ip-stock-move",
  imports: [ButtonDirective, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styles: `
    span {
      display: inline-flex;
      gap: var(--space-2);
      align-items: center;
    }
    input {
      width: 110px;
    }
    button {
      white-space: nowrap;
    }
    @media (max-width: 1000px) {
      span {
        flex-wrap: wrap;
        width: 220px;
      }
    }
  `,
  template: `
    <span>
      <input
        #typed
        pInputText
        inputmode="decimal"
        autocomplete="off"
        [attr.placeholder]="unit() || null"
        [attr.aria-label]="label() + ' of ' + of()"
      />
      @for (one of kinds(); track one.kind) {
        <button
          type="button"
          pButton
          severity="secondary"
          (click)="moved.emit({ kind: one.kind, field: typed })"
          [attr.aria-label]="one.label + ': ' + of()"
        >
          {{ one.label }}
        </button>
      }
    </span>
  `,
})
export class StockMoveField<K extends string> {
  /** What the number is of. */
  readonly of = input.required<string>();
  readonly label = input.required<string>();
  readonly unit = input("");
  readonly kinds = input.required<readonly { readonly kind: K; readonly label: string }[]>();
  readonly moved = output<StockMove<K>>();
}
