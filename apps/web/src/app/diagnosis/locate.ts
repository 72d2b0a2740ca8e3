import { TickBox } from "../shared/tick-box";
import { AddressPipe } from "../data/address.pipe";
import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { deviationUnit, formatDeviation, JOB_OF_CAUSE, locateTest, memberName, UNIT_WORD } from "@iron/core";
import { Preferences } from "../data/preferences";
import { momentWords } from "../shared/words";
import { AxisContext } from "../machine/axis/axis-context";
import { CaseStore } from "./case-store";
import { answerWords, causesOf, ledgerRows, likelyViews, torqueWords } from "./case.view";
import { ConflictNote } from "./conflict-note";
import { LedgerTable } from "./ledger-table";
import { LikelyList } from "./likely-list";
import { RemedyTable } from "./remedy-table";
import { Trouble } from "../shared/trouble";
import { Opens } from "../shared/opens";
import { TextField } from "../shared/fields";

/** Tests shown besides the next one; the others fold away. */
const SHOWN_TESTS = 6;

/** Station Locate: the ledger, the next test that tells most, and the verdict. */
@Component({
  selector: "ip-locate",
  imports: [
    ButtonDirective,
    TickBox,
    AddressPipe,
    RouterLink,
    LikelyList,
    LedgerTable,
    RemedyTable,
    ConflictNote,
    Trouble,
    Opens,
    TextField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./locate.html",
  styleUrl: "./case.css",
})
export class LocateStation {
  protected readonly context = inject(AxisContext);
  protected readonly store = inject(CaseStore);
  protected readonly preferences = inject(Preferences);
  protected readonly closing = signal(false);
  protected readonly found = signal<ReadonlySet<string>>(new Set());
  protected readonly words = signal("");
  protected readonly unit = computed(() => UNIT_WORD[deviationUnit(this.preferences.system())]);
  protected readonly member = computed(() => {
    const axis = this.context.axis();
    return axis ? memberName(axis.config).toLowerCase() : "";
  });
  protected readonly likely = computed(() => {
    const assessment = this.store.assessment();
    return assessment ? likelyViews(assessment) : [];
  });
  protected readonly rows = computed(() => {
    const assessment = this.store.assessment();
    return assessment ? ledgerRows(assessment.ledger, this.preferences.system()) : [];
  });
  protected readonly tests = computed(() => {
    const all = this.store.assessment()?.tests ?? [];
    const worth = all.filter((t) => !t.next && t.value > t.cost);
    return {
      lead: all.filter((t) => t.next),
      worth: worth.slice(0, SHOWN_TESTS),
      rest: [...worth.slice(SHOWN_TESTS), ...all.filter((t) => !t.next && t.value <= t.cost)],
    };
  });
  protected readonly results = computed(() =>
    (this.store.current()?.results ?? [])
      .filter((r) => r.axisId === this.context.axis()?.id)
      .map((r) => ({
        id: r.id,
        withdrawn: r.withdrawn,
        series: r.data?.kind === "series" ? r.data.seriesId : null,
        words: `${locateTest(r.test)?.name ?? r.test}: ${answerWords(r.answers)}.${torqueWords(r.data)}${r.note ? ` ${r.note}` : ""}`,
        when: `${momentWords(r.at)}, ${r.by}`,
      })),
  );
  protected readonly measured = computed(() =>
    (this.store.assessment()?.measured ?? []).map((m) => ({
      path: m.runId === null ? `/jobs/${m.jobId}` : `${this.context.base()}/runs/${m.runId}`,
      words: `${locateTest(m.kind)?.name ?? "Whole chain"}: ${this.loss(m.lostMm, m.expandedMm)} ± ${this.loss(m.expandedMm, m.expandedMm)} ${this.unit()}`,
      when: momentWords(m.at),
    })),
  );
  protected readonly causes = computed(() => {
    const axis = this.context.axis();
    if (!axis) return [];
    const chance = new Map(this.store.assessment()?.leading.map((l) => [l.cause.id, l.probability]));
    return [...causesOf(axis.config)].sort((a, b) => (chance.get(b.id) ?? 0) - (chance.get(a.id) ?? 0));
  });

  /** The likeliest cause that is mended by a job, for the way to Fix. */
  protected readonly jobCause = computed(() => {
    const leading = this.store.assessment()?.leading ?? [];
    return leading.find((l) => l.probability > 0.5 && l.cause.id in JOB_OF_CAUSE)?.cause.id ?? null;
  });

  protected loss(mm: number, u: number): string {
    return formatDeviation(mm, {
      system: this.preferences.system(),
      expandedMm: u,
      bare: true,
    });
  }

  /** Where a test is done: a guided run at the bench, or its own page. */
  protected path(test: { id: string; guided: boolean }): string {
    if (!test.guided) return `${this.context.base()}/locate/${test.id}`;
    const kind = test.id === "whole-chain" ? "two-sided" : test.id;
    return `${this.context.base()}/measure/new/${kind}`;
  }

  protected startClosing(): void {
    const best = this.store.assessment()?.leading ?? [];
    this.found.set(new Set(best.filter((l) => l.probability > 0.9).map((l) => l.cause.id)));
    this.words.set("");
    this.closing.set(true);
  }

  protected toggle(id: string, on: boolean): void {
    const next = new Set(this.found());
    if (on) next.add(id);
    else next.delete(id);
    this.found.set(next);
  }

  protected close(): void {
    this.store.close([...this.found()], this.words(), () => this.closing.set(false));
  }
}
