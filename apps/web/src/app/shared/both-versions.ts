import { ChangeDetectionStrategy, Component, input, output } from "@angular/core";
import { ButtonDirective } from "primeng/button";

export interface BothRow {
  readonly label: string;
  readonly mine: string;
  readonly theirs: string;
}

/** What is said of one field, of either version. */
export interface SaidField<T> {
  readonly label: string;
  readonly value: (of: T) => string;
}

/** Fields in which two versions differ, in words. */
export function differing<T>(mine: T, theirs: T, fields: readonly SaidField<T>[]): readonly BothRow[] {
  return fields
    .map(({ label, value }) => ({
      label,
      mine: value(mine) || "empty",
      theirs: value(theirs) || "empty",
    }))
    .filter((row) => row.mine !== row.theirs);
}

/** Two people changed one thing: both versions beside each other, and the choice. */
@Component({
  selector: "ip-both-versions",
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styles: ".both { margin-top: 16px; } .save { margin-top: 12px; }",
  template: `
    <div class="boxed both" role="alert">
      <p>
        <b>{{ message() }}</b>
      </p>
      @if (rows().length) {
        <div class="scroll-x" tabindex="0" role="region" aria-label="Both versions">
          <table class="rows">
            <thead>
              <tr>
                <th scope="col">Field</th>
                <th scope="col" class="words">Yours</th>
                <th scope="col" class="words">{{ whose() }}</th>
              </tr>
            </thead>
            <tbody>
              @for (row of rows(); track row.label) {
                <tr>
                  <td>{{ row.label }}</td>
                  <td class="words">{{ row.mine }}</td>
                  <td class="words">{{ row.theirs }}</td>
                </tr>
              }
            </tbody>
          </table>
        </div>
      } @else {
        <p>In what you see here the two do not differ.</p>
      }
      <div class="acts save">
        <button type="button" pButton severity="secondary" (click)="keepMine.emit()">Keep mine</button>
        <button type="button" pButton severity="secondary" (click)="takeTheirs.emit()">
          {{ take() }}
        </button>
      </div>
    </div>
  `,
})
export class BothVersions {
  readonly message = input.required<string>();
  readonly rows = input.required<readonly BothRow[]>();
  /** Over the column of what is kept now. */
  readonly whose = input("Kept now");
  readonly take = input("Take the kept one");
  readonly keepMine = output();
  readonly takeTheirs = output();
}
