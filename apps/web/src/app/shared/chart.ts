import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from "@angular/core";
import type { Chart, ChartConfiguration } from "chart.js";
import { Preferences } from "../data/preferences";

/** Colours and type of the page, for a canvas that cannot inherit them. */
export interface Ink {
  readonly ink: string;
  readonly graphite: string;
  readonly rule: string;
  readonly sheet: string;
  readonly blue: string;
  readonly copper: string;
  readonly brass: string;
  readonly oxide: string;
}

export type DrawChart = (ink: Ink) => ChartConfiguration;

async function chartLibrary(): Promise<typeof Chart> {
  const [chart, annotation, bars] = await Promise.all([
    import("chart.js"),
    import("chartjs-plugin-annotation"),
    import("chartjs-chart-error-bars"),
  ]);
  const {
    Chart: Library,
    BarController,
    BarElement,
    CategoryScale,
    LineController,
    LineElement,
    PointElement,
    LinearScale,
    Legend,
    Tooltip,
  } = chart;
  Library.register(
    BarController,
    BarElement,
    CategoryScale,
    LineController,
    LineElement,
    PointElement,
    LinearScale,
    Legend,
    Tooltip,
    annotation.default,
    bars.LineWithErrorBarsController,
    bars.PointWithErrorBar,
  );
  Library.defaults.font.family = "B612, sans-serif";
  Library.defaults.font.size = 12;
  Library.defaults.animation = false;
  return Library;
}

/** A chart, drawn anew when its data or the shift changes. The library comes when the first one is shown. */
@Component({
  selector: "ip-chart",
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div class="frame" [style.height.px]="height()">
    <canvas #canvas role="img" [attr.aria-label]="label()"></canvas>
  </div>`,
  styles: `
    .frame {
      position: relative;
      width: 100%;
    }
  `,
})
export class ChartView {
  readonly draw = input.required<DrawChart>();
  /** What the chart shows, in words. */
  readonly label = input.required<string>();
  readonly height = input(200);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>("canvas");
  private readonly library = signal<typeof Chart | null>(null);
  private chart: Chart | null = null;

  constructor() {
    const preferences = inject(Preferences);
    afterNextRender(() => void chartLibrary().then((library) => this.library.set(library)));
    effect(() => {
      preferences.shift();
      const library = this.library();
      const draw = this.draw();
      if (!library) return;
      this.chart?.destroy();
      this.chart = new library(this.canvas().nativeElement, withManners(draw(inkOfPage())));
    });
    inject(DestroyRef).onDestroy(() => this.chart?.destroy());
  }
}

/** The page’s colours as they are now: by day or by night. */
export function inkOfPage(): Ink {
  const style = getComputedStyle(document.documentElement);
  const read = (name: string): string => style.getPropertyValue(`--${name}`).trim();
  return {
    ink: read("ink"),
    graphite: read("graphite"),
    rule: read("rule"),
    sheet: read("sheet"),
    blue: read("blue"),
    copper: read("copper"),
    brass: read("brass"),
    oxide: read("oxide"),
  };
}

function withManners(configuration: ChartConfiguration): ChartConfiguration {
  return {
    ...configuration,
    options: {
      responsive: true,
      maintainAspectRatio: false,
      ...configuration.options,
    },
  };
}
