import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { ProgressBar } from "primeng/progressbar";
import { formatNumber, formatSize, roundText, type DwellWord } from "@iron/core";
import { parseCircleCsv, parseDecimal, type CirclePlane, type CsvError } from "@iron/contract";
import { AddressPipe } from "../data/address.pipe";
import { Preferences } from "../data/preferences";
import { ChoiceField, TextField, type Choice } from "../shared/fields";
import { Opens } from "../shared/opens";
import { DWELL_WORDS } from "../measure/run/dwell-words";
import { CircleStore } from "./circle-store";
import { circleChecks } from "./circle.view";

/** How a plane is read: what to see to first, then the bar one way and the other, a file, or an indicator’s readings. */
@Component({
  selector: "ip-read-plane",
  imports: [ProgressBar, AddressPipe, ButtonDirective, ChoiceField, Opens, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./circle.css",
  template: `
    @if (store.working() !== null) {
      <div role="status">
        <p class="quiet">The readings are kept and taken apart; other pages can be gone to meanwhile.</p>
        <p-progressbar
          [value]="share()"
          [mode]="share() === 0 ? 'indeterminate' : 'determinate'"
          [showValue]="false"
          ariaLabel="Readings are taken apart"
        />
      </div>
    }
    @if (next(); as direction) {
      <h2>{{ heading() }}</h2>
      <ul class="checks">
        @for (check of checks(); track check) {
          <li>{{ check }}</li>
        }
      </ul>
      <p class="quiet">
        The machine’s manual, local rules and whoever answers for the machine come before anything said here.
      </p>
      <div class="acts">
        @if (connected()) {
          <button
            type="button"
            pButton
            [disabled]="store.busy() || store.reading()"
            (click)="store.read(plane().id, direction)"
          >
            Read it {{ say(direction) }}
          </button>
        }
        <a pButton severity="secondary" [href]="'circleProgramOf' | address: programAt()" download>Program</a>
      </div>
    } @else {
      <div class="acts">
        @if (connected()) {
          @for (way of [1, -1]; track way) {
            <button
              type="button"
              pButton
              severity="secondary"
              [disabled]="store.busy() || store.reading()"
              (click)="store.read(plane().id, way === 1 ? 1 : -1)"
            >
              Once more {{ say(way === 1 ? 1 : -1) }}
            </button>
          }
        }
        <a pButton severity="secondary" [href]="'circleProgramOf' | address: programAt()" download>Program</a>
      </div>
    }
    <ip-choice-field
      class="other"
      label="The control writes a dwell as"
      [choices]="dwellWords"
      [value]="dwellWord()"
      (chosen)="dwellWord.set($event)"
    />
    <div class="acts other">
      <button
        type="button"
        pButton
        severity="secondary"
        (click)="way.set(way() === 'file' ? null : 'file')"
        [attr.aria-expanded]="way() === 'file'"
      >
        From a file…
      </button>
      <button
        type="button"
        pButton
        severity="secondary"
        (click)="way.set(way() === 'typed' ? null : 'typed')"
        [attr.aria-expanded]="way() === 'typed'"
      >
        Type an indicator’s readings…
      </button>
    </div>
    @if (way() === "file") {
      <div class="boxed" ipOpens>
        <p>
          A CSV file with the columns <b>angle_deg</b> and <b>deviation_um</b> (or _mm, _in, _tenth), or <b>x_mm</b> and
          <b>y_mm</b> from the centre; <b>direction</b> ccw or cw.
        </p>
        <input
          type="file"
          class="p-inputtext"
          accept=".csv,.txt,text/csv"
          aria-label="File with readings of this circle"
          (change)="pick($any($event.target).files)"
        />
        @if (errors().length) {
          <div class="bad" role="alert">
            <p>Nothing was kept. Mend the file and choose it again:</p>
            <ul>
              @for (error of errors().slice(0, 12); track $index) {
                <li>Line {{ error.line }}{{ error.column ? ", " + error.column : "" }}: {{ error.message }}</li>
              }
            </ul>
          </div>
        }
        @if (found(); as found) {
          <p>{{ found.say }}</p>
          <button type="button" pButton [disabled]="store.busy()" (click)="keepFile(found.text)">
            Keep these readings
          </button>
        }
      </div>
    }
    @if (way() === "typed") {
      <form class="boxed" ipOpens (submit)="$event.preventDefault(); keepTyped()" aria-label="Type readings">
        <ip-choice-field
          label="Which way round"
          [choices]="directions"
          [value]="typedWay()"
          (chosen)="typedWay.set($event)"
        />
        <div class="fields">
          <ip-text-field
            class="wide"
            lines
            [label]="
              'Every 10° from ' +
              plane().plan.startDeg +
              '°, in the order they were read, ' +
              unit() +
              ', a space or semicolon between'
            "
            [value]="typed()"
            [error]="typedError()"
            (typed)="typed.set($event)"
          />
        </div>
        <p class="quiet">{{ counted() }}</p>
        <button type="submit" pButton [disabled]="store.busy()">Keep these readings</button>
      </form>
    }
  `,
  styles: `
    .other {
      margin-top: var(--space-3);
    }
    .boxed {
      margin-top: var(--space-3);
    }
  `,
})
export class ReadPlane {
  readonly plane = input.required<CirclePlane>();
  readonly connected = input.required<boolean>();
  protected readonly store = inject(CircleStore);
  private readonly preferences = inject(Preferences);
  protected readonly say = roundText;
  protected readonly directions: readonly Choice<1 | -1>[] = [
    { id: 1, label: "counterclockwise" },
    { id: -1, label: "clockwise" },
  ];
  protected readonly dwellWords = DWELL_WORDS;
  protected readonly dwellWord = signal<DwellWord>("P-seconds");
  protected readonly way = signal<"file" | "typed" | null>(null);
  protected readonly errors = signal<readonly CsvError[]>([]);
  protected readonly found = signal<{ readonly text: string; readonly say: string } | null>(null);
  protected readonly typed = signal("");
  protected readonly typedWay = signal<1 | -1>(1);
  protected readonly typedError = signal("");
  protected readonly share = computed(() => Math.round(100 * (this.store.working() ?? 0)));
  protected readonly checks = computed(() => circleChecks(this.plane(), this.preferences.system()));
  protected readonly unit = computed(() => (this.preferences.system() === "metric" ? "µm" : "tenths"));
  /** The way that is still to be read; null when both were. */
  protected readonly next = computed<1 | -1 | null>(() => {
    const { passes, plan } = this.plane();
    const read = (d: 1 | -1): boolean => passes.some((p) => p.used && p.direction === d);
    const second = plan.first === 1 ? -1 : 1;
    return !read(plan.first) ? plan.first : !read(second) ? second : null;
  });
  protected readonly heading = computed(() =>
    this.plane().passes.some((p) => p.used) ? "Then the other way round" : "Before the bar is set on",
  );
  protected readonly programAt = computed(() => ({
    params: { id: this.plane().id },
    query: { system: this.preferences.system(), dwellWord: this.dwellWord() },
  }));
  private readonly numbers = computed(() =>
    this.typed()
      .split(/[\s;]+/)
      .filter((t) => t !== ""),
  );
  protected readonly counted = computed(() => {
    const count = this.numbers().length;
    const whole = Math.round(this.plane().plan.spanDeg / 10);
    return `${count} of ${whole} readings. They are ${formatSize(this.plane().plan.radiusMm, this.preferences.system())} round the centre, + outwards.`;
  });

  protected pick(files: FileList | null): void {
    const file = files?.[0];
    this.errors.set([]);
    this.found.set(null);
    if (!file) return;
    if (file.size > 4_000_000) {
      const mb = formatNumber(file.size / 1e6, 1);
      const message = `The file is ${mb} MB: at most 4 MB are read. Every second reading of it is plenty.`;
      this.errors.set([{ line: 1, column: "", message }]);
      return;
    }
    void file.text().then((text) => {
      const { traces, errors } = parseCircleCsv(text, this.plane().plan.radiusMm);
      this.errors.set(errors);
      if (errors.length) return;
      const parts = traces.map((t) => `${t.angles.length} readings ${roundText(t.direction)}`);
      this.found.set({ text, say: `${file.name}: ${parts.join(", ")}.` });
    });
  }

  protected keepFile(text: string): void {
    this.store.importCsv(this.plane().id, text, () => {
      this.found.set(null);
      this.way.set(null);
    });
  }

  protected keepTyped(): void {
    const { plan, id } = this.plane();
    const wrong = this.numbers().find((t) => parseDecimal(t) === undefined);
    if (wrong !== undefined) {
      this.typedError.set(`“${wrong}” is not a number.`);
      return;
    }
    const values = this.numbers().map((t) => parseDecimal(t) ?? NaN);
    if (values.length < 24) {
      this.typedError.set(`${values.length} readings: at least 24 are needed, every 10° is usual.`);
      return;
    }
    this.typedError.set("");
    const perUnit = this.preferences.system() === "metric" ? 0.001 : 0.00254;
    const direction = this.typedWay();
    const readings = values.map((v, i) => ({
      deg: direction === 1 ? plan.startDeg + 10 * i : plan.startDeg + plan.spanDeg - 10 * i,
      mm: v * perUnit,
    }));
    // What was typed stays till it is kept.
    this.store.typed(id, { direction, readings }, () => {
      this.typed.set("");
      this.way.set(null);
    });
  }
}
