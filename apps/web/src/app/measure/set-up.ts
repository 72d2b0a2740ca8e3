import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import {
  availability,
  COUNTS_TOWARDS,
  isSplitTest,
  locateTest,
  setupSentences,
  TEST_KINDS,
  TEST_TEXT,
  type TestKind,
  type UnitSystem,
} from "@iron/core";
import type { RunSetup } from "@iron/contract";
import { catchError, of } from "rxjs";
import { Api } from "../data/api";
import { Onward } from "../data/onward";
import { Preferences } from "../data/preferences";
import { problemFrom } from "../data/problems";
import { AxisContext } from "../machine/axis/axis-context";
import { TextField } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { TickBox } from "../shared/tick-box";
import { byCheck, gate, valueOf } from "../shared/schema-form";
import { ReadWith, readWith, readWithForm, setupOf, type SenseAsk } from "./read-with";
import { checkSetUp, inOtherUnits, usualSetUp, type SetUpCheck, type SetUpDraft } from "./set-up.view";

/** The form as it is asked: texts in the reader’s units, so that nothing typed is ever lost or rounded. */
const TEXT = { nonNullable: true } as const;

type SetUpValue = SetUpDraft & {
  readonly marked: boolean;
  readonly readWith: { readonly indicator: number | null; readonly tipAngleDeg: number };
};

interface FilledFor {
  readonly axisId: number;
  readonly kind: TestKind;
  readonly system: UnitSystem;
}

function usualSurface(kind: TestKind | null, keepsZero: boolean, marked: boolean): RunSetup["surface"] {
  if (keepsZero) return "reference scale";
  if (kind === "end-float") return marked ? "flat screw end" : "ball in the centre hole";
  if (kind === "nut-flank") return "thread flank";
  return kind && isSplitTest(kind) ? "part of the drive" : "gauge block";
}

