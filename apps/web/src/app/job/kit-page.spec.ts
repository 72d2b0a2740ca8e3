import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { DEFAULT_OPTIONS, defaultAxis, planJob } from "@iron/core";
import type { Job, JobAct } from "@iron/contract";
import { answer, cut, setUpBed, show } from "../../testing/place";
import { KitPage } from "./kit-page";
import { kitGroups } from "./kit.view";
import { PHOTO_STORE } from "./photo-queue";

const config = defaultAxis("vertical-centre", "X");
const plan = planJob({
  axes: [{ letter: "X", config }],
  items: [{ letter: "X", kind: "fixed-bearings" }],
  options: DEFAULT_OPTIONS,
});
const job = {
  id: 1,
  machineId: 2,
  nickname: "Heron",
  bay: "3",
  caseId: null,
  title: "Replace fixed-end bearings, X",
  axes: [{ axisId: 2, letter: "X", leaveMm: 0.01, repairMm: 0.025, before: null }],
  plan,
  photos: [],
  events: [],
  openedAt: "2026-03-02T08:00:00Z",
  finishedAt: null,
  checkOn: null,
} as unknown as Job;

describe("the kit of a job", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed({
      provide: PHOTO_STORE,
      useValue: {
        all: () => Promise.resolve([]),
        put: () => Promise.resolve(),
        remove: () => Promise.resolve(),
      },
    });
  });

  function open() {
    const page = show(KitPage, { jobId: "1" });
    answer(http.expectOne("/api/jobs/1"), job);
    for (const url of ["/api/machines/2", "/api/indicators", "/api/axes/2/ledger", "/api/axes/2/history"])
      http.match(url);
    TestBed.tick();
    return page;
  }

  it("is grouped, special tools with what does instead, parts with their number", () => {
    const groups = kitGroups(plan);
    expect(groups.map((g) => g.title)).toEqual([
      "Parts to order",
      "Tools",
      "Special tools, or what does instead",
      "Consumables",
      "To photograph",
    ]);
    const names = groups.flatMap((g) => g.items.map((i) => `${g.title} ${i.name}`));
    expect(new Set(names).size).toBe(names.length);
    const page = open();
    expect(page.text()).toContain("1 × end-bearing set");
    expect(page.text()).toContain("bearing puller two flat bars and jack screws");
  });

  it("what lies ready is ticked at once, sent, and kept while there is no server", () => {
    const page = open();
    page.tick(/1 × end-bearing set/);
    const request = http.expectOne("/api/jobs/1/acts");
    expect(request.request.body as JobAct).toMatchObject({
      kind: "kit",
      item: "end-bearing set",
      on: true,
    });
    const box = page.page.getByLabelText<HTMLInputElement>(/1 × end-bearing set/);
    expect(box.checked).toBe(true);
    cut(request);
    expect(page.text()).toContain("What is ticked is kept in this browser");
    expect(box.checked).toBe(true);
  });
});
