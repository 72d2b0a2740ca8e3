import { ChangeDetectionStrategy, Component, input } from "@angular/core";
import { formatDeviation, type UnitSystem } from "@iron/core";
import type { LedgerView } from "@iron/contract";
import type { LedgerRow } from "./case.view";

/** The loss ledger: shares, what nobody looked at, the rest, and the sum. */
@Component({
  selector: "ip-ledger-table",
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    <table class="ledger">
      <caption class="sr-only">
        Loss ledger
      </caption>
      <tbody>
        @for (row of rows(); track row.name) {
          <tr [class.unknown]="!row.known">
            <th scope="row">
              {{ row.name }}<span>{{ row.from }}</span>
            </th>
            <td class="bar">
              <span aria-hidden="true" [style.width.%]="row.width"></span>
            </td>
            <td>{{ row.share }}</td>
            <td>{{ row.plusMinus }}</td>
          </tr>
        }
        @if (ledger().rest; as rest) {
          <tr>
            <th scope="row">
              Unexplained<span>{{
                rest.significant
                  ? "more than its uncertainty: something else loses"
                  : "within its uncertainty: the ledger closes"
              }}</span>
            </th>
            <td class="bar"></td>
            <td>{{ size(rest.mm, rest.expandedMm) }}</td>
            <td>± {{ size(rest.expandedMm, rest.expandedMm) }}</td>
          </tr>
        }
        @if (ledger().total; as total) {
          <tr class="sum">
            <th scope="row">Lost at the {{ member() }}</th>
            <td></td>
            <td>{{ size(total.reversalValueMm, total.expandedMm) }}</td>
            <td>± {{ size(total.expandedMm, total.expandedMm) }}</td>
          </tr>
        } @else {
          <tr class="sum">
            <th scope="row">Lost at the {{ member() }}</th>
            <td></td>
            <td colspan="2">not measured</td>
          </tr>
        }
      </tbody>
    </table>
    @for (said of ledger().contradictions; track said) {
      <p class="warn">{{ said }}</p>
    }
  `,
})
export class LedgerTable {
  readonly ledger = input.required<LedgerView>();
  readonly rows = input.required<readonly LedgerRow[]>();
  readonly system = input.required<UnitSystem>();
  readonly member = input.required<string>();

  protected size(mm: number, u: number): string {
    return formatDeviation(mm, {
      system: this.system(),
      expandedMm: u,
      bare: true,
    });
  }
}
