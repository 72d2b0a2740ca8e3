import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import type { FindingId } from "@iron/core";
import type { Answers } from "@iron/contract";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { datesInText, momentText } from "../shared/times.text";
import { AxisContext } from "../machine/axis/axis-context";
import { CaseStore } from "./case-store";
import { asToggles, likelyViews, symptomGroups, testFor } from "./case.view";
import { CasePhotos } from "./case-photos";
import { SymptomList } from "./symptom-list";
import { ConflictNote } from "./conflict-note";
import { LikelyList } from "./likely-list";
import { TextField } from "../shared/fields";
import { WhatHurts } from "./what-hurts";
import { WhereWhen } from "./where-when";
import { WhichAxis } from "./which-axis";
import { Trouble } from "../shared/trouble";
import { LoadingLines } from "../shared/loading";
import { May } from "../shared/may";
import { NotYours } from "../shared/not-yours";

/** Station Ask: what is noticed, where, when and after what; kept as it is answered. */
@Component({
  selector: "ip-ask",
  imports: [
    NotYours,
    May,
    LoadingLines,
    CasePhotos,
    SymptomList,
    ButtonDirective,
    RouterLink,
    LikelyList,
    ConflictNote,
    Trouble,
    TextField,
    WhatHurts,
    WhereWhen,
    WhichAxis,
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
  protected readonly moment = momentText;
  protected readonly groups = computed(() => {
    const axis = this.context.axis();
    return axis ? symptomGroups(axis.config) : [];
  });
  protected readonly likely = computed(() => {
    const diagnosis = this.store.diagnosis();
    return diagnosis ? likelyViews(diagnosis).slice(0, 5) : null;
  });
  protected readonly nextFor = computed(() => {
    const [diagnosis, next] = [this.store.diagnosis(), this.store.next()];
    return diagnosis && next ? testFor(next, diagnosis.leading) : "";
  });
  protected readonly answered = computed(() => Object.keys(this.store.told().answers).length);
  /** What was told, what is so first. */
  protected readonly told = computed(() => {
    const { answers } = this.store.told();
    const ids = (Object.keys(answers) as FindingId[]).sort((a, b) => Number(answers[b]) - Number(answers[a]));
    return asToggles(ids).map(({ id, label }) => ({ id, text: label }));
  });
  protected readonly saidYes = computed(() => Object.values(this.store.told().answers).filter(Boolean).length);
  /** On a phone everything beside the questions is folded. */
  protected readonly narrow = window.matchMedia("(max-width: 900px)");
  protected readonly earlier = computed(() => (this.store.summaries() ?? []).filter((c) => c.state === "closed"));
  /** What is folded is made when it is opened. */
  protected readonly listed = signal(false);
  protected readonly all = signal(false);
  protected readonly seen = signal<readonly string[] | null>(null);
  /** What a lubrication point opened the case with; what is typed by hand stays where it is typed. */
  protected readonly noted = computed(() => {
    const lines = this.store.open()?.notes.split("\n") ?? [];
    return datesInText(lines.findLast((line) => line.startsWith("From lubrication,")) ?? "");
  });

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
}
