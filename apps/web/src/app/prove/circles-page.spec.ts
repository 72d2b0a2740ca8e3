import { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { Router } from "@angular/router";
import { AXES, circlePlane, circleSession, leaning } from "../../testing/circle";
import { answer, cut, refuse, setUpBed, show } from "../../testing/place";
import { CircleSetUp } from "./circle-setup";
import { CirclesPage } from "./circles-page";
import { MachineStands } from "./machine-stands";

const machine = { id: 1, nickname: "Snipe", axes: AXES };
const read = circlePlane([leaning(1, 0.006), leaning(-1, 0.006)]);

describe("circles of a machine", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());

  const list = (sessions: readonly object[]) => {
    const page = show(CirclesPage, { machineId: "1" });
    answer(http.expectOne("/api/machines/1"), machine);
    answer(http.expectOne("/api/machines/1/circles"), { sessions, limits: circleSession([]).limits });
    return page;
  };

  it("with none says what one is good for", () => {
    expect(list([]).text()).toContain("No circle yet. A quarter of an hour shows");
  });

  it("lists them with what each says", () => {
    const text = list([circleSession([read]), circleSession([read], { id: 6 })]).text();
    expect(text).toContain("X and Y are out of square.");
    expect(text).toContain("What each part has been");
  });

  it("what a part grows by is told once it is more than chance", () => {
    const month = (i: number, lean: number) =>
      circleSession([circlePlane([leaning(1, lean), leaning(-1, lean)])], {
        id: 10 + i,
        startedAt: `2026-0${i + 1}-01T08:00:00Z`,
      });
    const text = list([0, 1, 2, 3].map((i) => month(i, 0.006 + 0.004 * i))).text();
    expect(text).toMatch(/X and Y are out of square.*grows \d+(\.\d+)? ± \d+(\.\d+)? µm over 300 mm a month/);
  });

  it("a session at two feeds calls its planes by both", () => {
    const other = { ...read, plan: { ...read.plan, feedMmMin: 3000 } };
    const text = list([circleSession([read, other])]).text();
    expect(text).toContain("XY 3000 mm/min");
  });

  it("limits are set with why; what cannot be is named and nothing is lost", () => {
    const page = list([]);
    page.press("Set other limits…");
    page.type("leave up to, Out of square", "40");
    page.press("Keep the limits");
    expect(page.alerts()).toContain("40 and 24: both above 0, the second above the first.");
    expect(page.alerts()).toContain("Say in a word why");
    page.type("leave up to, Out of square", "4.5");
    page.type(/^Why:/, "gauges are milled here");
    page.press("Keep the limits");
    const sent = http.expectOne("/api/machines/1/circle-limits");
    expect(sent.request.body).toMatchObject({
      why: "gauges are milled here",
      limits: { square: { leave: expect.closeTo(15e-6, 9) as number, repair: expect.closeTo(80e-6, 9) as number } },
    });
    refuse(sent, 500, { detail: "The disk is full." });
    expect(page.alerts()).toContain("The disk is full.");
    expect(page.value("leave up to, Out of square")).toBe("4.5");
    page.press("Keep the limits");
    answer(http.expectOne("/api/machines/1/circle-limits"), circleSession([]).limits);
    answer(http.expectOne("/api/machines/1"), machine);
    answer(http.expectOne("/api/machines/1/circles"), { sessions: [], limits: circleSession([]).limits });
    expect(page.page.queryByRole("button", { name: "Keep the limits" })).toBeNull();
  });
});

describe("a circle set up", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());

  it("begins with what is usual, names what cannot be, and leads to the session", () => {
    const page = show(CircleSetUp, { machineId: "1" });
    answer(http.expectOne("/api/machines/1"), machine);
    expect(page.value("Radius, mm")).toBe("150");
    expect(page.value("Feed, mm/min")).toBe("1000");
    page.type("Radius, mm", "5");
    page.press("Begin");
    expect(page.alerts()).toContain("Radius must be from 10 to 600 mm.");
    page.type("Radius, mm", "100");
    page.press("Begin");
    const sent = http.expectOne("/api/machines/1/circles");
    expect(sent.request.body).toMatchObject({ plans: [{ letters: ["X", "Y"], radiusMm: 100 }] });
    refuse(sent, 422, { detail: "lowest place of X is −20: it must be within the travel of X." });
    expect(page.alerts()).toContain("lowest place of X");
    const go = jest.spyOn(TestBed.inject(Router), "navigateByUrl").mockResolvedValue(true);
    page.press("Begin");
    answer(http.expectOne("/api/machines/1/circles"), circleSession([]));
    expect(go).toHaveBeenCalledWith("/circles/5");
  });

  it("a machine without two such axes says so", () => {
    const page = show(CircleSetUp, { machineId: "1" });
    answer(http.expectOne("/api/machines/1"), { ...machine, axes: AXES.slice(0, 1) });
    expect(page.text()).toContain("A circle wants two of the axes X, Y and Z");
  });

  it("no plane ticked is said", () => {
    const page = show(CircleSetUp, { machineId: "1" });
    answer(http.expectOne("/api/machines/1"), machine);
    page.tick("X and Y");
    page.press("Begin");
    expect(page.alerts()).toContain("Name at least one plane.");
  });
});

describe("on a machine’s page", () => {
  const http = () => TestBed.inject(HttpTestingController);
  beforeEach(() => setUpBed());

  it("the last circle that was ended and the last levels say how it stands; what cannot be read is said", () => {
    const page = show(MachineStands, { machineId: 1, axes: AXES });
    answer(http().expectOne("/api/machines/1/circles"), {
      sessions: [circleSession([read], { state: "finished" }), circleSession([], { state: "open", id: 8 })],
      limits: circleSession([]).limits,
    });
    answer(http().expectOne("/api/machines/1/geometry"), { square: [], levels: [] });
    expect(page.text()).toContain("X and Y are out of square.");
    const other = show(MachineStands, { machineId: 1, axes: AXES });
    cut(http().expectOne("/api/machines/1/circles"));
    http().match("/api/machines/1/geometry");
    expect(other.text()).toContain("Circles and levels could not be read");
  });
});
