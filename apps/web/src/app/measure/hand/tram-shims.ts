import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from "@angular/core";
import {
  formatQuantity,
  signedQuantity,
  SHIMMED,
  SHIMMED_TEXT,
  TRAM_LIMIT,
  tramBolts,
  tramShims,
  type Shimmed,
  type TramResult,
} from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { Api } from "../../data/api";
import { Notices } from "../../data/notices";
import { Preferences } from "../../data/preferences";
import { AxisContext } from "../../machine/axis/axis-context";
import { ChoiceField, NumberField } from "../../shared/fields";
import { shimStack } from "./hand-test.view";
import { May } from "../../shared/may";

/** What goes under which bolt so that a sweep comes flat. */
@Component({
  selector: "ip-tram-shims",
  imports: [May, ButtonDirective, ChoiceField, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./set.css",
  template: `
    <h3>What goes where</h3>
    <div class="fields">
      <ip-choice-field
        label="What is shimmed"
        [choices]="shimmedChoices"
        [value]="shimmed()"
        (chosen)="shimmed.set($any($event))"
      />
      <ip-number-field
        label="Bolts apart across"
        quantity="length"
        [none]="true"
        [least]="10"
        [most]="5000"
        [value]="acrossMm()"
        (read)="acrossMm.set($event)"
      />
      <ip-number-field
        [label]="rowsLabel()"
        quantity="length"
        [none]="true"
        [least]="10"
        [most]="5000"
        [value]="rowsMm()"
        (read)="rowsMm.set($event)"
      />
    </div>
    @if (bolts().length) {
      <div class="scroll-x" tabindex="0" role="region" aria-label="Shims by bolt">
        <table class="rows">
          <thead>
            <tr>
              <th scope="col">Bolt</th>
              <th scope="col">Wanted</th>
              <th scope="col">Shims</th>
            </tr>
          </thead>
          <tbody>
            @for (bolt of bolts(); track bolt.name) {
              <tr>
                <td>{{ bolt.name }}</td>
                <td>{{ bolt.lift }}</td>
                <td>{{ bolt.shims }}</td>
              </tr>
            }
          </tbody>
        </table>
      </div>
      @for (line of shimText(); track line) {
        <p>{{ line }}</p>
      }
      <p class="quiet">
        What stands or hangs on these bolts is heavy: spindle isolated, what can fall held, bolts eased and never out.
        Sweep again after tightening.
      </p>
      @if (context.device() === "simulated") {
        <button *ipMay="'shimDevice'" type="button" pButton severity="secondary" (click)="putIn()">
          Put these shims in on the simulated machine
        </button>
      }
    }
  `,
})
export class TramShims {
  readonly tram = input.required<TramResult>();
  /** Shims in stock, mm; undefined for the usual set. */
  readonly stock = input.required<readonly number[] | undefined>();
  protected readonly context = inject(AxisContext);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly preferences = inject(Preferences);
  /** What is shimmed is asked: nobody can guess it, and the other one doubles the error. */
  protected readonly shimmed = signal<Shimmed | "">("");
  protected readonly shimmedChoices = [
    { id: "", label: "say what is shimmed" },
    ...SHIMMED.map((id) => ({ id, label: SHIMMED_TEXT[id].name })),
  ];
  protected readonly acrossMm = signal<number | null>(null);
  protected readonly rowsMm = signal<number | null>(null);
  protected readonly rowsLabel = computed(() => {
    const shimmed = this.shimmed();
    const [one, other] = shimmed ? SHIMMED_TEXT[shimmed].rows : (["far", "near"] as const);
    return `Bolt rows apart, ${one} to ${other}`;
  });
  private readonly shims = computed(() => {
    const [shimmed, across, rows] = [this.shimmed(), this.acrossMm(), this.rowsMm()];
    if (!shimmed || !across || !rows) return null;
    const supports = tramBolts(shimmed, across, rows);
    const options = { shimmed, supports, stockMm: this.stock() };
    return { supports, ...tramShims(this.tram().slopes, options) };
  });
  protected readonly bolts = computed(() => {
    const system = this.preferences.system();
    return (this.shims()?.bolts ?? []).map((b) => ({
      name: b.name,
      lift: formatQuantity("deviation", b.wantedMm, system),
      shims: shimStack(b.shims.pieces, system),
    }));
  });
  /** What the sweep will read with them in, and what no shim can do. */
  protected readonly shimText = computed(() => {
    const shims = this.shims();
    const system = this.preferences.system();
    if (!shims) return [];
    const left = shims.predicted.map(
      (p) => `${p.direction} ${signedQuantity("deviation", p.perSpanMm, system)} over the span`,
    );
    const turn = (shims.turnRad * 180) / Math.PI;
    return [
      `With these in, the sweep will read ${left.join(", ")}.`,
      Math.abs(shims.turnRad) > TRAM_LIMIT / 4
        ? `Sideways nothing can be shimmed on an upright face: ease its bolts and turn it on its face by ${Math.abs(turn).toFixed(3)}°, so that its ${shims.turnRad > 0 ? "right" : "left"} side rises.`
        : "",
    ].filter(Boolean);
  });

  /** The simulated machine gets the shims, and is turned on its face where shims cannot do it. */
  protected putIn(): void {
    const shims = this.shims();
    const axis = this.context.axis();
    if (!shims || !axis) return;
    const body = {
      shimmed: shims.shimmed,
      shims: shims.supports.map((s, i) => ({
        x: s.x,
        y: s.y,
        mm: shims.bolts[i].shims.sumMm,
      })),
      turnRad: shims.turnRad,
    };
    this.api.call("shimDevice", { params: { id: axis.id }, body }).subscribe({
      next: () => this.notices.say("The shims are in. Sweep again: it must be flat."),
      error: this.notices.error,
    });
  }
}
