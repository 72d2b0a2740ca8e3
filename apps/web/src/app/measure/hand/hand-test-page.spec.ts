import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { HandTest, HandTestPointCreate } from "@iron/contract";
import { defaultHandTest, handTestSteps, type HandTestKind, type HandTestPlan } from "@iron/core";
import { AXIS_PROVIDERS, CONFIG, openAxis, openCase, takeUpCase } from "../../../testing/axis";
import { answer, cut, hearNotices, refuse, setUpBed, show } from "../../../testing/place";
import { Preferences } from "../../data/preferences";
import { HandTestPage } from "./hand-test-page";

const point = (step: number, value: number | null) => ({
  step,
  value,
  source: "typed" as const,
  at: "2026-03-02T08:00:00Z",
  by: "Ama",
});
const rowOf = (plan: HandTestPlan, values: readonly (number | null)[] = []): HandTest => ({
  id: 7,
  axisId: 2,
  plan,
  state: "running",
  startedAt: "2026-03-02T08:00:00Z",
  by: "Ama",
  points: values.map((v, i) => point(i, v)),
});

describe("a row of readings at the machine", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(...AXIS_PROVIDERS);
  });
  afterEach(() => {
    TestBed.inject(Preferences).system.set("metric");
    http.verify();
  });

  const open = (kind: HandTestKind, values: readonly (number | null)[] = [], before: readonly HandTest[] = []) => {
    const plan = defaultHandTest(CONFIG, kind);
    openAxis(http);
    const place = show(HandTestPage, { seriesId: "7" });
    answer(http.expectOne("/api/series/7"), rowOf(plan, values));
    answer(http.expectOne("/api/axes/2/series"), before);
    return { ...place, plan, keep: (all: readonly (number | null)[]) => rowOf(plan, all) };
  };
  const sent = () => http.expectOne("/api/series/7/points");
  const body = (request: ReturnType<typeof sent>) => request.request.body as HandTestPointCreate;

  it("a typed reading is kept in the core’s unit under a key of its own, and the next place is said", () => {
    const place = open("rock");
    const first = place.page.getByText(/./, { selector: "p.now" }).textContent;
    place.type("Reading, µm", "12,5");
    place.press(/^Take reading/);
    const request = sent();
    expect(body(request)).toMatchObject({ step: 0, entered: "12,5" });
    expect(body(request).value).toBeCloseTo(0.0125, 9);
    expect(body(request).key).toMatch(/^[0-9a-f-]{36}$/);
    answer(request, place.keep([0.0125]));
    expect(place.page.getByText(/./, { selector: "p.now" }).textContent).not.toBe(first);
    expect(place.value("Reading, µm")).toBe("");
    expect(place.page.getByRole("row", { name: /12\.5 µm/ })).toBeTruthy();
  });

  it("in inches it is read and shown in tenths", () => {
    const place = open("rock", [0.00254]);
    TestBed.inject(Preferences).system.set("inch");
    TestBed.tick();
    expect(place.page.getByRole("row", { name: /1\.00 tenths/ })).toBeTruthy();
    place.type("Reading, tenths", "2");
    place.press(/^Take reading/);
    expect(body(sent()).value).toBeCloseTo(0.00508, 9);
  });

  it("what is no number is refused with the unit, and stays to be mended", () => {
    const place = open("rock");
    place.type("Reading, µm", "12..5");
    place.press(/^Take reading/);
    expect(place.alerts()).toContain("“12..5” is not a number. Type the reading in µm");
    expect(place.value("Reading, µm")).toBe("12..5");
  });

  it("without a server the reading stays typed, and can be sent again", () => {
    const said = hearNotices();
    const place = open("rock");
    place.type("Reading, µm", "9");
    place.press(/^Take reading/);
    cut(sent());
    expect(said).toHaveLength(1);
    expect(place.value("Reading, µm")).toBe("9");
    place.press(/^Take reading/);
    answer(sent(), place.keep([0.009]));
    expect(place.page.getByRole("row", { name: /9\.0 µm/ })).toBeTruthy();
  });

  it("the last one can be taken back", () => {
    const place = open("rock", [0.01, 0.012]);
    place.press(/^Take the last back/);
    const request = sent();
    expect(body(request)).toMatchObject({ step: 1, value: null });
    answer(request, place.keep([0.01, null]));
    expect(place.page.queryByRole("row", { name: /12\.0 µm/ })).toBeNull();
  });

  it("a step that is told in words offers its words as keys", () => {
    const place = open("coast");
    place.press(/^runs on by itself/);
    expect(body(sent())).toMatchObject({ step: 0, value: 2, entered: "runs on by itself" });
  });

  it("the simulated machine goes there and reads; where it cannot, that is said", () => {
    const said = hearNotices();
    const place = open("crest-run");
    place.press(/^Go there and read/);
    const request = http.expectOne("/api/series/7/device");
    expect(request.request.body).toEqual({ step: 0 });
    expect(place.text()).toContain("Going there…");
    refuse(request, 409, { detail: "The axis is still moving. Wait until it stands." });
    expect(said).toEqual(["The axis is still moving. Wait until it stands."]);
  });

  it("all readings taken: the verdict stands first, and goes to the open case with a link to its readings", () => {
    const plan = defaultHandTest(CONFIG, "crest-run");
    const place = open(
      "crest-run",
      handTestSteps(plan).map((s) => (s.group === "0°" ? 4e-4 * s.at : 0)),
    );
    takeUpCase(http, openCase());
    TestBed.tick();
    expect(place.page.getByText(/^Out of line: .* at 0° over the screw/).className).toContain("verdict");
    place.press("Keep it in case 5");
    const request = http.expectOne("/api/cases/5/results");
    expect(request.request.body).toMatchObject({
      axisId: 2,
      test: "crest-run",
      answers: { "crest-slope": true, "crest-turn": false },
    });
  });

  it("the datum and the shims in stock are the technician’s own; what is no shim is refused", () => {
    const plan = defaultHandTest(CONFIG, "crest-run");
    const place = open(
      "crest-run",
      handTestSteps(plan).map((s) => (s.group === "0°" ? 4e-4 * s.at : 0)),
    );
    const moved = () => place.page.getByRole("region", { name: "Moves of the supports" }).textContent;
    const bracket = moved();
    place.choose("Stays where it is", "fixed");
    expect(moved()).not.toBe(bracket);
    expect(moved()).toContain("nut bracket");
    place.type(/^Shims in stock/, "0.05; brass");
    expect(place.alerts()).toBe("“brass” is no shim: sizes are above 0 and up to 10.000 mm.");
    place.type(/^Shims in stock/, "0.02; 0.05");
    expect(place.alerts()).toBe("");
    TestBed.inject(Preferences).system.set("inch");
    TestBed.tick();
    expect(place.value(/^Shims in stock/)).toBe("0.000787402; 0.0019685");
  });

  it("a push is judged against the usual pull, typed in the reader’s units and kept through their change", () => {
    const plan = defaultHandTest(CONFIG, "hand-push");
    const place = open(
      "hand-push",
      handTestSteps(plan).map((s) => (s.group === "feel" ? 0 : 60)),
    );
    place.type("Usual pull on this axis, N", "30");
    const tight = place.text();
    expect(tight).toContain("60");
    TestBed.inject(Preferences).system.set("inch");
    TestBed.tick();
    expect(Number(place.value("Usual pull on this axis, lbf"))).toBeCloseTo(30 / 4.4482216, 4);
    place.type("Usual pull on this axis, lbf", "2000");
    expect(place.alerts()).toMatch(/^“2000” cannot be: it must be from 0\.22\d* to 1124\.\d+ lbf\.$/);
  });

  it("a row that is not there is said, with a way back and to try again", () => {
    openAxis(http);
    const place = show(HandTestPage, { seriesId: "7" });
    refuse(http.expectOne("/api/series/7"), 404, { detail: "There is no series 7." });
    expect(place.alerts()).toContain("There is no series 7.");
    place.press("Try again");
    answer(http.expectOne("/api/series/7"), rowOf(defaultHandTest(CONFIG, "rock")));
    answer(http.expectOne("/api/axes/2/series"), []);
    expect(place.value("Reading, µm")).toBe("");
  });
});
