import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { Router } from "@angular/router";
import { readLevels, USUAL_CIRCLE_LIMITS, type LevelsTaken } from "@iron/core";
import type { Geometry } from "@iron/contract";
import { AXES } from "../../testing/circle";
import { answer, cut, refuse, setUpBed, show } from "../../testing/place";
import { LevelsForm } from "./levels-form";
import { SquareForm } from "./square-form";
import { StandsPage } from "./stands-page";
import { levelsView, pairViews, usualLevels } from "./stands.view";

let http: HttpTestingController;
beforeEach(() => {
  http = setUpBed();
});
afterEach(() => http.verify());

const machine = { id: 1, nickname: "Snipe", axes: AXES };
const record = { at: "2026-03-03T08:00:00Z", by: "Ama", note: "", aside: "" };
const square = (over: Partial<Geometry["square"][number]> = {}): Geometry["square"][number] => ({
  ...record,
  id: 1,
  way: "sweep",
  letters: ["X", "Y"],
  value: 4e-5,
  u: 5e-6,
  ownError: null,
  ...over,
});
function levels(mmPerM: number, over: Partial<Geometry["levels"][number]> = {}): Geometry["levels"][number] {
  const { feet, readings } = usualLevels(1600, 900);
  const taken: LevelsTaken & { kind: "levels" } = {
    kind: "levels",
    feet,
    readings: readings.map((r) => (r.along === "X" ? { ...r, mmPerM, turnedMmPerM: mmPerM } : r)),
    divisionMmPerM: 0.02,
    soft: null,
    pitchMm: 1.5,
  };
  return { ...record, id: 2, taken, result: readLevels(taken), ...over };
}

describe("how a machine stands", () => {
  const open = (stands: Geometry) => {
    const page = show(StandsPage, { machineId: "1" });
    answer(http.expectOne("/api/machines/1"), machine);
    answer(http.expectOne("/api/machines/1/geometry"), stands);
    answer(http.expectOne("/api/machines/1/circles"), { sessions: [], limits: { limits: USUAL_CIRCLE_LIMITS } });
    return page;
  };

  it("with nothing known says how it is told", () => {
    const text = open({ square: [], levels: [] }).text();
    expect(text).toContain("No level has been laid yet.");
    expect(text).toContain("Nothing is known yet. A circle tells it by the way");
  });

  it("says which foot comes up by how much; a reading is set aside with why, and a failure of it is said", () => {
    const page = open({ square: [square()], levels: [levels(0.1)] });
    expect(page.text()).toContain("X plus is high by 0.1000");
    expect(page.text()).toMatch(/Foot 1: up 160\.0 ± \d+(\.\d)? µm, 1\/8 of a turn\./);
    expect(page.text()).toContain("Foot 2 stays");
    page.press("Set aside…");
    page.press("Set it aside");
    expect(page.alerts()).toBe("Say in a word why it is set aside.");
    page.type("Why", "square was dropped");
    page.press("Set it aside");
    refuse(http.expectOne("/api/geometry/1/aside"), 500, { detail: "The disk is full." });
    expect(page.alerts()).toBe("The disk is full.");
    page.press("Set it aside");
    const sent = http.expectOne("/api/geometry/1/aside");
    expect(sent.request.body).toEqual({ reason: "square was dropped" });
    answer(sent, { square: [], levels: [] });
    for (const at of ["/api/machines/1", "/api/machines/1/geometry", "/api/machines/1/circles"]) http.expectOne(at);
  });

  it("a lost connection is said", () => {
    const page = show(StandsPage, { machineId: "1" });
    cut(http.expectOne("/api/machines/1"));
    for (const at of ["/api/machines/1/geometry", "/api/machines/1/circles"]) expect(http.match(at)).toHaveLength(1);
    expect(page.text()).toContain("The server does not answer.");
  });
});

describe("what it says", () => {
  it("ways of one month are joined; those that differ are said; what was set aside counts no more", () => {
    const one = square();
    const circle = square({ id: 9, way: "circle", value: 1.2e-4, u: 8e-6, at: "2026-03-10T08:00:00Z" });
    const [apart] = pairViews([one, circle], USUAL_CIRCLE_LIMITS, "metric");
    expect(apart.differ).toContain("by a square and by a circle do not agree");
    const [alone] = pairViews([{ ...one, aside: "dropped" }, circle], USUAL_CIRCLE_LIMITS, "metric");
    expect(alone.differ).toBe("");
    expect(alone.says).toBe("Y leans towards X plus by 36.0 ± 2.4 µm over 300 mm.");
    const later = { ...circle, at: "2026-09-10T08:00:00Z" };
    expect(pairViews([one, later], USUAL_CIRCLE_LIMITS, "metric")[0].differ).toBe("");
  });

  it("levels say what has moved since, and only then", () => {
    const later = { at: "2026-06-03T08:00:00Z" };
    expect(levelsView([levels(0), levels(0.1, later)], "metric")?.since).toMatch(/it has moved: along X by 0\.1000/);
    expect(levelsView([levels(0.1), levels(0.1, later)], "inch")?.since).toContain("has not moved by more than chance");
    expect(levelsView([levels(0)], "metric")).toMatchObject({ headline: "It stands level.", feet: [] });
    expect(levelsView([], "metric")).toBeNull();
  });
});

describe("taking levels", () => {
  it("begins with what was laid the last time; what is wrong is said at its field, and a failure loses nothing", () => {
    const page = show(LevelsForm, { machineId: "1" });
    answer(http.expectOne("/api/machines/1/geometry"), { square: [], levels: [levels(0.1)] });
    const [first] = page.page.getAllByLabelText<HTMLInputElement>(/^It shows/);
    expect(first.value).toBe("0");
    first.value = "0.06";
    first.dispatchEvent(new Event("change", { bubbles: true }));
    TestBed.tick();
    page.press("Keep the levels");
    const sent = http.expectOne({ method: "POST", url: "/api/machines/1/geometry" });
    expect(sent.request.body).toMatchObject({
      taken: { kind: "levels", soft: null, pitchMm: 1.5, readings: [{ along: "X", mmPerM: 0.06 }, {}, {}, {}] },
    });
    refuse(sent, 422, { detail: "readings along Y is 0: it must be at least 1" });
    expect(page.alerts()).toContain("readings along Y is 0");
    expect(first.value).toBe("0.06");
    const went = jest.spyOn(TestBed.inject(Router), "navigate").mockResolvedValue(true);
    page.press("Keep the levels");
    answer(http.expectOne({ method: "POST", url: "/api/machines/1/geometry" }), { square: [], levels: [] });
    expect(went).toHaveBeenCalledWith(["/machines", "1", "stands"]);
  });
});

describe("out of square", () => {
  const open = (way: string) => {
    const page = show(SquareForm, { machineId: "1", way });
    answer(http.expectOne("/api/machines/1"), machine);
    return page;
  };

  it("by a square sends both faces, or one; by diagonals sides and diagonals", () => {
    const page = open("sweep");
    page.press("Keep the readings");
    expect(http.expectOne("/api/machines/1/geometry").request.body).toMatchObject({
      taken: { kind: "sweep", letters: ["X", "Y"], flipped: [{}, {}, {}, {}] },
    });
    page.tick(/^The square was read on its other face/);
    const second = open("diagonals");
    second.type(/^The other diagonal/, "499.9");
    second.press("Keep the readings");
    expect(http.expectOne("/api/machines/1/geometry").request.body).toMatchObject({
      taken: { kind: "diagonals", sidesMm: [300, 400], diagonalsMm: [500, 499.9] },
    });
  });
});
