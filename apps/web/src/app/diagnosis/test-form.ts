import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import {
  fastenersToTry,
  availability,
  crestRun,
  finding,
  formatLimit,
  needsMotion,
  runsIn,
  FEEL_KINDS,
  lengthsIn,
  locateTest,
  travelPerTurnMm,
  type CrestPoint,
  type CrestRun,
  type FindingId,
  type LoadMeter,
  type HandTestKind,
  type TestId,
  loadFindings,
} from "@iron/core";
import { parseLoadCsv, type Answers, type CsvError, type ResultData } from "@iron/contract";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { Onward } from "../data/onward";
import { Preferences } from "../data/preferences";
import { ChartView, type DrawChart } from "../shared/chart";
import { AxisContext } from "../machine/axis/axis-context";
import { CaseStore } from "./case-store";
import { FastenerList, type Fastener, type Found } from "./fastener-list";
import { parseCrest, placeMm, testQuestions, WHERE } from "./case.view";
import { loadChart, type LoadTraceView } from "./load-trace.view";
import { Triple } from "./triple";
import { HandTestStart } from "../measure/hand/hand-test-start";
import { HandTestSetUp, type HandTestExtra } from "../measure/hand/hand-test-set-up";
import { crestText } from "../measure/hand/hand-test.view";
import { TextField } from "../shared/fields";
import { RECORDED } from "./test-recorded";
import { TestSafety } from "./test-safety";
import { TestSays } from "./test-says";

/** Tests that are a row of readings, taken one by one at Set’s bench. */
const HAND_TEST_OF: Partial<Record<string, HandTestKind>> = {
  "crest-run": "crest-run",
  "tram-look": "tram",
  "home-again": "home-repeat",
  ...Object.fromEntries(FEEL_KINDS.map((kind) => [kind, kind])),
};

/** Tests that say something of one place of the travel, and that can be made there as well as anywhere. */
const MADE_AT_A_PLACE: ReadonlySet<string> = new Set<TestId>(["rock", "look-over", "sound-comparison", "flank-twice"]);

