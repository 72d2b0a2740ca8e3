import { TickBox } from "../shared/tick-box";
import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { type CaseContext } from "@iron/core";
import type { Answers } from "@iron/contract";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { problemFrom } from "../data/problems";
import { momentText } from "../shared/times.text";
import { AxisContext } from "../machine/axis/axis-context";
import { CaseStore } from "./case-store";
import { CONTEXT_QUESTIONS, likelyViews, symptomGroups } from "./case.view";
import { CasePhotos } from "./case-photos";
import { SymptomList } from "./symptom-list";
import { ConflictNote } from "./conflict-note";
import { LikelyList } from "./likely-list";
import { Triple } from "./triple";
import { NumberField, TextField } from "../shared/fields";
import { Trouble } from "../shared/trouble";
import { LoadingLines } from "../shared/loading";

/** What the server takes at most, bytes. */

/** Station Ask: what is noticed, since when and after what; kept as it is answered. */
@Component({
  selector: "ip-ask",
  imports: [
    LoadingLines,
    CasePhotos,
    SymptomList,
    ButtonDirective,
    TickBox,
    RouterLink,
    Triple,
    LikelyList,
    ConflictNote,
    Trouble,
    TextField,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./ask.html",
  styleUrl: "./case.css",
})
export class AskStation {
  protected readonly context = inject(AxisContext);
  protected readonly store = inject(CaseStore);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly questions = CONTEXT_QUESTIONS;
  protected readonly moment = momentText;
  protected readonly groups = computed(() => {
    const axis = this.context.axis();
    return axis ? symptomGroups(axis.config) : [];
  });
  protected readonly likely = computed(() => {
    const diagnosis = this.store.diagnosis();
    return diagnosis ? likelyViews(diagnosis).slice(0, 5) : null;
  });
  protected readonly answered = computed(() => Object.keys(this.store.current()?.symptoms ?? {}).length);
  protected readonly earlier = computed(() => (this.store.summaries() ?? []).filter((c) => c.state === "closed"));
  protected readonly seen = signal<readonly string[] | null>(null);
  protected readonly alsoAxes = signal<ReadonlySet<number>>(new Set());
  protected readonly others = computed(() => this.context.axes().filter((a) => a.id !== this.context.axis()?.id));

  protected open(): void {
    const axis = this.context.axis();
    const machine = this.context.machine();
    if (axis && machine) this.store.openCase(machine.id, [axis.id, ...this.alsoAxes()]);
  }

  protected toggleAxis(id: number, on: boolean): void {
    const next = new Set(this.alsoAxes());
    if (on) next.add(id);
    else next.delete(id);
    this.alsoAxes.set(next);
  }

  protected flag(key: keyof CaseContext, value: boolean | null): void {
    this.store.setContext({ [key]: value });
  }

  /** In the demo: what a person would notice on the simulated machine. */
  protected observe(): void {
    const axis = this.context.axis();
    if (!axis) return;
    this.api.call("observe", { params: { id: axis.id }, body: { test: null } }).subscribe({
      next: ({ answers, shown }) => {
        this.seen.set(shown);
        this.store.answerAll(answers as Answers);
      },
      error: this.notices.error,
    });
  }

  protected problem(error: unknown): string {
    return problemFrom(error).detail;
  }
}
