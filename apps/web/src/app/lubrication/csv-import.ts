import { AddressPipe } from "../data/address.pipe";
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { ProgressBar } from "primeng/progressbar";
import type { ImportState, LubricationImport } from "@iron/contract";
import { catchError, finalize, of, Subject, switchMap, takeUntil, timer } from "rxjs";
import { newKey } from "../data/new-key";
import { Api } from "../data/api";
import { Notices } from "../data/notices";

/** How often it is asked how far a file is. */
const LOOK_MS = 300;
const LARGEST = 5_000_000;

/** A CSV file in and out: wrong lines are named, and nothing is kept until that is said. */
const EXPORTED = { meters: "exportMeters", "lube-points": "exportPoints", "lube-visits": "exportWork" } as const;

@Component({
  selector: "ip-csv-import",
  imports: [ButtonDirective, AddressPipe, ProgressBar],
  styles: ".gone { flex: 1 1 100%; }",
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="field">
      <label [for]="'csv-' + what()">{{ label() }}</label>
      <input
        type="file"
        class="p-inputtext"
        accept=".csv,.txt,text/csv"
        [id]="'csv-' + what()"
        (change)="pick($any($event.target))"
      />
    </div>
    <p class="quiet">
      Columns {{ columns() }}; comma or semicolon between, point or comma in numbers.
      <a [href]="exported[what()] | address: {}">The same as a file to keep</a>
    </p>
    @if (tooLarge()) {
      <p class="wrong" role="alert">{{ tooLarge() }}</p>
    }
    @if (state(); as now) {
      <div class="acts" role="status">
        <p>{{ progressText(now) }}</p>
        <p-progressbar
          class="gone"
          ariaLabel="File gone through"
          [mode]="now.of ? 'determinate' : 'indeterminate'"
          [value]="now.of ? percent(now) : undefined"
        />
        @if (now.phase !== "keeping") {
          <button type="button" pButton severity="secondary" (click)="callOff()">Call it off</button>
        }
      </div>
    }
    @if (result(); as said) {
      @if (said.errors.length) {
        <div class="bad" role="alert">
          <p>
            <b
              >{{ said.errorLines }} {{ said.errorLines === 1 ? "line is" : "lines are" }} wrong;
              {{ said.kept ? said.kept + " kept" : "nothing was kept" }}.</b
            >
          </p>
          <ul>
            @for (error of said.errors.slice(0, shown); track $index) {
              <li>
                Line {{ error.line }}{{ error.column ? ", " + error.column : "" }}:
                {{ error.message }}
              </li>
            }
          </ul>
          @if (said.errors.length > shown) {
            <p>and {{ said.errors.length - shown }} more.</p>
          }
          @if (!said.kept && said.good) {
            <button type="button" pButton severity="secondary" (click)="send(true)">
              Keep the {{ said.good }} good {{ said.good === 1 ? "line" : "lines" }} all the same
            </button>
          }
        </div>
      } @else {
        <p role="status">{{ said.kept }} kept{{ said.known ? ", " + said.known + " were there already" : "" }}.</p>
      }
    }
  `,
})
export class CsvImport {
  /** What the file holds, as the address names it. */
  protected readonly exported = EXPORTED;
  readonly what = input.required<"meters" | "lube-points" | "lube-visits">();
  readonly label = input.required<string>();
  readonly columns = input.required<string>();
  readonly kept = output();
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private text = "";
  protected readonly result = signal<LubricationImport | null>(null);
  protected readonly tooLarge = signal("");
  /** How far the file is that is being read; null while none is. */
  protected readonly state = signal<ImportState | null>(null);
  protected readonly shown = 20;
  private key = "";

  protected pick(field: HTMLInputElement): void {
    const file = field.files?.[0];
    this.result.set(null);
    this.tooLarge.set("");
    if (!file) return;
    if (file.size > LARGEST) {
      this.tooLarge.set(`${file.name} is larger than 5 MB.`);
      return;
    }
    void file.text().then((text) => {
      this.text = text;
      this.send(false);
      // The same file can be chosen again after it was mended.
      field.value = "";
    });
  }

  protected progressText({ phase, rows, of }: ImportState): string {
    if (phase === "keeping") return "Kept now, all at once.";
    if (phase === "waiting") return "Waits for another file to be read.";
    return of ? `Line ${rows} of ${of} gone through.` : "The file is read.";
  }

  protected percent({ rows, of }: ImportState): number {
    return of ? Math.round((100 * rows) / of) : 0;
  }

  /** Nothing of it is kept; the answer to the file itself says so. */
  protected callOff(): void {
    this.api.call("callImportOff", { params: { key: this.key } }).subscribe({
      error: this.notices.error,
    });
  }

  protected send(anyway: boolean): void {
    this.key = newKey();
    const body = { text: this.text, anyway, key: this.key };
    const done = new Subject<void>();
    // A small file is through before anybody looks.
    timer(LOOK_MS, LOOK_MS)
      .pipe(
        takeUntil(done),
        switchMap(() => this.api.call("importState", { params: { key: this.key } }).pipe(catchError(() => of(null)))),
      )
      .subscribe((now) => this.state.set(now?.phase === "none" ? null : now));
    const what = this.what();
    const answer =
      what === "meters"
        ? this.api.call("importMeters", { body })
        : what === "lube-points"
          ? this.api.call("importPoints", { body })
          : this.api.call("importWork", { body });
    const over = (): void => {
      done.next();
      this.state.set(null);
    };
    answer.pipe(finalize(over)).subscribe({
      next: (said) => {
        this.result.set(said);
        if (said.kept) this.kept.emit();
      },
      error: this.notices.error,
    });
  }
}
