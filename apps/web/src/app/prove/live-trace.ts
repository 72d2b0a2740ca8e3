import { ChangeDetectionStrategy, Component, computed, input } from "@angular/core";
import { formatNumber, fromMm, type UnitSystem } from "@iron/core";
import type { LivePass } from "./circle-store";

const WIDTH = 720;
const HEIGHT = 180;

/** The bar as it reads: the last value large, what has come so far behind it, holes where nothing came. */
@Component({
  selector: "ip-live-trace",
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="now" aria-live="off">
      <b>{{ now() }}</b> <span class="quiet">{{ unit() }}</span>
      <span class="quiet far">{{ far() }}</span>
    </p>
    <svg
      [attr.viewBox]="'0 0 ${WIDTH} ${HEIGHT}'"
      preserveAspectRatio="none"
      role="img"
      aria-label="What the bar has read so far"
    >
      <line x1="0" x2="${WIDTH}" y1="${HEIGHT / 2}" y2="${HEIGHT / 2}" class="zero" />
      @for (hole of holes(); track hole.x) {
        <rect [attr.x]="hole.x" [attr.width]="hole.width" y="0" height="${HEIGHT}" class="hole" />
      }
      <path [attr.d]="path()" [class]="pass().direction === 1 ? 'plus' : 'minus'" />
    </svg>
    @if (holes().length) {
      <p class="warn" role="status">
        {{ holes().length }} {{ holes().length === 1 ? "gap" : "gaps" }}: nothing was received there.
      </p>
    }
  `,
  styles: `
    .now {
      margin: 0;
    }
    .now b {
      font-size: var(--type-6);
      line-height: 56px;
    }
    .far {
      margin-left: var(--space-4);
    }
    svg {
      width: 100%;
      height: 180px;
      border: 1px solid var(--rule);
      background: var(--sheet);
    }
    .zero {
      stroke: var(--rule);
    }
    .hole {
      fill: var(--rule);
    }
    path {
      fill: none;
      vector-effect: non-scaling-stroke;
      stroke-width: 1.4;
    }
    .plus {
      stroke: var(--blue);
    }
    .minus {
      stroke: var(--copper);
    }
  `,
})
export class LiveTrace {
  readonly pass = input.required<LivePass>();
  readonly system = input.required<UnitSystem>();
  protected readonly unit = computed(() => (this.system() === "metric" ? "µm" : "tenths"));
  protected readonly now = computed(() => {
    const last = this.pass().last;
    if (last === null) return "–";
    return formatNumber(fromMm(last / 1000, this.system() === "metric" ? "um" : "tenth"), 1, true);
  });
  protected readonly far = computed(() => {
    const { got, of } = this.pass();
    return `${Math.round((100 * got) / Math.max(1, of))} % of the way`;
  });
  protected readonly holes = computed(() => {
    const { holes, of } = this.pass();
    return holes.map(({ from, count }) => ({
      x: (WIDTH * from) / of,
      width: Math.max(1, (WIDTH * count) / of),
    }));
  });
  protected readonly path = computed(() => {
    const { points, of } = this.pass();
    // As high as what has come, but never so high that noise fills it.
    const most = points.reduce((m, p) => (p.um === null ? m : Math.max(m, Math.abs(p.um))), 10);
    let pen = "M";
    return points
      .map(({ at, um }) => {
        if (um === null) {
          pen = "M";
          return "";
        }
        const step = `${pen}${((WIDTH * at) / of).toFixed(1)} ${(HEIGHT / 2 - ((HEIGHT / 2 - 6) * um) / most).toFixed(1)}`;
        pen = "L";
        return step;
      })
      .join("");
  });
}
