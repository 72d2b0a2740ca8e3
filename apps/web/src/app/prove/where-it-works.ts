import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from "@angular/core";
import {
  BoundError,
  formatSize,
  fromMm,
  programStrokes,
  spreadWork,
  spreadWorkText,
  workAlong,
  type KnownLoss,
  type Stroke,
} from "@iron/core";
import { Preferences } from "../data/preferences";
import { AxisContext } from "../machine/axis/axis-context";
import { ChartView, type DrawChart } from "../shared/chart";
import { NumberField } from "../shared/fields";
import { workChart } from "./work-chart";

const LARGEST = 5_000_000;

interface Program {
  readonly name: string;
  readonly strokes: readonly Stroke[];
  /** Where its zero stands on the axis, mm. */
  readonly zeroMm: number;
  /** How often it runs, against the others. */
  readonly times: number;
}

/** Where along the travel the programs of a machine work, and whether the work can be spread. */
@Component({
  selector: "ip-where-it-works",
  imports: [ChartView, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styles: `
    section {
      max-width: 760px;
      border-top: 1px solid var(--rule);
      margin-top: var(--space-5);
      padding-top: var(--space-3);
    }
    .program {
      display: flex;
      flex-wrap: wrap;
      gap: var(--space-1) var(--space-4);
      align-items: flex-end;
      margin-top: var(--space-3);
    }
    .program b {
      flex-basis: 100%;
    }
  `,
  template: `
    <section aria-label="Where it works">
      <h2>Where along its travel it works</h2>
      <p class="quiet">
        A screw wears where the work is. Give the part programs that this machine runs: they are read here and not kept.
      </p>
      <div class="field">
        <label for="programs">Part programs, G-code</label>
        <input id="programs" type="file" class="p-inputtext" multiple (change)="pick($any($event.target).files)" />
        <span class="said"></span>
      </div>
      @if (message()) {
        <p class="bad" role="alert">{{ message() }}</p>
      }
      @for (program of programs(); track $index; let i = $index) {
        <div class="program">
          <b>{{ program.name }}</b>
          <ip-number-field
            [label]="'Its zero stands at ' + letter()"
            quantity="length"
            [value]="program.zeroMm"
            (read)="change(i, { zeroMm: $event ?? 0 })"
          />
          <ip-number-field
            label="Runs, against the others"
            [least]="0"
            [most]="100000"
            [value]="program.times"
            (read)="change(i, { times: $event ?? 0 })"
          />
        </div>
      }
      @if (said(); as said) {
        @if (said.outside) {
          <p class="warn">{{ said.outside }}</p>
        }
        @for (line of said.lines; track line) {
          <p>{{ line }}</p>
        }
        <ip-chart [draw]="draw()" [height]="170" label="Way along the travel. What it says stands above." />
      }
    </section>
  `,
})
export class WhereItWorks {
  readonly losses = input.required<readonly KnownLoss[]>();
  private readonly context = inject(AxisContext);
  private readonly preferences = inject(Preferences);
  protected readonly programs = signal<readonly Program[]>([]);
  protected readonly message = signal("");
  protected readonly letter = computed(() => this.context.axis()?.config.letter ?? "");
  private readonly axisId = computed(() => this.context.axis()?.id);
  private readonly work = computed(() => {
    const travelMm = this.context.axis()?.config.travelMm;
    const programs = this.programs().filter((p) => p.times > 0);
    if (travelMm === undefined || programs.length === 0) return null;
    const all = programs.map((p) => ({ times: p.times, ...workAlong(p.strokes, { zeroMm: p.zeroMm, travelMm }) }));
    return {
      travelMm,
      wayMm: all[0].wayMm.map((_, i) => all.reduce((sum, w) => sum + w.times * w.wayMm[i], 0)),
      outside: Math.max(...all.map((w) => w.outside)),
    };
  });
  protected readonly said = computed(() => {
    const work = this.work();
    if (!work) return null;
    const system = this.preferences.system();
    const { travelMm, outside, wayMm } = work;
    const away =
      outside > 0.001
        ? `${Math.round(100 * outside)} % of a program’s way lies beyond the travel of ${formatSize(travelMm, system)}: say where its zero stands.`
        : "";
    if (wayMm.every((mm) => mm === 0)) return { outside: away, lines: [] };
    return { outside: away, lines: spreadWorkText(spreadWork(work, travelMm, this.losses()), { travelMm, system }) };
  });
  protected readonly draw = computed<DrawChart>(() => {
    const [work, system] = [this.work(), this.preferences.system()];
    const unit = system === "metric" ? "mm" : "in";
    const width = work ? work.travelMm / work.wayMm.length : 1;
    const all = work
      ? Math.max(
          1e-9,
          work.wayMm.reduce((a, b) => a + b, 0),
        )
      : 1;
    const bars = (work?.wayMm ?? []).map((mm, i) => ({
      from: fromMm(i * width, unit),
      to: fromMm((i + 1) * width, unit),
      part: (100 * mm) / all,
    }));
    return (ink) => workChart(bars, unit, ink);
  });

  constructor() {
    // Another axis, other programs.
    effect(() => {
      if (this.axisId() !== undefined) untracked(() => this.programs.set([]));
    });
  }

  protected pick(files: FileList | null): void {
    this.message.set("");
    for (const file of files ?? []) {
      if (file.size > LARGEST) {
        this.message.set(`${file.name} has ${(file.size / 1e6).toFixed(1)} MB: at most 5 MB are taken.`);
        continue;
      }
      void file.text().then(
        (text) => this.take(text, file.name),
        () => this.message.set(`${file.name} could not be read.`),
      );
    }
  }

  protected change(at: number, change: Partial<Program>): void {
    this.programs.update((all) => all.map((p, i) => (i === at ? { ...p, ...change } : p)));
  }

  private take(text: string, name: string): void {
    try {
      const strokes = programStrokes(text, this.letter());
      const travelMm = this.context.axis()?.config.travelMm ?? 0;
      const ends = strokes.flatMap((s) => [s.fromMm, s.toMm]);
      const [low, high] = ends.reduce(([a, b], e) => [Math.min(a, e), Math.max(b, e)], [Infinity, -Infinity]);
      // A part is usually clamped in the middle, until it is said where.
      const zeroMm = Math.round(travelMm / 2 - (low + high) / 2);
      this.programs.update((all) => [...all, { name, strokes, zeroMm, times: 1 }]);
    } catch (error) {
      if (!(error instanceof BoundError)) throw error;
      this.message.set(`${name}: ${error.message}`);
    }
  }
}
