import { ChangeDetectionStrategy, Component, inject, output } from "@angular/core";
import { Dialog } from "primeng/dialog";
import { Keys } from "./keys";

@Component({
  selector: "ip-key-list",
  imports: [Dialog],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-dialog
      header="Keys that work here"
      [visible]="true"
      [modal]="true"
      [draggable]="false"
      [resizable]="false"
      [dismissableMask]="true"
      (visibleChange)="closed.emit()"
      closeAriaLabel="Close"
    >
      <div class="list" tabindex="0" role="region" aria-label="Keys">
        <table class="rows">
          <thead>
            <tr>
              <th scope="col">Key</th>
              <th scope="col" class="words">What it does</th>
            </tr>
          </thead>
          <tbody>
            @for (entry of keys.all(); track $index) {
              <tr>
                <td>
                  <kbd>{{ entry.shown }}</kbd>
                </td>
                <td class="words">{{ entry.does }}</td>
              </tr>
            }
            <tr>
              <td><kbd>Enter</kbd></td>
              <td class="words">In a reading field: take and go on</td>
            </tr>
            <tr>
              <td><kbd>Esc</kbd></td>
              <td class="words">Leave a field or close a dialog</td>
            </tr>
          </tbody>
        </table>
      </div>
    </p-dialog>
  `,
  styles: `
    .list {
      max-height: 65vh;
      overflow-y: auto;
    }
  `,
})
export class KeyList {
  protected readonly keys = inject(Keys);
  readonly closed = output();
}
