import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { Router } from "@angular/router";
import { defaultAxis } from "@iron/core";
import { AXIS_PROVIDERS, openAxis, openCase, takeUpCase } from "../../testing/axis";
import { answer, cut, hearNotices, refuse, setUpBed, show } from "../../testing/place";
import { FixStation } from "./fix-station";

const BOX = {
  ...defaultAxis("vertical-centre", "X"),
  guideway: "box" as const,
};

describe("station Fix", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(...AXIS_PROVIDERS);
  });
  afterEach(() => http.verify());
  const open = (jobs: object[] = []) => {
    openAxis(http, { config: BOX });
    const page = show(FixStation);
    http.match("/api/shop").forEach((r) => r.flush({ currency: "GBP" }));
    answer(http.expectOne("/api/jobs"), jobs);
    return page;
  };

  it("says before anything is opened what it takes, what to have ready and what to beware of", () => {
    const page = open();
    expect(page.page.getByRole<HTMLButtonElement>("button", { name: "Open the job" }).disabled).toBe(true);
    page.tick("Replace fixed-end bearings");
    expect(page.text()).toMatch(/About \d+ h \d+ min/);
    expect(page.text()).toContain("end-bearing set (order)");
    expect(page.text()).toMatch(/parts usually about £\d/);
    page.tick("Replace fixed-end bearings");
    page.tick("Set the gib");
    expect(page.text()).toContain("no parts to buy");
  });

  it("asks for the method only where the work has one, and sends what was chosen", () => {
    const page = open();
    page.tick("Set the gib");
    expect(page.page.queryByLabelText("Bearing preload")).toBeNull();
    page.choose("Gib", "rock");
    page.tick("Replace fixed-end bearings");
    page.choose("Bearing preload", "feel");
    page.choose("Screw in line", "crest");
    page.tick("Far end bearing too");
    const went = jest.spyOn(TestBed.inject(Router), "navigateByUrl").mockResolvedValue(true);
    page.press("Open the job");
    const request = http.expectOne("/api/machines/1/jobs");
    expect(request.request.body).toMatchObject({
      items: [
        { axisId: 2, kind: "fixed-bearings" },
        { axisId: 2, kind: "gib" },
      ],
      options: { gib: "rock", preload: "feel", align: "crest", farEndToo: true },
      caseId: null,
    });
    answer(request, { id: 12 });
    expect(went).toHaveBeenCalledWith("/jobs/12");
  });

  it("a job opened while a case is open belongs to it", () => {
    const page = open();
    takeUpCase(http, openCase());
    page.give({});
    expect(page.text()).toContain("for case 5");
    page.tick("Set the gib");
    page.press("Open the job");
    expect(http.expectOne("/api/machines/1/jobs").request.body).toMatchObject({ caseId: 5 });
  });

  it("what the open case points to is offered, and no longer once it is ticked", () => {
    const page = open();
    takeUpCase(http, openCase(), {
      fits: true,
      leading: [{ cause: { id: "retainer-loose", name: "Bearing retainer or nut loose" }, probability: 0.87 }],
    });
    page.give({});
    expect(page.text()).toContain("Case 5 points to: Bearing retainer or nut loose, 87 %.");
    page.press("Tick: Tighten loose fasteners");
    expect(page.page.getByLabelText<HTMLInputElement>("Tighten loose fasteners").checked).toBe(true);
    expect(page.text()).not.toContain("Case 5 points to");
  });

  it("a case whose readings do not fit together points to no job", () => {
    const page = open();
    takeUpCase(http, openCase(), {
      fits: false,
      leading: [{ cause: { id: "retainer-loose", name: "Bearing retainer or nut loose" }, probability: 0.99 }],
    });
    page.give({});
    expect(page.text()).not.toContain("points to");
  });

  it("what the server refuses is told, and the choice stands", () => {
    const said = hearNotices();
    const page = open();
    page.tick("Set the gib");
    page.press("Open the job");
    refuse(http.expectOne("/api/machines/1/jobs"), 409, { detail: "A job on X is open already: job 4." });
    expect(said).toEqual(["A job on X is open already: job 4."]);
    expect(page.page.getByLabelText<HTMLInputElement>("Set the gib").checked).toBe(true);
  });

  it("jobs of this axis are listed; no server is said, with a way to try again", () => {
    openAxis(http, { config: BOX });
    const page = show(FixStation);
    http.match("/api/shop").forEach((r) => r.flush({ currency: "GBP" }));
    cut(http.expectOne("/api/jobs"));
    page.press("Try again");
    const job = {
      id: 3,
      machineId: 1,
      axisIds: [2],
      title: "Set the gib, X",
      openedAt: "2026-03-02T08:00:00Z",
      finishedAt: null,
      checkOn: null,
      done: 2,
      steps: 19,
    };
    answer(http.expectOne("/api/jobs"), [job, { ...job, id: 4, axisIds: [9], title: "Elsewhere" }]);
    expect(page.text()).toContain("Set the gib, X");
    expect(page.text()).not.toContain("Elsewhere");
  });
});
