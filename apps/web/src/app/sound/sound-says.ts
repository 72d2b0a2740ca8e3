import { ChangeDetectionStrategy, Component, computed, inject, input } from "@angular/core";
import { compareSounds, type AxisConfig } from "@iron/core";
import type { Sound } from "@iron/contract";
import { Preferences } from "../data/preferences";
import { ChartView, type DrawChart } from "../shared/chart";
import { bandsChart, ordersChart } from "./sound-chart";
import { besideSaid, kindsSaid, linesSaid, troubleText } from "./sound.view";

/** What was worked out of a recording, in words and drawn. */
@Component({
  selector: "ip-sound-says",
  imports: [ChartView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (said(); as said) {
      @for (trouble of said.troubles; track trouble) {
        <p class="warn" role="status">{{ trouble }}</p>
      }
      @for (kind of said.kinds; track kind; let first = $first) {
        <p [class.first]="first">{{ kind }}</p>
      } @empty {
        <p class="first">{{ sound().plan.motorAlone ? "The motor alone." : "Nothing can be said of it." }}</p>
      }
      <p class="quiet">
        @if (sound().plan.motorAlone) {
          Hold it beside a recording of the axis coupled, at the same feed: which of the two makes the noise is told. It
          is weighed in no case.
        } @else {
          A recording makes causes likelier or less likely. It proves none: a test of the part does.
        }
      </p>
      <ng-content />
      @if (said.lines.length) {
        <h3>What comes so many times a turn</h3>
        <ul>
          @for (line of said.lines; track line) {
            <li>{{ line }}</li>
          }
        </ul>
      }
      <ip-chart [draw]="bands()" [height]="230" label="Level in third octaves, moving and standing" />
      @if (said.orders) {
        <ip-chart [draw]="orders()" [height]="200" label="How often a turn the sound swells" />
      }
      @if (said.ways.length) {
        <h3>Up beside down</h3>
        @for (line of said.ways; track line) {
          <p>{{ line }}</p>
        }
      }
    } @else {
      <p class="warn" role="status">{{ why() }}</p>
    }
  `,
  styles: `
    .first {
      font-size: var(--type-4);
    }
    p,
    ul {
      max-width: 720px;
    }
  `,
})
export class SoundSays {
  readonly sound = input.required<Sound>();
  readonly config = input.required<AxisConfig>();
  /** A recording that is laid under it. */
  readonly under = input<Sound | null>(null);
  private readonly preferences = inject(Preferences);
  protected readonly why = computed(() => {
    const { state, why } = this.sound();
    if (state === "arriving") return "It has not arrived wholly yet.";
    return state === "refused" ? `This file cannot be used: ${why}.` : why;
  });
  protected readonly said = computed(() => {
    const { result, plan } = this.sound();
    if (!result) return null;
    const side = (bands: typeof result.bands) => ({
      ...{ feedMmMin: plan.feedMmMin, ownGain: false, bands, ways: Math.ceil(result.ways / 2) },
    });
    const [up, down] = result.directions;
    return {
      troubles: result.troubles.map(troubleText),
      kinds: kindsSaid(result),
      lines: linesSaid(result),
      orders: result.orders.length > 0,
      ways:
        result.ways > 3
          ? besideSaid(compareSounds(side(up), side(down), "untouched"), this.preferences.system(), "on the way down")
          : [],
    };
  });
  protected readonly bands = computed<DrawChart>(() => {
    const [{ result }, under] = [this.sound(), this.under()?.result ?? null];
    return (ink) => bandsChart(result as NonNullable<typeof result>, under, ink);
  });
  protected readonly orders = computed<DrawChart>(() => {
    const [{ result }, config] = [this.sound(), this.config()];
    return (ink) => ordersChart(result as NonNullable<typeof result>, config, ink);
  });
}
