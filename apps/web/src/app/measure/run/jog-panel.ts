import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { formatSize, fromMm, type AxisConfig, type UnitSystem } from "@iron/core";
import { Keys } from "../../shared/keys";
import { directionNames, jogSteps } from "./jog.view";
import { RunStore } from "./run-store";
import { ChoiceField } from "../../shared/fields";

/** The simulated machine’s hand: jog both ways, make the asked approach, stop. */
@Component({
  selector: "ip-jog-panel",
  imports: [ButtonDirective, ChoiceField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-label="Simulated machine">
      <div class="acts">
        <button
          type="button"
          pButton
          severity="secondary"
          [disabled]="!store.step() || busy()"
          (click)="store.approach(feed())"
        >
          {{ countStep() ? "Jog one step" : "Make this approach" }}
          <kbd aria-hidden="true">M</kbd>
        </button>
        <button type="button" pButton severity="secondary" [disabled]="busy()" (click)="jog(-1)">
          <span class="sr-only">Jog {{ names().minus }}</span> − {{ bare(increment()) }} <kbd aria-hidden="true">←</kbd>
        </button>
        <button type="button" pButton severity="secondary" [disabled]="busy()" (click)="jog(1)">
          <span class="sr-only">Jog {{ names().plus }}</span> + {{ bare(increment()) }} <kbd aria-hidden="true">→</kbd>
        </button>
        <ip-choice-field
          class="step"
          label="Jog step"
          quietly
          [value]="increment()"
          [choices]="incrementChoices()"
          (chosen)="increment.set($event)"
        />
        <button type="button" pButton severity="secondary" [disabled]="!store.moves()" (click)="store.stop()">
          Stop
        </button>
      </div>
    </section>
  `,
  styles: `
    section {
      margin-top: var(--space-3);
    }
    .step select {
      width: auto;
    }
    .p-button {
      padding-inline: var(--space-3);
    }
  `,
})
export class JogPanel {
  readonly config = input.required<AxisConfig>();
  readonly system = input.required<UnitSystem>();
  protected readonly store = inject(RunStore);
  /** As a control’s own switch has them: round in the units that are read. */
  protected readonly increment = linkedSignal(() => (this.system() === "metric" ? 0.01 : 0.001 * 25.4));
  /** The usual feed for approaching a target: fast enough, without throwing the member past it. */
  protected readonly feed = computed(() => Math.min(3000, this.config().rapidMmMin));
  protected readonly increments = computed(() => jogSteps(this.config().tickMm, this.system()));
  protected readonly incrementChoices = computed(() => this.increments().map((id) => ({ id, label: this.size(id) })));
  protected readonly names = computed(() => directionNames(this.config()));
  protected readonly busy = computed(() => this.store.programRuns());
  protected readonly countStep = computed(() => this.store.step()?.action === "count");
  constructor() {
    inject(Keys).use(
      {
        key: "m",
        shown: "M",
        does: "Simulated machine: make the approach, or jog one step",
        needs: "approach",
        press: () => this.store.approach(this.feed()),
      },
      {
        key: "ArrowLeft",
        shown: "←",
        does: "Simulated machine: jog towards minus",
        needs: "jog",
        press: () => this.jog(-1),
      },
      {
        key: "ArrowRight",
        shown: "→",
        does: "Simulated machine: jog towards plus",
        needs: "jog",
        press: () => this.jog(1),
      },
    );
  }

  protected size(mm: number): string {
    return formatSize(mm, this.system());
  }

  protected bare(mm: number): string {
    return String(Number(fromMm(mm, this.system() === "metric" ? "mm" : "in").toFixed(5)));
  }

  protected jog(sign: 1 | -1): void {
    this.store.jog(sign * this.increment(), this.feed());
  }
}