/** A test that is looked, listened or felt for: how to do it, what was found, kept at once. */
@Component({
  selector: "ip-test-form",
  imports: [
    TestSafety,
    TestSays,
    ButtonDirective,
    RouterLink,
    Triple,
    ChartView,
    FastenerList,
    HandTestSetUp,
    TextField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./test-form.html",
  styleUrl: "./case.css",
})
export class TestForm {
  readonly testId = input.required<string>();
  protected readonly context = inject(AxisContext);
  protected readonly store = inject(CaseStore);
  protected readonly preferences = inject(Preferences);
  private readonly handTestStart = inject(HandTestStart);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly onward = inject(Onward);
  /** What the control’s page is held against. */
  protected readonly mayLose = computed(() => {
    const axis = this.context.axis();
    if (!axis || this.testId() !== "motor-against-scale") return [];
    const most = formatLimit(axis.config.limits.leaveMm, this.preferences.system());
    return [`${axis.config.letter} may lose ${most}: “yes” is more than that.`];
  });
  protected readonly test = computed(() => {
    const test = locateTest(this.testId());
    const system = this.preferences.system();
    return test ? { ...test, how: [...test.how.map((line) => lengthsIn(line, system)), ...this.mayLose()] } : null;
  });
  protected readonly recording = computed(() => RECORDED[this.testId()] ?? null);
  protected readonly there = computed(() => {
    const test = this.test();
    const axis = this.context.axis();
    return test && axis ? availability(axis.config, test) : null;
  });
  /** A test by hand is made where it was noticed too, where the axis may be moved there for it. */
  protected readonly noticedAt = computed(() => {
    const axis = this.context.axis();
    const place = this.store.told().place;
    const mm = axis && MADE_AT_A_PLACE.has(this.testId()) ? placeMm(place, axis.config.travelMm) : null;
    if (mm === null) return null;
    const label = WHERE.find((w) => w.id === place?.kind)?.label;
    const where = lengthsIn(`${mm} mm`, this.preferences.system());
    return `Noticed ${label}, about ${where}: do it there too. Move it there under power, hands out and guard closed, before it is isolated.`;
  });
  protected readonly drives = computed(() => this.test() !== null && runsIn(this.testId()));
  /** An axis that stands still has no answer to it. */
  protected readonly needsIt = computed(() => needsMotion(this.testId()));
  protected readonly questions = computed(() => {
    const axis = this.context.axis();
    return axis ? testQuestions(axis.config, this.testId()) : [];
  });
  /** Answers so far; a new test begins with none. */
  protected readonly answers = linkedSignal<Answers>(() => {
    this.testId();
    return {};
  });
  protected readonly note = signal("");
  protected readonly seen = signal<readonly string[] | null>(null);
  protected readonly fasteners = computed(() => {
    const axis = this.context.axis();
    return axis && this.testId() === "fastener-check" ? fastenersToTry(axis.config) : [];
  });
  protected readonly found = signal<Readonly<Record<string, Found>>>({});
  private readonly list = viewChild(FastenerList);
  protected readonly data = signal<ResultData | null>(null);
  protected readonly trace = signal<LoadTraceView | null>(null);
  protected readonly csvErrors = signal<readonly CsvError[]>([]);
  protected readonly crestError = signal("");
  protected readonly chart = computed<DrawChart | null>(() => {
    const trace = this.trace();
    const system = this.preferences.system();
    return trace ? (ink) => loadChart(trace, system, ink) : null;
  });
  protected readonly crest = computed(() => {
    const data = this.data();
    if (data?.kind !== "crest-run") return null;
    const read = this.crestOf(data.planes);
    if (!read) return null;
    const [verdict, ...planes] = crestText(read.alignment, this.preferences.system());
    return { planes, verdict };
  });
  /** The row of readings that answers this test, where there is one. */
  protected readonly handTest = computed<HandTestKind | null>(() => HAND_TEST_OF[this.testId()] ?? null);
  /** Something was answered, or at least one fastener was looked at. */
  protected readonly given = computed(
    () => Object.keys(this.answers()).length > 0 || Object.values(this.found()).some((f) => f !== "not looked at"),
  );
  /** One of two acts is what the page is for: to take the readings, or to keep what was answered. */
  protected readonly later = computed(() => (this.given() ? "secondary" : undefined));
  protected readonly first = computed(() => (this.handTest() && !this.given() ? "secondary" : undefined));
  protected readonly crestAsk = computed(
    () =>
      `Or type what was read, a line a place: place; reading at 0°; reading at 90°, all in ${this.preferences.system() === "metric" ? "mm" : "in"}`,
  );
  protected readonly oneByOne = "Take the readings one by one";

  constructor() {
    // Another test begins with nothing of the one before.
    effect(() => {
      this.testId();
      untracked(() => {
        this.seen.set(null);
        this.found.set({});
        this.data.set(null);
        this.trace.set(null);
        this.csvErrors.set([]);
        this.crestError.set("");
        this.note.set("");
      });
    });
  }

  protected value(id: FindingId): boolean | null {
    return this.answers()[id] ?? null;
  }

  protected answer(id: FindingId, present: boolean | null): void {
    this.answers.update(({ [id]: _, ...others }) => (present === null ? others : { ...others, [id]: present }));
  }

  protected fastener({ one, state }: { readonly one: Fastener; readonly state: Found }): void {
    this.found.update((f) => ({ ...f, [one.name]: state }));
    if (one.finding) this.answer(one.finding, state === "not looked at" ? null : state !== "tight");
  }

  protected simulate(): void {
    const axis = this.context.axis();
    const test = this.test();
    if (!axis || !test) return;
    if (test.id === "load-trace") return this.simulateLoad(axis.id);
    if (test.id === "crest-run") return this.simulateCrest(axis.id);
    this.api
      .call("observe", {
        params: { id: axis.id },
        body: {
          test: test.id as TestId,
        },
      })
      .subscribe({
        next: ({ answers, shown }) => {
          this.seen.set(shown);
          this.answers.set(answers as Answers);
          const found: Record<string, Found> = {};
          for (const f of this.fasteners()) found[f.name] = f.finding && answers[f.finding] ? "turned" : "tight";
          this.found.set(found);
        },
        error: this.notices.error,
      });
  }

  protected pick(files: FileList | null): void {
    const file = files?.[0];
    if (!file) return;
    if (file.size > 2_000_000) {
      this.csvErrors.set([{ line: 0, column: "", message: `${file.name} is larger than 2 MB.` }]);
      return;
    }
    void file.text().then((text) => {
      const { samples, unit, errors } = parseLoadCsv(text);
      this.csvErrors.set(errors);
      if (errors.length === 0 && samples.length) this.analyse([...samples], unit);
    });
  }

  private simulateLoad(axisId: number): void {
    this.api.call("simulateLoad", { params: { id: axisId } }).subscribe({
      next: ({ samples, unit }) => this.analyse(samples, unit),
      error: this.notices.error,
    });
  }

  /** The meter as somebody says it is: the same samples, taken apart anew. */
  protected sayMeter(meter: LoadMeter): void {
    const trace = this.trace();
    if (trace) this.analyse(trace.samples, trace.unit, meter);
  }

  private analyse(samples: LoadTraceView["samples"], unit: "%" | "A", meter?: LoadMeter): void {
    const axis = this.context.axis();
    if (!axis) return;
    this.api
      .call("analyseLoad", { params: { id: axis.id }, body: { samples: [...samples], ...(meter ? { meter } : {}) } })
      .subscribe({
        next: (analysis) => {
          const view: LoadTraceView = { samples, unit, analysis };
          this.trace.set(view);
          this.data.set({ kind: "load-trace", unit, samples: [...samples] });
          const found = loadFindings(view);
          const asked = new Set(this.questions().map((q) => q.id));
          this.answers.set(Object.fromEntries(Object.entries(found).filter(([id]) => asked.has(id as FindingId))));
        },
        error: this.notices.error,
      });
  }

  private simulateCrest(axisId: number): void {
    this.api.call("simulateCrest", { params: { id: axisId } }).subscribe({
      next: ({ planes }) => {
        this.data.set({ kind: "crest-run", planes });
        this.answerCrest(planes);
      },
      error: this.notices.error,
    });
  }

  protected beginHandTest(kind: HandTestKind, extra: HandTestExtra = {}): void {
    const axis = this.context.axis();
    if (axis) this.handTestStart.begin(axis, { base: this.context.base(), kind, extra });
  }

  protected readonly textOf = (id: FindingId): string => finding(id).text;

  /** What cannot be read as crests is no result: what was typed before does not stand in for it. */
  protected typeCrest(text: string): void {
    const { planes, error } = parseCrest(text, this.preferences.system());
    this.crestError.set(error);
    if (error) {
      this.data.set(null);
      this.answers.set({});
      return;
    }
    this.data.set({ kind: "crest-run", planes: planes.map((p) => [...p]) });
    this.answerCrest(planes);
  }

  /** What the crests say of this axis’ screw; null while the axis is not there. */
  private crestOf(planes: readonly (readonly CrestPoint[])[]): CrestRun | null {
    const config = this.context.axis()?.config;
    if (!config) return null;
    return crestRun(planes, {
      leadMm: travelPerTurnMm(config),
      freeLengthMm: config.screw.freeLengthMm,
      travelMm: config.travelMm,
    });
  }

  /** What cannot be told stays open. */
  private answerCrest(planes: readonly (readonly CrestPoint[])[]): void {
    const read = this.crestOf(planes);
    if (!read) return;
    const { outOfLine, bent } = read;
    this.answers.set({
      ...(outOfLine === null ? {} : { "crest-slope": outOfLine }),
      ...(bent === null ? {} : { "crest-turn": bent }),
    });
  }

  /** No result of this test, and more than one: told as what hurts, it is looked for at the control first. */
  protected doesNotMove(): void {
    this.store.answer("no-motion", true);
    this.toLocate()();
  }

  private toLocate(): () => void {
    const [onward, base] = [this.onward.fromHere(), this.context.base()];
    return () => onward(`${base}/locate`);
  }

  protected keep(): void {
    const test = this.test();
    if (!test || !this.given() || this.list()?.mayKeep() === false) return;
    const list = Object.entries(this.found());
    const data: ResultData | null =
      this.data() ??
      (list.length
        ? {
            kind: "fasteners",
            found: list.map(([name, state]) => ({ name, state, torqueNm: this.list()?.torqueOf(name) ?? null })),
          }
        : null);
    this.store.addResult(test.id as TestId, this.answers(), { note: this.note(), data, then: this.toLocate() });
  }
}
