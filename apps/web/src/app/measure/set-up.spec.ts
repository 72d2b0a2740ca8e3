import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { RunCreate } from "@iron/contract";
import { AXIS_PROVIDERS, openAxis } from "../../testing/axis";
import { answer, refuse, setUpBed, show } from "../../testing/place";
import { Preferences } from "../data/preferences";
import { SetUpTest } from "./set-up";

const LEVER = {
  id: 1,
  name: "Lever",
  kind: "lever",
  resolutionMm: 0.002,
  unit: "mm",
  tipAngleDeg: 12,
  rangeMm: 0.8,
  hysteresisMm: null,
  calibrationMm: null,
  version: 1,
  retiredAt: null,
};
const SCALE = { ...LEVER, id: 2, name: "Scale", kind: "digital", tipAngleDeg: 0, rangeMm: 6000 };

describe("setting a test up on the page", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(...AXIS_PROVIDERS);
  });
  afterEach(() => {
    TestBed.inject(Preferences).system.set("metric");
    http.verify();
  });

  function open(kind: string, indicators: readonly object[] = [LEVER, SCALE]) {
    openAxis(http);
    const page = show(SetUpTest, { kind });
    answer(http.expectOne("/api/indicators"), indicators);
    return page;
  }
  const sent = () => http.expectOne("/api/axes/2/runs");

  it("starts from what is usual, and sends it as it stands", () => {
    const page = open("two-sided");
    page.type("Temperature, °C", "21.5");
    page.press("Begin the test");
    const body = sent().request.body as RunCreate;
    expect(body.plan).toMatchObject({ kind: "two-sided", runs: 5, keepsZero: false });
    expect(body.setup).toMatchObject({
      indicator: { name: "Lever" },
      tipAngleDeg: 12,
      sense: 1,
      surface: "gauge block",
      temperatureC: 21.5,
    });
  });

  it("says at each field what cannot be, with the value and the bound, and sends nothing", () => {
    const page = open("two-sided");
    page.type("Tip angle, °", "85");
    page.type("Temperature, °C", "200");
    page.type("Runs", "2.5");
    page.press("Begin the test");
    expect(page.alerts()).toContain("“85”");
    expect(page.alerts()).toContain("below 80°");
    expect(page.alerts()).toContain("Temperature must be from −20 to 60 °C.");
    expect(page.alerts()).toContain("Runs 2.5 cannot be: it must be a whole number from 1 to 50.");
    http.expectNone("/api/axes/2/runs");
  });

  it("an empty radius of the hub is asked for, not guessed", () => {
    const page = open("coupling-slip");
    page.press("Begin the test");
    expect(page.alerts()).toContain("A number is missing here.");
    page.type(/^Radius where the tip reads/, "20");
    page.press("Begin the test");
    expect((sent().request.body as RunCreate).plan.circumference?.radiusMm).toBe(20);
  });

  it("another indicator brings its own tip; a profile takes the one that reaches", () => {
    const page = open("travel-profile");
    expect(page.value("Tip angle, °")).toBe("0");
    expect(page.text()).toContain("no correction");
    page.choose("Indicator", "1");
    expect(page.value("Tip angle, °")).toBe("12");
    expect(page.text()).toContain("readings × 0.978");
    page.choose("Indicator", "2");
    page.press("Begin the test");
    expect((sent().request.body as RunCreate).setup.surface).toBe("reference scale");
  });

  it("what is typed is only said in other units", () => {
    const page = open("two-sided");
    page.type(/^Place, mm/, "254");
    TestBed.inject(Preferences).system.set("inch");
    TestBed.tick();
    expect(page.value(/^Place, in/)).toBe("10");
    page.press("Begin the test");
    expect((sent().request.body as RunCreate).plan.targetsMm[0]).toBeCloseTo(254, 3);
  });

  it("a refused beginning is said, and can be tried again", () => {
    const page = open("two-sided");
    page.press("Begin the test");
    refuse(sent(), 409, { detail: "Another test is under way on this axis." });
    expect(page.alerts()).toContain("Another test is under way on this axis.");
    page.press("Begin the test");
    sent();
  });

  it("without an indicator nothing can begin, and it says where one is added", () => {
    const page = open("two-sided", []);
    expect(page.text()).toContain("The shop has no indicator yet.");
    expect(page.page.getByRole("button", { name: "Begin the test" }).hasAttribute("disabled")).toBe(true);
  });
});
