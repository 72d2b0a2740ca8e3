import { ChangeDetectionStrategy, Component, computed, inject } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { AddressPipe } from "../data/address.pipe";
import { LoadingLines } from "../shared/loading";
import { momentText } from "../shared/times.text";
import { Trouble } from "../shared/trouble";
import { sizeText } from "./record.view";

/** How the server stands, for whoever keeps it. */
@Component({
  selector: "ip-server",
  imports: [AddressPipe, ButtonDirective, LoadingLines, RouterLink, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>Server</h1>
      @if (server.message()) {
        <ip-trouble [message]="server.message()" (again)="server.again()" />
      } @else if (server.value(); as server) {
        <dl>
          @for (row of rows(); track row[0]) {
            <dt>{{ row[0] }}</dt>
            <dd>{{ row[1] }}</dd>
          }
        </dl>
        <div class="acts">
          @if (server.lastBackup) {
            <a pButton [href]="'downloadBackup' | address: {}" download>The last backup, as a file</a>
          }
          <a pButton severity="secondary" [href]="'exportShop' | address: {}" download>Everything, as one zip</a>
          <a pButton severity="secondary" routerLink="/people">People</a>
          <a pButton severity="secondary" routerLink="/record">Record of changes</a>
        </div>
        <p class="quiet files">
          A backup holds everything, also who may sign in: it is kept where nobody else reads it. The zip holds each
          table as JSON and as CSV, with photos and recordings, and nobody’s PIN; an empty shop takes it in. How either
          is brought back stands in docs/reference/operations.md.
        </p>
      } @else {
        <ip-loading>Looking how it stands…</ip-loading>
      }
    </main>
  `,
  styles: `
    dl {
      display: grid;
      grid-template-columns: max-content 1fr;
      gap: var(--space-2) var(--space-5);
    }
    dd {
      margin: 0;
    }
    .files {
      max-width: 720px;
    }
  `,
})
export class ServerPage {
  private readonly api = inject(Api);
  protected readonly server = Loaded.now(() => this.api.call("server"));
  protected readonly rows = computed((): readonly (readonly [string, string])[] => {
    const server = this.server.value();
    if (!server) return [];
    const { storage: s, lastBackup } = server;
    const size = (bytes: number | null): string => (bytes === null ? "not known here" : sizeText(bytes));
    const last = [
      "Last good backup",
      lastBackup ? `${momentText(lastBackup.at)}, ${size(lastBackup.bytes)}` : "none yet",
    ] as const;
    return [
      ["Version", `${server.version}, running since ${momentText(server.since)}`],
      ["Runs on", server.runsOn.map((r) => `${r.name} ${r.version}`).join(", ")],
      ["Form of the store", server.store.replaceAll("_", " ")],
      ["The shop’s data", `${size(s.database)}; photos ${size(s.photos)}, recordings ${size(s.sounds)} of it`],
      ["Backups", s.backups === null ? "none are kept here" : size(s.backups)],
      ...(s.backups === null && !lastBackup ? [] : [last]),
      ["Free on the disk", size(s.free)],
    ];
  });
}
