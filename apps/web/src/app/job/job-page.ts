import { AddressPipe } from "../data/address.pipe";
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from "@angular/core";
import { takeUntilDestroyed, toSignal } from "@angular/core/rxjs-interop";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { map, timer } from "rxjs";
import { jobKind, type JobKindId, type SignedStep } from "@iron/core";
import { newKey } from "../data/new-key";
import { ChainStrip } from "../chain/chain-strip";
import { Preferences } from "../data/preferences";
import { dayText } from "../shared/times.text";
import { JobComing } from "./job-coming";
import { JobStore } from "./job-store";
import { kitGroups } from "./kit.view";
import { aheadText, beforeAfter, remarks, openLinks, standText, stepTime } from "./job.view";
import { StepCard } from "./step-card";
import { WholeSheet } from "./whole-sheet";
import { May } from "../shared/may";
import { Single } from "../shared/single";
import { Changes } from "../data/changes";

/** A job at the machine: one step at a time, and beside it where the job stands. */
@Component({
  selector: "ip-job",
  imports: [May, AddressPipe, ButtonDirective, ChainStrip, JobComing, RouterLink, Single, StepCard, WholeSheet],
  providers: [JobStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./job-page.html",
  styleUrl: "./job.css",
})
export class JobPage {
  readonly jobId = input.required<string>();
  protected readonly store = inject(JobStore);
  protected readonly preferences = inject(Preferences);
  protected readonly day = dayText;
  protected readonly step = computed(() => this.store.progress()?.next ?? null);
  protected readonly axis = computed(() => {
    const letter = this.step()?.axis;
    const axes = this.store.axes();
    return axes.find((a) => a.config.letter === letter) ?? (axes.length ? axes[0] : null);
  });
  /** Links of the shown axis that are undone now. */
  protected readonly opened = computed(() => {
    const progress = this.store.progress();
    const letter = this.axis()?.config.letter;
    return progress && letter ? openLinks(progress, letter) : [];
  });
  protected readonly loss = computed(() => {
    const id = this.axis()?.id;
    const before = this.store.job()?.axes.find((a) => a.axisId === id)?.before;
    return before ?? null;
  });
  protected readonly anew = computed(() =>
    (this.store.job()?.events ?? []).flatMap((e) => (e.kind === "plan" ? [e.why] : [])),
  );
  /** What the first check looks at, as the sheet says it. */
  protected readonly firstCheck = computed(() => {
    const steps = this.store.progress()?.plan.steps ?? [];
    const last = steps.find((s) => s.id === "sign-off")?.how.at(-1) ?? "";
    return last.replace(/^In a week: /, "");
  });
  protected readonly ahead = computed(() => {
    const progress = this.store.progress();
    return progress ? aheadText(progress) : "";
  });
  protected readonly stand = computed(() => {
    const progress = this.store.progress();
    return progress ? standText(progress) : [];
  });
  protected readonly compare = computed(() => {
    const [job, progress] = [this.store.job(), this.store.progress()];
    return job && progress ? beforeAfter(job, progress, this.preferences.system()) : [];
  });
  private readonly clock = toSignal(timer(0, 20_000).pipe(map(() => Date.now())), { initialValue: Date.now() });
  protected readonly time = computed(() => {
    const job = this.store.job();
    return job && !job.finishedAt ? stepTime(job, Math.max(this.clock(), Date.now())) : "";
  });
  protected readonly remarks = computed(() => {
    const progress = this.store.progress();
    return progress ? remarks(progress) : [];
  });
  protected readonly kit = computed(() => {
    const progress = this.store.progress();
    return progress ? kitGroups(progress.plan) : null;
  });
  /** "12 of 31 lie ready." */
  protected readonly kitReady = computed(() => {
    const items = (this.kit() ?? []).flatMap((g) => g.items);
    const ready = this.store.progress()?.ready;
    const count = items.filter((i) => ready?.has(i.name)).length;
    return count === items.length ? "everything lies ready." : `${count} of ${items.length} lie ready.`;
  });
  protected readonly last = computed(() => {
    const progress = this.store.progress();
    const last = progress?.signed.at(-1);
    return last && progress?.done.has(last.step) && !progress.finished ? last : null;
  });
  /** Something found at the step signed last that may be all that is wrong. */
  protected readonly offersStop = computed(() => {
    const last = this.last();
    const step = this.store.progress()?.plan.steps.find((s) => s.id === last?.step);
    const find = step?.finds.find((f) => f.id === last?.found);
    return step && find?.offersStop ? { letter: step.axis ?? "", say: find.say ?? "", title: step.title } : null;
  });
  /** Work that what was found last asks for besides. */
  protected readonly offersMore = computed(() => {
    const last = this.last();
    const step = this.store.progress()?.plan.steps.find((s) => s.id === last?.step);
    const find = step?.finds.find((f) => f.id === last?.found);
    return step?.axis && find?.offers
      ? { letter: step.axis, job: find.offers, name: jobKind(find.offers).name, say: find.say ?? "" }
      : null;
  });
  constructor() {
    effect(() => {
      const id = Number(this.jobId());
      untracked(() => this.store.load(id));
    });
    inject(Changes)
      .of("jobs")
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.store.look());
    // A retest is taken on another page: look for it whenever the step is shown.
    effect(() => {
      const retest = this.step()?.retest;
      if (retest === "chain") untracked(() => this.store.loadRuns());
      if (retest === "circle") untracked(() => this.store.loadCircles());
    });
  }

  protected sign(draft: SignedStep): void {
    this.store.act({ kind: "sign", ...draft, key: newKey(), system: this.preferences.system() });
  }

  protected undo(step: string): void {
    this.store.act({ kind: "undo", step, key: newKey() });
  }

  protected stopHere(letter: string): void {
    this.store.act({ kind: "stop-here", letter, key: newKey() });
  }

  protected addWork(letter: string, job: JobKindId): void {
    this.store.act({ kind: "add-work", letter, job, key: newKey() });
  }
}
