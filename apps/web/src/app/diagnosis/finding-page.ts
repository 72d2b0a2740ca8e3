import { AddressPipe } from "../data/address.pipe";
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { causeById, finding, memberName, type FindingId } from "@iron/core";
import { NOTHING_TOLD, type Diagnosis, type Case, type MachineWithAxes } from "@iron/contract";
import { forkJoin, switchMap } from "rxjs";
import { Api } from "../data/api";
import { Preferences } from "../data/preferences";
import { saidIn } from "../data/problems";
import { momentText } from "../shared/times.text";
import { lastLoss, ledgerRows, likelyViews } from "./case.view";
import { measuredText, resultText } from "./tested.view";
import { LedgerTable } from "./ledger-table";
import { RemedyTable } from "./remedy-table";
import { StateMark } from "../shared/state-mark";
import { Trouble } from "../shared/trouble";
import { LoadingLines } from "../shared/loading";

interface Page {
  readonly file: Case;
  readonly machine: MachineWithAxes;
  readonly diagnosis: Diagnosis;
}

/** A case on one page, to print and hang at the machine. */
@Component({
  selector: "ip-finding",
  imports: [LoadingLines, ButtonDirective, AddressPipe, RouterLink, LedgerTable, RemedyTable, StateMark, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./finding-page.html",
  styleUrl: "./finding-page.css",
})
export class FindingPage {
  readonly caseId = input.required<string>();
  private readonly api = inject(Api);
  protected readonly preferences = inject(Preferences);
  protected readonly error = signal("");
  protected readonly page = signal<Page | null>(null);
  protected readonly moment = momentText;
  protected readonly view = computed(() => {
    const page = this.page();
    if (!page) return null;
    const { file, machine, diagnosis } = page;
    const system = this.preferences.system();
    const axis = machine.axes.find((a) => a.id === diagnosis.axisId);
    const told = file.told[diagnosis.axisId] ?? NOTHING_TOLD;
    const present = (value: boolean): string[] =>
      Object.entries(told.answers)
        .filter(([, v]) => v === value)
        .map(([id]) => {
          const behind = value ? told.evidence[id as FindingId] : undefined;
          const { text } = finding(id as FindingId);
          return behind?.note ? `${text} (${behind.note})` : text;
        });
    return {
      ...page,
      letter: axis?.config.letter ?? "",
      member: axis ? memberName(axis.config).toLowerCase() : "member",
      noticed: present(true),
      notSo: present(false),
      likely: likelyViews(diagnosis).slice(0, 4),
      rows: ledgerRows(diagnosis.ledger, system),
      last: axis ? lastLoss(diagnosis, axis.config, system) : null,
      tested: [
        ...diagnosis.measured.map((m) => `${momentText(m.at)}: ${measuredText(m, system)}.`),
        ...file.results
          .filter((r) => !r.withdrawn && axis && r.axisId === axis.id)
          .map((r) => `${momentText(r.at)}, ${r.by}: ${axis ? resultText(r, axis.config) : ""}`),
      ],
      found: (file.closed?.found ?? []).map((id) => causeById(id)?.name ?? id),
      base: `/machines/${machine.id}/axes/${diagnosis.axisId}`,
    };
  });

  constructor() {
    effect(() => this.load(this.caseId(), this.preferences.system()));
  }

  protected print(): void {
    window.print();
  }

  protected load(id: string, system = this.preferences.system()): void {
    this.error.set("");
    this.api
      .call("case", { params: { id } })
      .pipe(
        switchMap((file) =>
          forkJoin({
            file: [file],
            machine: this.api.call("machine", { params: { id: file.machineId } }),
            diagnosis: this.api.call("diagnosis", { params: { id }, query: { system } }),
          }),
        ),
      )
      .subscribe({
        next: (page) => this.page.set(page),
        error: saidIn(this.error),
      });
  }
}
