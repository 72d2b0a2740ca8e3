import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from "@angular/core";
import { Title } from "@angular/platform-browser";
import { Router, RouterLink, RouterOutlet } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { isGravityAxis } from "@iron/core";
import { ChainStrip } from "../../chain/chain-strip";
import { Preferences } from "../../data/preferences";
import { Keys } from "../../shared/keys";
import { CaseStore } from "../../diagnosis/case-store";
import { AxisContext } from "./axis-context";
import { STATIONS, WorkLine } from "./work-line";
import { Trouble } from "../../shared/trouble";

@Component({
  selector: "ip-axis-frame",
  imports: [ButtonDirective, RouterOutlet, RouterLink, ChainStrip, WorkLine, Trouble],
  providers: [AxisContext, CaseStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./axis-frame.html",
  styleUrl: "./axis-frame.css",
})
export class AxisFrame {
  readonly machineId = input.required<string>();
  readonly axisId = input.required<string>();
  protected readonly context = inject(AxisContext);
  protected readonly preferences = inject(Preferences);
  private readonly cases = inject(CaseStore);
  private readonly router = inject(Router);

  /** Where one is going while the page is not there yet: what is pressed meanwhile counts from there. */
  private readonly going = signal<number | null>(null);
  private asked = 0;
  private readonly at = computed(() => this.going() ?? Number(this.axisId()));
  protected readonly neighbours = computed(() => {
    const axes = this.context.axes();
    const here = axes.findIndex((a) => a.id === this.at());
    if (here < 0) return { before: null, after: null };
    return { before: axes[here - 1] ?? null, after: axes[here + 1] ?? null };
  });
  protected readonly loss = computed(() => {
    const last = this.context.last();
    if (!last || last.reversalValueMm === null || last.expandedMm === null) return null;
    return { reversalValueMm: last.reversalValueMm, expandedMm: last.expandedMm, at: last.at };
  });
  protected readonly gravity = computed(() => {
    const config = this.context.axis()?.config;
    if (!config) return "";
    if (!isGravityAxis(config)) return "horizontal";
    return config.orientation === "vertical" ? "vertical, not blocked" : `slanted ${config.slantDeg}°, not blocked`;
  });

  constructor() {
    effect(() => {
      const [machineId, axisId] = [Number(this.machineId()), Number(this.axisId())];
      untracked(() => {
        this.context.load(machineId, axisId);
        this.cases.load(axisId);
      });
    });
    const title = inject(Title);
    effect(() => {
      const machine = this.context.machine();
      const axis = this.context.axis();
      if (machine && axis) title.setTitle(`${machine.nickname} ${axis.config.letter} · Iron Patience`);
    });
    inject(Keys).use(
      {
        key: "[",
        shown: "[",
        does: "Previous axis",
        press: () => this.go(this.neighbours().before?.id),
      },
      {
        key: "]",
        shown: "]",
        does: "Next axis",
        press: () => this.go(this.neighbours().after?.id),
      },
      ...STATIONS.map((station) => ({
        key: String(station.number),
        shown: String(station.number),
        does: `Station ${station.name}`,
        press: () => this.go(this.at(), station.path),
      })),
      {
        key: "n",
        shown: "N",
        does: "New case on this axis",
        needs: "openCase",
        press: () => this.newCase(),
      },
    );
  }

  /** Goes to Ask; a case is opened when none is, though never on an axis that is being left. */
  private newCase(): void {
    const machine = this.context.machine();
    const axis = this.context.axis();
    const here = axis?.id === this.at();
    if (here && machine && this.cases.summaries() && !this.cases.open()) this.cases.openCase(machine.id, [axis.id]);
    this.go(this.at(), "ask");
  }

  protected go(axisId: number | undefined, path = "measure"): void {
    if (axisId === undefined) return;
    this.going.set(axisId);
    const asked = ++this.asked;
    void this.router.navigate(["/machines", this.machineId(), "axes", axisId, path]).finally(() => {
      if (asked === this.asked) this.going.set(null);
    });
  }

  protected arrow(event: KeyboardEvent): void {
    const to =
      event.key === "ArrowLeft"
        ? this.neighbours().before
        : event.key === "ArrowRight"
          ? this.neighbours().after
          : null;
    if (to) this.go(to.id);
  }
}
