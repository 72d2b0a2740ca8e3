import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import {
  handTestRefusal,
  handTestResult,
  GIB_MODES,
  GIB_MODE_TEXT,
  SETTING_KINDS,
  SUMS,
  HAND_TEST_TEXT,
  type GibMode,
  type HandTestKind,
} from "@iron/core";
import type { HandTest } from "@iron/contract";
import { Api } from "../../data/api";
import { Preferences } from "../../data/preferences";
import { saidIn } from "../../data/problems";
import { momentText } from "../../shared/times.text";
import { AxisContext } from "../../machine/axis/axis-context";
import { handTestSays, handTestValues } from "./hand-test.view";
import { HandTestSetUp, type HandTestExtra } from "./hand-test-set-up";
import { HandTestStart } from "./hand-test-start";
import { Trouble } from "../../shared/trouble";
import { ChoiceField } from "../../shared/fields";
import { ChoicesPipe } from "../../shared/choices.pipe";
import { LoadingLines } from "../../shared/loading";
import { May } from "../../shared/may";

/** Station Set: measurements to set by, what was measured before, and the sums of this axis. */
@Component({
  selector: "ip-set",
  imports: [May, LoadingLines, ButtonDirective, RouterLink, Trouble, HandTestSetUp, ChoiceField, ChoicesPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./set-station.html",
  styleUrl: "./set.css",
})
export class SetStation {
  protected readonly context = inject(AxisContext);
  private readonly preferences = inject(Preferences);
  private readonly handTestStart = inject(HandTestStart);
  private readonly api = inject(Api);
  protected readonly sums = SUMS;
  protected readonly gibModes = GIB_MODES.map((id) => ({ id, ...GIB_MODE_TEXT[id] }));
  protected readonly gib = signal<GibMode>("friction-rock");
  protected readonly gibTells = computed(() => GIB_MODE_TEXT[this.gib()].tells);
  protected readonly list = signal<readonly HandTest[] | null>(null);
  protected readonly error = signal("");
  protected readonly kinds = computed(() => {
    const axis = this.context.axis();
    if (!axis) return [];
    return SETTING_KINDS.map((kind) => ({
      kind,
      ...HAND_TEST_TEXT[kind],
      refusal: handTestRefusal(axis.config, kind),
    }));
  });
  protected readonly past = computed(() => {
    const axis = this.context.axis();
    const list = this.list();
    if (!axis || !list) return null;
    return list.map((handTest) => {
      const values = handTestValues(handTest);
      const result = handTestResult(axis.config, handTest.plan, { values });
      const read = values.filter((v) => v !== null).length;
      return {
        id: handTest.id,
        name: HAND_TEST_TEXT[handTest.plan.kind].name,
        when: `${momentText(handTest.startedAt)}, ${handTest.by}`,
        says: result
          ? handTestSays(result, { config: axis.config, system: this.preferences.system() })[0]
          : `${read} of ${values.length} readings.`,
        open: handTest.state === "running",
      };
    });
  });

  constructor() {
    effect(() => {
      const axis = this.context.axis();
      if (axis) untracked(() => this.load(axis.id));
    });
  }

  protected load(axisId: number): void {
    this.error.set("");
    this.api.call("axisHandTests", { params: { id: axisId } }).subscribe({
      next: (list) => this.list.set(list),
      error: saidIn(this.error),
    });
  }

  protected begin(kind: HandTestKind, extra: HandTestExtra = {}): void {
    const axis = this.context.axis();
    const gib = kind === "gib-curve" ? { gib: this.gib() } : {};
    if (axis)
      this.handTestStart.begin(axis, {
        base: this.context.base(),
        kind,
        extra: {
          ...extra,
          ...gib,
        },
      });
  }
}
