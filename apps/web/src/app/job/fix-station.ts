import { TickBox } from "../shared/tick-box";
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  linkedSignal,
  signal,
  untracked,
} from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import { ActivatedRoute, RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { catchError, map, of } from "rxjs";
import {
  DEFAULT_OPTIONS,
  JOB_OF_CAUSE,
  jobKind,
  LOOSE_OF_CAUSE,
  planJob,
  NoWay,
  type JobItem,
  type JobKindId,
  type JobOptions,
  type JobPlan,
  probable,
} from "@iron/core";
import type { Axis, JobSummary } from "@iron/contract";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { Onward } from "../data/onward";
import { saidIn } from "../data/problems";
import { AxisContext } from "../machine/axis/axis-context";
import { CaseStore } from "../diagnosis/case-store";
import { jobChoices } from "./job.view";
import { type Choice, ChoiceField } from "../shared/fields";
import { Trouble } from "../shared/trouble";
import { WhatItTakes } from "./what-it-takes";
import { LoadingLines } from "../shared/loading";
import { May } from "../shared/may";

type Chosen = Readonly<Record<string, boolean>>;
const keyOf = (axisId: number, kind: string): string => `${axisId} ${kind}`;

/** The ways a shop may do it, in the words of the trade. */
const METHODS = {
  preload: [
    { id: "torque", label: "by torque, drag measured" },
    { id: "drag", label: "by drag" },
    { id: "feel", label: "by feel (coast test)" },
  ],
  align: [
    { id: "carriage", label: "by the carriage: tighten near each end" },
    { id: "crest", label: "by a crest run in two planes" },
  ],
  gib: [
    { id: "knee", label: "by the knee of its friction" },
    { id: "seize-and-back", label: "until it seizes, and back" },
    { id: "lost-motion", label: "by lost motion while tightening" },
    { id: "rock", label: "by rocking" },
  ],
  nutService: [
    { id: "flush", label: "flush in place first" },
    {
      id: "rebuild",
      label: "rebuild (rolled, with clearance; others are sent out)",
    },
    { id: "send-out", label: "out with its screw, to a screw shop" },
  ],
} as const satisfies Partial<Record<keyof JobOptions, readonly Choice[]>>;

/** The sheet, or why there is none. */
function planned(
  axes: Parameters<typeof planJob>[0]["axes"],
  items: readonly JobItem[],
  options: JobOptions,
): JobPlan | string {
  try {
    return planJob({ axes, items, options });
  } catch (error) {
    if (error instanceof NoWay) return error.message;
    throw error;
  }
}

/** Station Fix: what is to be done on which axis, what it takes, and the job opened. */
@Component({
  selector: "ip-fix",
  imports: [May, LoadingLines, WhatItTakes, ButtonDirective, TickBox, RouterLink, Trouble, ChoiceField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./fix-station.html",
  styleUrl: "./job.css",
})
export class FixStation {
  protected readonly context = inject(AxisContext);
  protected readonly cases = inject(CaseStore);
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  private readonly notices = inject(Notices);
  protected readonly shop = toSignal(this.api.call("shop").pipe(catchError(() => of(null))), {
    initialValue: null,
  });
  /** The cause that a verdict names, or the job asked for by address. */
  private readonly wanted = toSignal(inject(ActivatedRoute).queryParamMap.pipe(map((q) => q.get("cause") ?? "")), {
    initialValue: "",
  });
  protected readonly jobs = signal<readonly JobSummary[] | null>(null);
  protected readonly error = signal("");
  protected readonly options = signal<JobOptions>(DEFAULT_OPTIONS);
  protected readonly more = signal(false);
  protected readonly methods = METHODS;
  protected readonly chosen = linkedSignal<Axis | null, Chosen>({
    source: this.context.axis,
    computation: (axis) => {
      const kind = JOB_OF_CAUSE[this.wanted()] as JobKindId | undefined;
      return axis && kind && jobKind(kind).fits(axis.config) ? { [keyOf(axis.id, kind)]: true } : {};
    },
  });
  protected readonly choices = computed(() => {
    const here = this.context.axis();
    const axes = this.context.axes().filter((a) => !a.retiredAt);
    const kind = JOB_OF_CAUSE[this.wanted()] as JobKindId | undefined;
    return axes
      .filter((a) => a.id === here?.id || this.more())
      .map((axis) => ({ axis, jobs: jobChoices(axis, kind ?? null) }));
  });
  protected readonly items = computed(() =>
    this.context.axes().flatMap((axis) =>
      jobChoices(axis, null)
        .filter((j) => this.chosen()[keyOf(axis.id, j.id)])
        .map((j) => ({
          axisId: axis.id,
          letter: axis.config.letter,
          kind: j.id as JobKindId,
          loose: this.looseFor(axis.id, j.id as JobKindId),
        })),
    ),
  );
  private readonly sheet = computed(() => {
    const items = this.items();
    if (items.length === 0) return null;
    const axes = this.context
      .axes()
      .filter((a) => items.some((i) => i.axisId === a.id))
      .map((a) => ({ letter: a.config.letter, config: a.config }));
    return planned(axes, items, this.options());
  });
  /** Why there is no sheet for what is ticked; empty where there is one. */
  protected readonly refused = computed(() => {
    const sheet = this.sheet();
    return typeof sheet === "string" ? sheet : "";
  });
  protected readonly plan = computed(() => {
    const sheet = this.sheet();
    return typeof sheet === "string" ? null : sheet;
  });
  protected readonly needs = computed(() => {
    const kinds = new Set(this.items().map((i) => i.kind));
    const any = (...ids: JobKindId[]): boolean => ids.some((id) => kinds.has(id));
    return {
      preload: any("fixed-bearings", "screw", "bearing-preload", "ball-nut"),
      align: any("fixed-bearings", "screw", "align-screw", "float-bracket", "ball-nut"),
      gib: any("gib"),
      nut: any("ball-nut"),
      bearings: any("fixed-bearings"),
      screw: any("screw"),
      // A circle shows two axes, and nothing of a job that proves neither loss nor travel nor how they stand.
      circle:
        this.context.axes().length > 1 &&
        (this.plan()?.steps ?? []).some((s) =>
          ["chain", "travel-load", "travel-steps", "pattern"].includes(s.retest ?? ""),
        ),
    };
  });
  /** What the open case points to, where that is mended by a job that is not ticked yet. */
  protected readonly pointed = computed(() => {
    const axis = this.context.axis();
    const best = probable(this.cases.leading());
    const kind = best ? (JOB_OF_CAUSE[best.cause.id] as JobKindId | undefined) : undefined;
    if (!axis || !best || !kind || !this.cases.open() || !jobKind(kind).fits(axis.config) || this.is(axis.id, kind))
      return null;
    return {
      axisId: axis.id,
      kind,
      name: jobKind(kind).name,
      says: `${best.cause.name}, ${Math.round(100 * best.probability)} %`,
    };
  });
  protected readonly mine = computed(() => {
    const id = this.context.axis()?.id;
    return (this.jobs() ?? []).filter((j) => id !== undefined && j.axisIds.includes(id));
  });

  constructor() {
    effect(() => {
      if (this.context.axis()) untracked(() => this.load());
    });
  }

  protected load(): void {
    this.error.set("");
    this.api.call("jobs").subscribe({
      next: (list) => this.jobs.set(list),
      error: saidIn(this.error),
    });
  }

  protected is(axisId: number, kind: string): boolean {
    return this.chosen()[keyOf(axisId, kind)] ?? false;
  }

  protected choose(axisId: number, kind: string, on: boolean): void {
    this.chosen.update((c) => ({ ...c, [keyOf(axisId, kind)]: on }));
  }

  /** What the case found loose: the sheet names those fasteners. */
  private looseFor(axisId: number, kind: JobKindId): JobItem["loose"] {
    if (kind !== "tighten" || axisId !== this.context.axis()?.id) return [];
    const cause = this.wanted() || probable(this.cases.leading())?.cause.id;
    const loose = cause ? LOOSE_OF_CAUSE[cause] : undefined;
    return loose ? [loose] : [];
  }

  protected set<K extends keyof JobOptions>(key: K, value: JobOptions[K]): void {
    this.options.update((o) => ({ ...o, [key]: value }));
  }

  protected open(): void {
    const machine = this.context.machine();
    const file = this.cases.open();
    if (!machine || this.items().length === 0) return;
    const onward = this.onward.fromHere();
    this.api
      .call("openJob", {
        params: { id: machine.id },
        body: {
          items: this.items().map(({ axisId, kind, loose }) => ({
            axisId,
            kind,
            loose: [...(loose ?? [])],
          })),
          options: this.options(),
          caseId: file?.id ?? null,
        },
      })
      .subscribe({
        next: ({ id }) => onward(`/jobs/${id}`),
        error: this.notices.error,
      });
  }
}
