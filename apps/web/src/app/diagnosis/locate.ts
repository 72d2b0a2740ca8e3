import { AddressPipe } from "../data/address.pipe";
import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { deviationUnit, JOB_OF_CAUSE, memberName, UNIT_WORD, probable } from "@iron/core";
import { Preferences } from "../data/preferences";
import { AxisContext } from "../machine/axis/axis-context";
import { CaseStore } from "./case-store";
import { ledgerRows, likelyViews, meaningText } from "./case.view";
import { CloseCase } from "./close-case";
import { ResultList } from "./result-list";
import { NextTestPanel } from "./next-test-panel";
import { TestChoices } from "./test-choices";
import { ConflictNote } from "./conflict-note";
import { LedgerTable } from "./ledger-table";
import { LikelyList } from "./likely-list";
import { RemedyTable } from "./remedy-table";
import { Trouble } from "../shared/trouble";
import { LoadingLines } from "../shared/loading";
import { May } from "../shared/may";

/** Station Locate: the ledger, the next test that tells most, and the verdict. */
@Component({
  selector: "ip-locate",
  imports: [
    May,
    LoadingLines,
    ButtonDirective,
    AddressPipe,
    RouterLink,
    LikelyList,
    LedgerTable,
    RemedyTable,
    ConflictNote,
    CloseCase,
    ResultList,
    NextTestPanel,
    TestChoices,
    Trouble,
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
  protected readonly unit = computed(() => UNIT_WORD[deviationUnit(this.preferences.system())]);
  protected readonly member = computed(() => {
    const axis = this.context.axis();
    return axis ? memberName(axis.config).toLowerCase() : "";
  });
  protected readonly likely = computed(() => {
    const diagnosis = this.store.diagnosis();
    return diagnosis ? likelyViews(diagnosis) : [];
  });
  protected readonly rows = computed(() => {
    const diagnosis = this.store.diagnosis();
    return diagnosis ? ledgerRows(diagnosis.ledger, this.preferences.system()) : [];
  });
  protected readonly mindText = computed(() => {
    const mind = this.store.diagnosis()?.mind;
    return mind ? meaningText(mind) : "";
  });
  protected readonly stopText = computed(() => {
    const diagnosis = this.store.diagnosis();
    if (!diagnosis?.fits)
      return "Read again, and still apart: nothing is to be acted on. Compare how the readings were set up, and ask somebody who knows this machine.";
    const named = diagnosis.leading.some((l) => l.probability > diagnosis.noFault);
    return named
      ? "No test here is worth its minutes: the cheapest thing now is to act on the verdict and retest."
      : "No test here is worth its minutes. Nothing found so far wants mending: let the machine run, and look again when something shows.";
  });
  /** The likeliest cause that is mended by a job, for the way to Fix. */
  protected readonly jobCause = computed(() => {
    return probable(this.store.leading().filter((l) => l.cause.id in JOB_OF_CAUSE))?.cause.id ?? null;
  });
}
