import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import {
  fromShown,
  isFeelKind,
  handTestGrades,
  handTestInstruction,
  handTestQuantity,
  handTestSetup,
  HAND_TEST_TEXT,
  unitOf,
  type QuantityKind,
} from "@iron/core";
import { parseDecimal, type HandTest } from "@iron/contract";
import { InputText } from "primeng/inputtext";
import type { Observable } from "rxjs";
import { newKey } from "../../data/new-key";
import { Api } from "../../data/api";
import { Notices } from "../../data/notices";
import { Preferences } from "../../data/preferences";
import { saidIn } from "../../data/problems";
import { Keys } from "../../shared/keys";
import { AxisContext } from "../../machine/axis/axis-context";
import { HandTestSays } from "./hand-test-says";
import { nextHandTestStep, handTestRows } from "./hand-test.view";
import { Trouble } from "../../shared/trouble";
import { LoadingLines } from "../../shared/loading";
import { May } from "../../shared/may";

/** A row of readings taken one by one: crest run, gib, tram, home test, tests by hand. */
@Component({
  selector: "ip-hand-test",
  imports: [May, LoadingLines, ButtonDirective, RouterLink, InputText, HandTestSays, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./hand-test-page.html",
  styleUrl: "./set.css",
})
export class HandTestPage {
  readonly seriesId = input.required<string>();
  protected readonly context = inject(AxisContext);
  protected readonly preferences = inject(Preferences);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly field = viewChild<ElementRef<HTMLInputElement>>("field");
  protected readonly handTest = signal<HandTest | null>(null);
  protected readonly before = signal<HandTest | null>(null);
  protected readonly error = signal("");
  protected readonly entryError = signal("");
  protected readonly text = signal("");
  protected readonly busy = signal(false);
  protected readonly config = computed(() => this.context.axis()?.config ?? null);
  protected readonly about = computed(() => {
    const handTest = this.handTest();
    return handTest ? HAND_TEST_TEXT[handTest.plan.kind] : null;
  });
  protected readonly step = computed(() => {
    const handTest = this.handTest();
    return handTest ? nextHandTestStep(handTest) : null;
  });
  protected readonly instruction = computed(() => {
    const handTest = this.handTest();
    const step = this.step();
    return handTest && step ? handTestInstruction(handTest.plan, step, this.preferences.system()) : "";
  });
  protected readonly setup = computed(() => {
    const config = this.config();
    const handTest = this.handTest();
    return config && handTest ? handTestSetup(config, handTest.plan) : [];
  });
  protected readonly rows = computed(() => {
    const handTest = this.handTest();
    return handTest ? handTestRows(handTest, this.preferences.system()) : [];
  });
  protected readonly done = computed(() => this.rows().filter((r) => r.value).length);
  /** In what the present step is read; null where it is told in words. */
  private readonly quantity = computed<QuantityKind | null>(() => {
    const handTest = this.handTest();
    const step = this.step();
    return handTest && step ? handTestQuantity(handTest.plan, step.group) : null;
  });
  protected readonly unit = computed(() => {
    const quantity = this.quantity();
    return quantity ? unitOf(quantity, this.preferences.system()) : "";
  });
  protected readonly grades = computed(() => {
    const handTest = this.handTest();
    const step = this.step();
    return handTest && step ? handTestGrades(handTest.plan, step.group) : [];
  });
  protected readonly keys = ["A", "B", "C"] as const;
  protected readonly byHand = computed(() => {
    const handTest = this.handTest();
    return handTest !== null && isFeelKind(handTest.plan.kind);
  });

  constructor() {
    effect(() => {
      const id = this.seriesId();
      untracked(() => this.load(id));
    });
    const { station } = this.context;
    effect(() => station.set(this.byHand() ? "locate" : null));
    inject(DestroyRef).onDestroy(() => station.set(null));
    inject(Keys).use(
      {
        key: " ",
        shown: "Space",
        does: "Read this step on the simulated machine",
        needs: "readHandTestStep",
        press: () => this.readDevice(),
      },
      {
        key: "Backspace",
        shown: "⌫",
        does: "Take the last reading back",
        needs: "addHandTestPoint",
        press: () => this.takeBack(),
      },
      ...this.keys.map((key, i) => ({
        key: key.toLowerCase(),
        shown: key,
        does: `Keep answer ${i + 1} of a step that is told in words`,
        needs: "addHandTestPoint" as const,
        press: () => this.tell(i),
      })),
    );
  }

  protected load(id = this.seriesId()): void {
    this.error.set("");
    this.api.call("handTest", { params: { id } }).subscribe({
      next: (handTest) => {
        this.handTest.set(handTest);
        this.findBefore(handTest);
      },
      error: saidIn(this.error),
    });
  }

  private findBefore(handTest: HandTest): void {
    this.api.call("axisHandTests", { params: { id: handTest.axisId } }).subscribe({
      next: (list) =>
        this.before.set(
          list.find((s) => s.id < handTest.id && s.plan.kind === handTest.plan.kind && s.state === "finished") ?? null,
        ),
      error: () => this.before.set(null),
    });
  }

  protected readDevice(): void {
    const step = this.step();
    if (!step || this.busy() || this.context.device() !== "simulated") return;
    this.follow(
      this.api.call("readHandTestStep", {
        params: { id: this.seriesId() },
        body: {
          step: step.index,
        },
      }),
    );
  }

  protected enter(): void {
    const step = this.step();
    const quantity = this.quantity();
    if (!step || !quantity || this.busy()) return;
    const shown = parseDecimal(this.text());
    if (shown === undefined) {
      this.entryError.set(
        `“${this.text().trim()}” is not a number. Type the reading in ${this.unit()}, with a point or comma.`,
      );
      return;
    }
    this.entryError.set("");
    this.keep(step.index, fromShown(quantity, shown, this.preferences.system()), this.text().trim());
  }

  protected tell(index: number): void {
    const step = this.step();
    const grade = this.grades().at(index);
    if (step && grade && !this.busy()) this.keep(step.index, index, grade);
  }

  protected takeBack(): void {
    const last = this.rows()
      .filter((r) => r.value)
      .at(-1);
    if (last && !this.busy()) this.keep(last.step, null, "taken back");
  }

  private keep(step: number, value: number | null, entered: string): void {
    this.follow(
      this.api.call("addHandTestPoint", {
        params: { id: this.seriesId() },
        body: {
          key: newKey(),
          step,
          value,
          entered,
        },
      }),
    );
  }

  private follow(answer: Observable<HandTest>): void {
    this.busy.set(true);
    answer.subscribe({
      next: (handTest) => {
        this.handTest.set(handTest);
        this.busy.set(false);
        this.text.set("");
        setTimeout(() => this.field()?.nativeElement.focus());
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.notices.error(error);
      },
    });
  }
}
