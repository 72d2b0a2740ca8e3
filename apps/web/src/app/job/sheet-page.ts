import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { estimateJob, jobProgress, kitList, stepIn, unitOf, type PlannedStep } from "@iron/core";
import type { Job } from "@iron/contract";
import { Api } from "../data/api";
import { Preferences } from "../data/preferences";
import { saidIn } from "../data/problems";
import { momentText } from "../shared/times.text";
import { minutesText } from "../shared/amount.text";
import { beforeAfter, stepName } from "./job.view";
import { LoadingLines } from "../shared/loading";

/** The sheet on paper: every step with empty boxes, for a shop that works with a pencil. */
@Component({
  selector: "ip-sheet",
  imports: [LoadingLines, ButtonDirective, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./job.css",
  template: `
    @if (view(); as page) {
      <main class="sheet sheet-page">
        <div class="acts no-print">
          <a pButton severity="secondary" [routerLink]="['/jobs', page.job.id]">Back to the job</a>
          <button type="button" pButton (click)="print()">Print</button>
        </div>
        <h1>
          Job {{ page.job.id }} · {{ page.job.nickname }}, bay
          {{ page.job.bay }}
        </h1>
        <p>
          <b>{{ page.job.title }}</b>. Opened {{ page.opened }}, {{ page.job.by }}. {{ page.time }}
        </p>
        @for (one of page.compare; track one.letter) {
          <p>
            Before, {{ one.letter }}: {{ one.message }} After: <span class="line"></span> ± <span class="line"></span>
          </p>
        }
        <p>Done by <span class="line"></span> on <span class="line"></span></p>
        <h2>Have ready</h2>
        <p>
          @for (part of page.kit.parts; track part.name) {
            <span class="box"></span> {{ part.count }} {{ part.name }}{{ part.axes ? " (" + part.axes + ")" : ""
            }}{{ $last ? ". " : ", " }}
          }
          Tools: {{ page.kit.tools.join(", ") }}.
          @for (one of page.kit.special; track one.tool) {
            <span class="box"></span> {{ one.tool }} (or {{ one.standIn }}){{ $last ? ". " : ", " }}
          }
          {{ page.kit.consumables.length ? "Consumables: " + page.kit.consumables.join(", ") + "." : "" }}
        </p>
        <h2>Steps</h2>
        @for (step of page.steps; track step.id; let n = $index) {
          <div class="row">
            <span class="box" aria-hidden="true"></span>
            <div>
              <p>
                <b>{{ n + 1 }}. {{ step.name }}</b>
              </p>
              @if (step.caution) {
                <p><b>Caution:</b> {{ step.caution }}</p>
              }
              <p>{{ step.how }}</p>
              @if (step.torque) {
                <p>{{ step.torque }}</p>
              }
              <p class="quiet">
                Good: {{ step.good }}
                {{ step.ifNot ? "If not: " + step.ifNot : "" }}
              </p>
              @if (step.state) {
                <p class="state">After it: {{ step.state }}</p>
              }
            </div>
            <div>
              @if (step.finds) {
                <p>Found: {{ step.finds }}</p>
              }
              @if (step.reading) {
                <p>{{ step.reading }} <span class="line"></span></p>
              }
              @if (step.keep) {
                <p><span class="box"></span> as it was <span class="box"></span> changed: <span class="line"></span></p>
              }
              @if (step.hold) {
                <p>{{ step.hold }} <span class="line"></span></p>
              }
              @if (step.signed) {
                <p>signed {{ step.signed }}</p>
              }
            </div>
          </div>
        }
        <p class="quiet">
          The machine’s manual and local codes come before this sheet. Electrical cabinets are for qualified people.
        </p>
      </main>
    } @else if (error()) {
      <main class="sheet">
        <div class="bad" role="alert">
          <p>{{ error() }}</p>
          <a pButton severity="secondary" routerLink="/jobs">All jobs</a>
        </div>
      </main>
    } @else {
      <main class="sheet">
        <ip-loading>Loading the sheet…</ip-loading>
      </main>
    }
  `,
})
export class SheetPage {
  readonly jobId = input.required<string>();
  private readonly api = inject(Api);
  private readonly preferences = inject(Preferences);
  protected readonly error = signal("");
  private readonly loaded = signal<Job | null>(null);
  protected readonly view = computed(() => {
    const job = this.loaded();
    if (!job) return null;
    const system = this.preferences.system();
    const progress = jobProgress(job.plan, job.events);
    const estimate = estimateJob(progress.plan);
    const signs = new Map(job.events.flatMap((e) => (e.kind === "sign" ? [[e.step, e] as const] : [])));
    const row = (own: PlannedStep, before: string, done: boolean) => {
      const s = stepIn(own, system);
      const sign = done ? signs.get(s.id) : undefined;
      const unit = s.reading ? unitOf(s.reading.quantity, system) : "";
      return {
        id: `${before} ${s.id}`,
        name: stepName(s),
        caution: s.caution,
        how: s.how.join(" "),
        torque: s.torques.join(" "),
        good: s.good,
        ifNot: s.ifNot,
        state: s.state,
        finds: s.finds.map((f) => f.label).join(" / "),
        reading: s.retest === "chain" ? "Loss ± U" : s.reading ? `${s.reading.label}${unit ? `, ${unit}` : ""}` : "",
        keep: s.keeps !== null,
        hold: s.hold,
        signed: sign ? `${momentText(sign.at)}, ${sign.by}` : "",
      };
    };
    return {
      job,
      opened: momentText(job.openedAt),
      time: `About ${minutesText(estimate.minutes)} (${minutesText(estimate.between[0])} to ${minutesText(estimate.between[1])}).`,
      compare: beforeAfter(job, progress, system),
      kit: kitList(progress.plan),
      steps: [
        ...progress.earlier.map((r, i) => row(r.step, `${i}`, true)),
        ...progress.plan.steps.map((own) => row(own, "", progress.done.has(own.id))),
      ],
    };
  });

  constructor() {
    effect(() => this.load(this.jobId()));
  }

  private load(id: string): void {
    this.api.call("job", { params: { id } }).subscribe({
      next: (job) => this.loaded.set(job),
      error: saidIn(this.error),
    });
  }

  protected print(): void {
    window.print();
  }
}
