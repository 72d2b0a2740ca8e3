import { ChangeDetectionStrategy, Component, input, output } from "@angular/core";
import type { RunView } from "./run.view";
import { ButtonDirective } from "primeng/button";

@Component({
  selector: "ip-readings-table",
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="scroll-x" tabindex="0" role="region" aria-label="Readings">
      <table class="rows">
        <thead>
          <tr>
            <th scope="col">{{ view().unit }}</th>
            @for (run of view().runs; track run) {
              <th scope="col">{{ run === 1 ? "run 1" : run }}</th>
            }
            <th scope="col">mean</th>
            <th scope="col">s</th>
          </tr>
        </thead>
        <tbody>
          @for (row of view().rows; track row.key) {
            <tr>
              <th scope="row" [class.from-minus]="row.direction === '+'" [class.from-plus]="row.direction === '-'">
                <span aria-hidden="true">{{ row.direction === "+" ? "●" : "◇" }}</span>
                @if (view().manyPlaces) {
                  {{ row.place }}
                }
                {{ row.name }}
              </th>
              @for (cell of row.cells; track cell.step) {
                <td [class.now]="cell.now" [attr.aria-current]="cell.now ? 'step' : null">
                  @if (cell.readingId !== null) {
                    <button
                      type="button"
                      pButton
                      text
                      class="cell"
                      [attr.aria-label]="cell.text + ', set this reading aside'"
                      (click)="aside.emit(cell.readingId)"
                    >
                      {{ cell.text }}
                    </button>
                  } @else {
                    {{ cell.now ? "…" : "" }}
                  }
                </td>
              }
              <td>{{ row.mean }}</td>
              <td>{{ row.s }}</td>
            </tr>
          }
        </tbody>
      </table>
    </div>
  `,
  styles: `
    :host {
      display: block;
      margin-top: var(--space-2);
    }
    th[scope="row"] {
      white-space: nowrap;
      font-size: var(--type-2);
      position: sticky;
      left: 0;
      background: var(--sheet);
    }
    td {
      white-space: nowrap;
    }
    .now {
      outline: 2px solid var(--blue);
      outline-offset: -2px;
    }
    .cell {
      display: inline-block;
      border: 0;
      background: none;
      color: inherit;
      font: inherit;
      padding: var(--space-1) 0;
      min-height: 28px;
      min-width: 28px;
      text-align: right;
      cursor: pointer;
    }
    .cell:hover {
      text-decoration: line-through;
    }
    @media (pointer: coarse) {
      .cell {
        min-height: var(--touch);
        min-width: var(--touch);
      }
    }
  `,
})
export class ReadingsTable {
  readonly view = input.required<RunView>();
  readonly aside = output<number>();
}
