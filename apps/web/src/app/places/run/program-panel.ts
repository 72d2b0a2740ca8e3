import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  signal,
} from "@angular/core";
import {
  programMoves,
  gcodeProgram,
  BoundError,
  fromMm,
  type AxisConfig,
  type UnitSystem,
} from "@iron/core";
import type { Run } from "@iron/contract";
import { Dialog } from "primeng/dialog";
import { InputText } from "primeng/inputtext";
import { Preferences } from "../../data/preferences";
import { ChartView, type DrawChart } from "../../shared/chart";
import { pathChart, pathPoints } from "./path-chart";

type DwellWord = "P-seconds" | "P-milliseconds" | "X-seconds";

/** The test as a program: options, preview of the text and the path, download, and a run of it here. */
@Component({
  selector: "ip-program-panel",
  imports: [Dialog, InputText, ChartView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./program-panel.html",
  styles: `
    .fields {
      margin-bottom: 12px;
    }
    pre {
      font:
        13px/1.5 "B612 Mono",
        monospace;
      border: 1px solid var(--rule);
      background: var(--paper);
      padding: 10px;
      max-height: 220px;
      overflow: auto;
      margin: 10px 0;
    }
  `,
})
export class ProgramPanel {
  readonly run = input.required<Run>();
  readonly config = input.required<AxisConfig>();
  readonly canRun = input.required<boolean>();
  readonly closed = output();
  readonly runHere = output<{ feedMmMin: number; dwellS: number }>();
  protected readonly feed = signal(1000);
  protected readonly dwell = signal(4);
  protected readonly dwellWord = signal<DwellWord>("P-seconds");
  protected readonly system = signal<UnitSystem>(inject(Preferences).system());
  protected readonly clearLetter = signal("");
  protected readonly clearMm = signal(20);
  protected readonly readMm = signal(5);
  protected readonly letter = computed(() => this.config().letter.charAt(0));
  protected readonly clearLetters = computed(() =>
    ["X", "Y", "Z", "W"].filter((l) => l !== this.letter()),
  );
  protected readonly unit = computed(() =>
    this.system() === "metric" ? "mm" : "in",
  );

  private readonly options = computed(() => ({
    letter: this.letter(),
    feedMmMin: this.feed(),
    dwellS: this.dwell(),
    clearance: this.clearLetter()
      ? {
          letter: this.clearLetter(),
          clearMm: this.clearMm(),
          readMm: this.readMm(),
        }
      : null,
    system: this.system(),
    dwellWord: this.dwellWord(),
    title: `Test ${this.run().id}, axis ${this.config().letter}: ${this.run().plan.kind}`,
    travelMm: this.config().travelMm,
    rapidMmMin: this.config().rapidMmMin,
  }));
  protected readonly program = computed<{ text: string; wrong: string }>(() => {
    try {
      return { text: gcodeProgram(this.run().plan, this.options()), wrong: "" };
    } catch (error) {
      if (error instanceof BoundError)
        return { text: "", wrong: `${error.message}.` };
      throw error;
    }
  });
  protected readonly draw = computed<DrawChart>(() => {
    const points = pathPoints(
      programMoves(this.run().plan, this.options()),
      this.config().rapidMmMin,
      this.feed(),
    );
    const shown = points.map((p) => ({
      x: p.x,
      y: fromMm(p.y, this.system() === "metric" ? "mm" : "in"),
    }));
    return (ink) =>
      pathChart(shown, `${this.config().letter}, ${this.unit()}`, ink);
  });

  protected number(text: string, into: { set(value: number): void }): void {
    into.set(text.trim() === "" ? NaN : Number(text.replace(",", ".")));
  }

  protected download(): void {
    const url = URL.createObjectURL(
      new Blob([this.program().text], { type: "text/plain" }),
    );
    const link = document.createElement("a");
    link.href = url;
    link.download = `test-${this.run().id}-${this.letter()}.nc`;
    link.click();
    URL.revokeObjectURL(url);
  }
}
