import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { Router } from "@angular/router";
import { readLevels, USUAL_CIRCLE_LIMITS, type LevelsTaken } from "@iron/core";
import type { Geometry } from "@iron/contract";
import { AXES } from "../../testing/circle";
import { answer, cut, refuse, setUpBed, show } from "../../testing/place";
import { Preferences } from "../data/preferences";
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
  const { feet, places } = usualLevels("metric");
  const taken: LevelsTaken & { kind: "levels" } = {
    kind: "levels",
    feet,
    readings: places.map((r) => {
      const shows = r.along === "X" ? mmPerM : 0;
      return { ...r, mmPerM: shows, turnedMmPerM: shows };
    }),
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
    // A level that nobody turned: no foot is turned on what it says.
    const { taken } = levels(0.045);
    const unturned = { ...taken, readings: taken.readings.map((r) => ({ ...r, turnedMmPerM: null })) };
    const doubtful = levelsView([levels(0, { taken: unturned, result: readLevels(unturned) })], "metric");
    expect(doubtful?.headline).toContain("It cannot be told yet");
    expect(doubtful?.feet.join()).toContain("No foot is turned on this");
  });
});

describe("taking levels", () => {
  const open = () => {
    const page = show(LevelsForm, { machineId: "1" });
    answer(http.expectOne("/api/machines/1/geometry"), { square: [], levels: [levels(0.1)] });
    const fill = (name: RegExp, line: number, value: string): HTMLInputElement => {
      const field = page.page.getAllByLabelText<HTMLInputElement>(name)[line];
      field.value = value;
      field.dispatchEvent(new Event("change", { bubbles: true }));
      TestBed.tick();
      return field;
    };
    return { page, fill };
  };
  const sent = () => http.expectOne({ method: "POST", url: "/api/machines/1/geometry" });

  it("what was not read is empty, not level: nothing read is refused, a place left empty is left out", () => {
    const { page, fill } = open();
    expect(page.page.getAllByLabelText<HTMLInputElement>(/^It shows|^turned/).map((f) => f.value)).toEqual(
      Array.from({ length: 8 }, () => ""),
    );
    page.press("Keep the levels");
    expect(page.alerts()).toContain("Lay the level along X and along Y at least.");
    fill(/^It shows/, 1, "0.06");
    fill(/^It shows/, 3, "0.02");
    fill(/^turned/, 3, "0.01");
    page.press("Keep the levels");
    expect(sent().request.body).toMatchObject({
      taken: {
        readings: [
          { along: "X", yMm: 750, mmPerM: 0.06, turnedMmPerM: null },
          { along: "Y", xMm: 1330, mmPerM: 0.02, turnedMmPerM: 0.01 },
        ],
      },
    });
  });

  it("only turned is wrong at its own line; a failure loses nothing", () => {
    const { page, fill } = open();
    const first = fill(/^It shows/, 1, "0.06");
    const third = fill(/^turned/, 2, "0.02");
    page.press("Keep the levels");
    const [, , empty] = page.page.getAllByLabelText<HTMLInputElement>(/^It shows/);
    expect(empty.getAttribute("aria-invalid")).toBe("true");
    expect(third.getAttribute("aria-invalid")).toBeNull();
    fill(/^It shows/, 2, "0.03");
    page.press("Keep the levels");
    refuse(sent(), 422, { detail: "readings along Y is 0: it must be at least 1" });
    expect(page.alerts()).toContain("readings along Y is 0");
    expect(first.value).toBe("0.06");
    const went = jest.spyOn(TestBed.inject(Router), "navigateByUrl").mockResolvedValue(true);
    page.press("Keep the levels");
    answer(sent(), { square: [], levels: [] });
    expect(went).toHaveBeenCalledWith("/machines/1/stands");
  });

  it("feet struck out and added keep names of their own; the last three stay", () => {
    const { page, fill } = open();
    fill(/^It shows/, 0, "0.01");
    fill(/^It shows/, 2, "0.01");
    page.press("Strike out foot 2");
    expect(page.page.getByRole<HTMLButtonElement>("button", { name: "Strike out foot 1" }).disabled).toBe(true);
    page.press("Another foot");
    expect(page.page.getAllByLabelText<HTMLInputElement>("Foot").map((f) => f.value)).toEqual(["1", "3", "4", "2"]);
    page.press("Another foot");
    const last = page.page.getAllByLabelText<HTMLInputElement>("Foot")[4];
    last.value = "1";
    last.dispatchEvent(new Event("input", { bubbles: true }));
    page.press("Keep the levels");
    expect(page.alerts()).toContain("Two feet are called 1");
  });
});

describe("out of square", () => {
  const open = (way: string) => {
    const page = show(SquareForm, { machineId: "1", way });
    answer(http.expectOne("/api/machines/1"), machine);
    return page;
  };

  it("begins with round figures in inches too", () => {
    TestBed.inject(Preferences).system.set("inch");
    for (const way of ["sweep", "diagonals"]) {
      const fields = open(way).page.getAllByLabelText<HTMLInputElement>(/^(±|A division|Place)/);
      expect(fields.length).toBeGreaterThan(0);
      for (const { value } of fields) expect(value).toMatch(/^\d{1,2}(\.\d)?$/);
    }
    TestBed.inject(Preferences).system.set("metric");
  });

  it("by a square sends what was read of both faces, or of one; what was not read is not nothing", () => {
    const page = open("sweep");
    page.press("Keep the readings");
    expect(page.alerts()).toContain("read at two places at least");
    const read = page.page.getAllByLabelText<HTMLInputElement>(/^Reading/);
    for (const [i, um] of [
      [2, "0"],
      [5, "9"],
      [8, "0"],
      [11, "6"],
    ] as const) {
      read[i].value = um;
      read[i].dispatchEvent(new Event("change", { bubbles: true }));
    }
    TestBed.tick();
    page.press("Keep the readings");
    expect(http.expectOne("/api/machines/1/geometry").request.body).toMatchObject({
      taken: {
        kind: "sweep",
        setting: [],
        sweep: [
          { atMm: 0, mm: 0 },
          { atMm: 300, mm: expect.closeTo(0.009, 9) as number },
        ],
        flipped: [{ atMm: 0 }, { atMm: 300, mm: 0.006 }],
      },
    });
  });

  it("by diagonals nothing stands there before it was measured", () => {
    const page = open("diagonals");
    page.press("Keep the readings");
    expect(page.alerts()).toContain("Must be a number.");
    for (const [name, mm] of [
      [/^Side along the first/, "300"],
      [/^Side along the second/, "400"],
      [/^Diagonal from/, "500"],
      [/^The other diagonal/, "499.9"],
    ] as const)
      page.type(name, mm);
    page.press("Keep the readings");
    expect(http.expectOne("/api/machines/1/geometry").request.body).toMatchObject({
      taken: { kind: "diagonals", sidesMm: [300, 400], diagonalsMm: [500, 499.9] },
    });
  });
});
