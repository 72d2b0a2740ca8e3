import { ChangeDetectionStrategy, Component, computed, inject } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { Notices } from "../data/notices";
import { momentText as timeSaid } from "../shared/times.text";
import { Trouble } from "../shared/trouble";
import { deviceSaid } from "./people.view";

/** Who is signed in where; a device that was left lying about is signed out from here. */
@Component({
  selector: "ip-session-list",
  imports: [ButtonDirective, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Signed in</h2>
    @if (sessions.message()) {
      <ip-trouble [message]="sessions.message()" (again)="sessions.again()" />
    }
    <div class="scroll-x" tabindex="0" role="region" aria-label="Signed in">
      <table class="rows stacked">
        <thead>
          <tr>
            <th scope="col" class="words">Name</th>
            <th scope="col" class="words">On</th>
            <th scope="col" class="words">Since</th>
            <th scope="col" class="words">Last used</th>
            <th scope="col"><span class="sr-only">Actions</span></th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.id) {
            <tr>
              <td class="words">{{ row.name }}</td>
              <td class="words">{{ row.device }}, {{ row.address }}</td>
              <td class="words still" data-head="Since">{{ row.since }}</td>
              <td class="words still" data-head="Last used">{{ row.lastSeen }}</td>
              <td class="still">
                @if (row.own) {
                  this device
                } @else {
                  <button
                    type="button"
                    pButton
                    text
                    [attr.aria-label]="'Sign ' + row.name + ' out of ' + row.device"
                    (click)="end(row.id)"
                  >
                    Sign out
                  </button>
                }
              </td>
            </tr>
          }
        </tbody>
      </table>
    </div>
  `,
  styles: `
    .still {
      white-space: nowrap;
    }
  `,
})
export class SessionList {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly sessions = Loaded.now(() => this.api.call("sessions"));
  protected readonly rows = computed(() =>
    (this.sessions.value() ?? []).map((s) => ({
      ...s,
      device: deviceSaid(s.device),
      since: timeSaid(s.since),
      lastSeen: timeSaid(s.lastSeen),
    })),
  );

  protected end(id: number): void {
    this.api.call("endSession", { params: { id } }).subscribe({
      next: (now) => this.sessions.value.set(now),
      error: this.notices.error,
    });
  }
}