@Component({
  selector: "ip-set-up",
  imports: [LoadingLines, ButtonDirective, ReactiveFormsModule, ReadWith, RouterLink, TextField, TickBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./set-up.html",
  styleUrl: "./measure.css",
})
export class SetUpTest {
  readonly kind = input.required<string>();
  /** Place asked for by address, mm. */
  readonly at = input<string>();
  protected readonly context = inject(AxisContext);
  protected readonly preferences = inject(Preferences);
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  protected readonly indicators = toSignal(this.api.call("indicators").pipe(catchError(() => of([]))), {
    initialValue: null,
  });
  protected readonly usable = computed(() => (this.indicators() ?? []).filter((i) => !i.retiredAt));
  protected readonly test = computed<TestKind | null>(() => TEST_KINDS.find((k) => k === this.kind()) ?? null);
  protected readonly text = computed(() => {
    const kind = this.test();
    return kind ? TEST_TEXT[kind] : null;
  });
  /** With what it is read, and where: what is typed is kept when the units change, only said in the others. */
  protected readonly form = new FormGroup(
    {
      readWith: readWithForm(20),
      marked: new FormControl(false, TEXT),
      places: new FormControl("", TEXT),
      runs: new FormControl("", TEXT),
      overTravel: new FormControl("", TEXT),
      tick: new FormControl("", TEXT),
      ticksOut: new FormControl("", TEXT),
      hubRadius: new FormControl("", TEXT),
      note: new FormControl("", TEXT),
    },
    {
      validators: byCheck<SetUpValue>(
        (value) => (this.filled && untracked(() => this.checkOf(value)?.errors)) ?? new Map(),
      ),
    },
  );
  private readonly maySend = gate();
  private readonly value = valueOf<SetUpValue>(() => this.form);
  /** What the form was filled for; the same axis and test in other units is only said anew. */
  private filled: FilledFor | null = null;
  private readonly asked = computed<FilledFor | null>(() => {
    const axis = this.context.axis();
    const kind = this.test();
    if (!axis || !kind || this.indicators() === null) return null;
    return { axisId: axis.id, kind, system: this.preferences.system() };
  });
  /** The form says what is usual. */
  protected readonly ready = signal(false);
  protected readonly check = computed(() => this.checkOf(this.value()));
  /** How the sense is asked: for a part of the drive by what that part does. */
  protected readonly senseAsk = computed<SenseAsk>(() => {
    const kind = this.test();
    if (!kind || !isSplitTest(kind))
      return {
        label: "When the axis goes to plus, the needle",
        one: "rises",
        other: "falls",
      };
    const { part, counts } = COUNTS_TOWARDS[kind];
    const other = counts === "plus" ? "minus" : "plus";
    return {
      label: `The needle rises when ${part} moves towards`,
      one: counts,
      other,
    };
  });
  /** Why this test cannot be done on this axis; empty when it can. */
  protected readonly impossible = computed(() => {
    const axis = this.context.axis();
    const kind = this.test();
    const test = kind && isSplitTest(kind) ? locateTest(kind) : undefined;
    if (!axis || !test) return "";
    const there = availability(axis.config, test);
    return there.possible ? "" : there.say;
  });
  private readonly keepsZero = computed(() => this.check()?.plan?.keepsZero ?? false);
  private readonly marked = computed(() => this.test() === "end-float" && this.value().marked);
  protected readonly starting = signal(false);
  protected readonly error = signal("");
  protected readonly sentences = computed(() => {
    const axis = this.context.axis();
    const kind = this.test();
    return axis && kind
      ? setupSentences(
          axis.config,
          {
            kind,
            keepsZero: this.keepsZero(),
            markedTurns: this.marked(),
          },
          this.preferences.system(),
        )
      : [];
  });
  protected readonly unit = computed(() => (this.preferences.system() === "metric" ? "mm" : "in"));

  constructor() {
    effect(() => {
      const asked = this.asked();
      if (asked) untracked(() => this.fill(asked));
    });
    // What it is read against follows from the test, until somebody says otherwise.
    effect(() => {
      const surface = usualSurface(this.test(), this.keepsZero(), this.marked());
      untracked(() => this.form.controls.readWith.controls.surface.setValue(surface));
    });
  }

  private fill(asked: FilledFor): void {
    const before = this.filled;
    const axis = this.context.axis();
    if (!axis) return;
    this.filled = asked;
    const { system, kind } = asked;
    if (before && before.kind === kind && before.axisId === asked.axisId) {
      this.form.patchValue(inOtherUnits(this.form.getRawValue(), before.system, system));
      return;
    }
    const at = this.at();
    const atMm = at ? Number(at) : NaN;
    const inside = atMm >= 0 && atMm <= axis.config.travelMm;
    const indicator = this.reaching() ?? this.usable()[0];
    if (indicator) readWith(this.form.controls.readWith, indicator);
    this.form.patchValue(usualSetUp(kind, { axis: axis.config, system, atMm: inside ? atMm : null }));
    this.ready.set(true);
  }

  /** An indicator that reaches along the whole travel, where a profile wants one. */
  private reaching() {
    if (this.test() !== "travel-profile") return undefined;
    const travelMm = this.context.axis()?.config.travelMm ?? Infinity;
    return this.usable().find((i) => i.rangeMm / 2 >= travelMm);
  }

  private indicatorOf(value: SetUpValue) {
    return this.usable().find((i) => i.id === value.readWith.indicator) ?? null;
  }

  private checkOf(value: SetUpValue): SetUpCheck | null {
    const axis = this.context.axis();
    const kind = this.test();
    if (!axis || !kind) return null;
    return checkSetUp(value, {
      kind,
      axis: axis.config,
      indicator: this.indicatorOf(value),
      tipAngleDeg: value.readWith.tipAngleDeg,
      system: this.preferences.system(),
      markedTurns: kind === "end-float" && value.marked,
      lastMm: this.context.last()?.reversalValueMm ?? null,
    });
  }

  protected start(): void {
    this.form.updateValueAndValidity();
    if (this.starting() || !this.maySend(this.form)) return;
    const value = this.form.getRawValue();
    const plan = this.checkOf(value)?.plan;
    const indicator = this.indicatorOf(value);
    const axis = this.context.axis();
    if (!plan || !indicator || !axis) return;
    const setup = setupOf(this.form.controls.readWith, indicator, value.note);
    const [onward, base] = [this.onward.fromHere(), this.context.base()];
    this.starting.set(true);
    this.api.call("startRun", { params: { id: axis.id }, body: { plan, setup } }).subscribe({
      next: (run) => onward(`${base}/runs/${run.id}`),
      error: (error: unknown) => {
        this.starting.set(false);
        this.error.set(problemFrom(error).detail);
      },
    });
  }
}
