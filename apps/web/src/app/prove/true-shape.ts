import { ChangeDetectionStrategy, Component, computed, input } from "@angular/core";
import type { DrawnTrace } from "./circle-drawn.view";

const SIZE = 200;
const RING = 66;

/** The circle as it stands in the plane, what deviates drawn so much larger: a look, not a reading. */
@Component({
  selector: "ip-true-shape",
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="box" role="img" [attr.aria-label]="label()">
      <line [attr.x1]="-half" x2="${SIZE / 2}" y1="0" y2="0" class="axis" />
      <line x1="0" x2="0" [attr.y1]="-half" y2="${SIZE / 2}" class="axis" />
      <circle r="${RING}" cx="0" cy="0" class="ring" />
      @for (path of paths(); track path.direction) {
        <path [attr.d]="path.d" [class]="path.direction === 1 ? 'plus' : 'minus'" />
      }
      <text [attr.x]="half - 4" y="-5" text-anchor="end">+{{ letters()[0] }}</text>
      <text x="5" [attr.y]="-half + 12">+{{ letters()[1] }}</text>
    </svg>
    <p class="quiet">{{ scale() }}</p>
  `,
  styles: `
    :host {
      display: block;
      max-width: 220px;
    }
    svg {
      width: 100%;
      height: auto;
      display: block;
    }
    p {
      margin: 0;
      font-size: var(--type-1);
      text-align: center;
    }
    .axis,
    .ring {
      stroke: var(--rule);
      fill: none;
    }
    .plus {
      stroke: var(--blue);
      fill: none;
    }
    .minus {
      stroke: var(--copper);
      stroke-dasharray: 4 2;
      fill: none;
    }
    text {
      fill: var(--graphite);
      font-size: 11px;
    }
  `,
})
export class TrueShape {
  readonly traces = input.required<readonly DrawnTrace[]>();
  readonly letters = input.required<readonly string[]>();
  readonly unit = input.required<string>();
  protected readonly half = SIZE / 2;
  protected readonly box = `${-SIZE / 2} ${-SIZE / 2} ${SIZE} ${SIZE}`;
  protected readonly label = computed(
    () =>
      `True shape of the circle in the plane of ${this.letters().join(" and ")}; what it deviates by is in the chart.`,
  );
  /** What a division of the ring is worth, from the largest deviation: a round number. */
  private readonly most = computed(() => {
    const largest = this.traces().reduce(
      (most, t) => t.points.reduce((m, p) => Math.max(m, Math.abs(p.y ?? 0)), most),
      1e-6,
    );
    const decade = 10 ** Math.floor(Math.log10(largest));
    return [1, 2, 5, 10].map((n) => n * decade).find((n) => n >= largest) ?? largest;
  });
  protected readonly scale = computed(
    () => `edge is ${Number(this.most().toPrecision(2))} ${this.unit()} out from the ring`,
  );
  protected readonly paths = computed(() => {
    const per = (SIZE / 2 - RING - 4) / this.most();
    return this.traces().map(({ direction, points }) => {
      let pen = "M";
      const d = points.map(({ x, y }) => {
        if (y === null) {
          pen = "M";
          return "";
        }
        const turn = (x * Math.PI) / 180;
        const r = RING + per * y;
        const step = `${pen}${(r * Math.cos(turn)).toFixed(1)} ${(-r * Math.sin(turn)).toFixed(1)}`;
        pen = "L";
        return step;
      });
      return { direction, d: d.join("") };
    });
  });
}
