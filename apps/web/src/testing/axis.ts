import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { defaultAxis, type AxisConfig } from "@iron/core";
import { NOTHING_TOLD, type Answers, type Case } from "@iron/contract";
import { AxisContext } from "../app/machine/axis/axis-context";
import { CaseStore } from "../app/diagnosis/case-store";

/** What an axis’ stations share, for the test bed. */
export const AXIS_PROVIDERS = [AxisContext, CaseStore];

export const CONFIG: AxisConfig = defaultAxis("vertical-centre", "X");

/** Takes machine 1 with its axis 2 into the context, as the frame of the stations does. */
export function openAxis(
  http: HttpTestingController,
  {
    config = CONFIG,
    demo = true,
    history = {},
    others = [],
  }: {
    readonly config?: AxisConfig;
    readonly demo?: boolean;
    readonly history?: object;
    readonly others?: readonly object[];
  } = {},
): void {
  const context = TestBed.inject(AxisContext);
  context.load(1, 2);
  const axis = { id: 2, machineId: 1, version: 1, config, retiredAt: null };
  http.expectOne("/api/axes/2/ledger").flush({ axisId: 2, links: [] });
  http.expectOne("/api/shop").flush({ demo });
  http.expectOne("/api/machines/1").flush({ id: 1, nickname: "Heron", bay: "3", axes: [axis, ...others] });
  http.expectOne("/api/axes/2/history").flush({ runs: [], typed: [], events: [], ...history });
}

/** An open case of that axis. */
export const openCase = (over: Partial<Case> = {}): Case =>
  ({
    id: 5,
    machineId: 1,
    axisIds: [2],
    state: "open",
    version: 1,
    context: {},
    told: {},
    notes: "",
    results: [],
    photos: [],
    openedAt: "2026-03-02T08:00:00Z",
    openedBy: "Ama",
    closedAt: null,
    ...over,
  }) as unknown as Case;

/** What was told of that axis. */
export const toldOf2 = (answers: Answers): Case["told"] => ({ 2: { ...NOTHING_TOLD, answers } });

/** Lets the store take up that case. */
export function takeUpCase(http: HttpTestingController, file: Case, diagnosis: object = {}): void {
  TestBed.inject(CaseStore).load(2);
  http.expectOne("/api/axes/2/cases").flush([{ id: file.id, state: file.state }]);
  http.expectOne(`/api/cases/${file.id}`).flush(file);
  http.match((r) => r.url.includes("/assessment")).forEach((r) => r.flush({ tests: [], leading: [], ...diagnosis }));
  http.match("/api/axes/2/ledger").forEach((r) => r.flush({ axisId: 2, links: [] }));
}
