import { ChangeDetectionStrategy, Component, input, output } from "@angular/core";

/** Yes, no or unknown: unknown is an answer too, and not the same as no. */
@Component({
  selector: "ip-triple",
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="triple" role="group" [attr.aria-label]="label()">
      <button type="button" [attr.aria-pressed]="value() === true" [disabled]="disabled()" (click)="picked.emit(true)">
        Yes
      </button>
      <button
        type="button"
        [attr.aria-pressed]="value() === false"
        [disabled]="disabled()"
        (click)="picked.emit(false)"
      >
        No
      </button>
      <button type="button" [attr.aria-pressed]="value() === null" [disabled]="disabled()" (click)="picked.emit(null)">
        ?<span class="sr-only"> not known</span>
      </button>
    </div>
  `,
  styles: `
    .triple {
      display: inline-flex;
    }
    button {
      min-height: var(--touch);
      min-width: var(--touch);
      border: 1px solid var(--rule);
      background: none;
      color: inherit;
      font: inherit;
      cursor: pointer;
    }
    button + button {
      border-left: 0;
    }
    button[aria-pressed="true"] {
      background: var(--ink);
      border-color: var(--ink);
      color: var(--sheet);
      font-weight: 700;
    }
    button:last-child[aria-pressed="true"] {
      background: var(--wash);
      color: var(--ink);
      font-weight: 400;
    }
    button:disabled {
      cursor: not-allowed;
    }
  `,
})
export class Triple {
  readonly label = input.required<string>();
  readonly value = input.required<boolean | null>();
  readonly disabled = input(false);
  readonly picked = output<boolean | null>();
}
