import { TickBox } from "../shared/tick-box";
import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { locateTest, TEST_WORDS, type CaseContext, type FindingId } from "@iron/core";
import type { Answers } from "@iron/contract";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { shrinkPhoto } from "../shared/shrink-photo";
import { problemFrom } from "../data/problems";
import { momentWords } from "../shared/words";
import { AxisContext } from "../machine/axis/axis-context";
import { CaseStore } from "./case-store";
import { CONTEXT_QUESTIONS, likelyViews, symptomGroups } from "./case.view";
import { ConflictNote } from "./conflict-note";
import { GLYPHS } from "./glyphs";
import { LikelyList } from "./likely-list";
import { Triple } from "./triple";
import { type Choice, ChoiceField, NumberField, TextField } from "../shared/fields";
import { Trouble } from "../shared/trouble";
import { ChoicesPipe } from "../shared/choices.pipe";

/** What the server takes at most, bytes. */
const LARGEST_PHOTO = 25e6;

/** Station Ask: what is noticed, since when and after what; kept as it is answered. */
@Component({
  selector: "ip-ask",
  imports: [
    ButtonDirective,
    TickBox,
    RouterLink,
    Triple,
    LikelyList,
    ConflictNote,
    Trouble,
    ChoiceField,
    TextField,
    NumberField,
    ChoicesPipe,
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
  protected readonly glyphs = GLYPHS;
  protected readonly moment = momentWords;
  protected readonly symptoms = computed<readonly Choice<FindingId>[]>(() =>
    this.groups().flatMap((group) => group.symptoms.map(({ id, words }) => ({ id, words }))),
  );
  protected readonly groups = computed(() => {
    const axis = this.context.axis();
    return axis ? symptomGroups(axis.config) : [];
  });
  protected readonly likely = computed(() => {
    const assessment = this.store.assessment();
    return assessment ? likelyViews(assessment).slice(0, 5) : null;
  });
  protected readonly answered = computed(() => Object.keys(this.store.current()?.symptoms ?? {}).length);
  protected readonly earlier = computed(() => (this.store.summaries() ?? []).filter((c) => c.state === "closed"));
  protected readonly seen = signal<readonly string[] | null>(null);
  protected readonly caption = signal("");
  protected readonly photoFinding = signal<FindingId | "">("");
  protected readonly alsoAxes = signal<ReadonlySet<number>>(new Set());
  protected readonly others = computed(() => this.context.axes().filter((a) => a.id !== this.context.axis()?.id));

  /** Measurements and results that a symptom can point to. */
  protected readonly proofs = computed(() => {
    const axisId = this.context.axis()?.id;
    const runs = (this.context.history()?.runs ?? [])
      .filter((r) => r.state === "finished")
      .slice(-12)
      .reverse()
      .map((r) => ({
        ref: `run ${r.id}`,
        words: `${TEST_WORDS[r.kind].name}, ${momentWords(r.at)}`,
      }));
    const results = (this.store.current()?.results ?? [])
      .filter((r) => r.axisId === axisId && !r.withdrawn)
      .map((r) => ({
        ref: `result ${r.id}`,
        words: `${locateTest(r.test)?.name ?? r.test}, ${momentWords(r.at)}`,
      }));
    return [...results, ...runs];
  });

  protected proofPath(ref: string | null): string | null {
    const [kind, id] = (ref ?? "").split(" ");
    if (kind === "run") return `${this.context.base()}/runs/${id}`;
    return kind === "result" ? `${this.context.base()}/locate` : null;
  }

  protected value(id: FindingId): boolean | null {
    return this.store.current()?.symptoms[id] ?? null;
  }

  protected glyph(id: FindingId): string | undefined {
    return this.glyphs[id];
  }

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
      next: ({ answers, words }) => {
        this.seen.set(words);
        this.store.answerAll(answers as Answers);
      },
      error: (error: unknown) => this.notices.wrong(error),
    });
  }

  protected photo(files: FileList | null, caption: string): void {
    const file = files?.[0];
    if (!file) return;
    if (!["image/jpeg", "image/png"].includes(file.type) || file.size > LARGEST_PHOTO) {
      this.notices.wrong(new Error(`${file.name} cannot be used: a photo is a JPEG or PNG of at most 25 MB.`));
      return;
    }
    const finding = this.photoFinding() || null;
    void shrinkPhoto(file).then((small) => this.store.addPhoto(small, caption, finding));
  }

  protected problem(error: unknown): string {
    return problemFrom(error).detail;
  }
}
