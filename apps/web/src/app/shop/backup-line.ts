import { ChangeDetectionStrategy, Component, inject } from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import { catchError, map, of } from "rxjs";
import { Api } from "../data/api";
import { problemFrom } from "../data/problems";
import { backupText } from "../shared/backup.text";

/** How the backups of the shop’s data stand, and how one is made or brought back. */
@Component({
  selector: "ip-backup-line",
  changeDetection: ChangeDetectionStrategy.OnPush,
  styles: ":host { display: block; margin-top: 24px; }",
  template: `
    <h2>Backups</h2>
    <p>{{ message() }}</p>
    <p class="quiet">
      Of a shop’s own data one is made each day while the server runs, checked, and kept for seven days, four weeks and
      twelve months in the folder “backups” beside it. Copy that folder to another machine now and then. By hand: npm
      run backup, npm run restore -- FILE.
    </p>
  `,
})
export class BackupLine {
  protected readonly message = toSignal(
    inject(Api)
      .call("backups")
      .pipe(
        map((state) => (state ? backupText(state, new Date()) : "This is the demo shop: no backups are kept of it.")),
        catchError((error: unknown) => of(`How the backups stand is not known: ${problemFrom(error).detail}`)),
      ),
    { initialValue: "Looking…" },
  );
}
