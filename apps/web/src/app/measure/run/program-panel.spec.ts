import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { defaultAxis, type TestPlan } from "@iron/core";
import type { Run } from "@iron/contract";
import { setUpBed, show } from "../../../testing/place";
import { AxisContext } from "../../machine/axis/axis-context";
import { ProgramPanel } from "./program-panel";

const plan: TestPlan = {
  kind: "two-sided",
  targetsMm: [180],
  runs: 2,
  overTravelMm: 20,
  tickMm: 0.001,
  ticksOut: 50,
  keepsZero: false,
};
const axisOf = (letter: string, id: number) => ({
  id,
  machineId: 1,
  version: 1,
  config: defaultAxis("vertical-centre", letter),
  retiredAt: null,
});

describe("the test program as it is offered", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(AxisContext);
  });
  afterEach(() => {
    http.verify();
  });
  function open(letter: string) {
    TestBed.inject(AxisContext).load(1, 2);
    http.expectOne("/api/axes/2/ledger").flush({ axisId: 2, links: [] });
    http.expectOne("/api/shop").flush({ demo: true });
    http
      .expectOne("/api/machines/1")
      .flush({ id: 1, nickname: "Heron", bay: "3", axes: ["X", "Y", "Z"].map((l, i) => axisOf(l, i + 2)) });
    http.expectOne("/api/axes/2/history").flush({ runs: [], typed: [], events: [] });
    const run = {
      id: 7,
      plan,
      setup: {},
      readings: [],
      state: "running",
    } as unknown as Run;
    return show(ProgramPanel, {
      run,
      config: defaultAxis("vertical-centre", letter),
      canRun: false,
    });
  }
  const text = (panel: ReturnType<typeof open>): string => panel.page.getByLabelText("Program text").textContent;

  it("lifts the tip by the axis that goes up and down, and stops to be zeroed", () => {
    const program = text(open("X"));
    expect(program).toMatch(/G0 Z20\.000 \(tip clear\)\s+G0 X160\.000 \(past place 1, zero\)/);
    expect(program).toContain("M0 (set the indicator to zero, then start)");
    expect(program).not.toMatch(/G0 X.*\n(?!.*tip clear)G0 X/);
  });

  it("never lifts by the axis under test", () => {
    const program = text(open("Z"));
    expect(program).not.toMatch(/Z20\.000 \(tip clear\)/);
    expect(program).toMatch(/\(tip clear\)/);
  });

  it("proposes round figures in either unit, and turns typed ones over exactly", () => {
    const panel = open("X");
    panel.choose("Units in the program", "inch");
    expect(text(panel)).toMatch(/G0 Z0\.7500? \(tip clear\)/);
    expect(text(panel)).toMatch(/F40(\.0+)?\b/);
    panel.choose("Units in the program", "metric");
    expect(text(panel)).toContain("G0 Z20.000 (tip clear)");
    panel.type("Feed, mm/min", "800");
    panel.choose("Units in the program", "inch");
    expect(text(panel)).toContain("F31.496");
  });

  it.each([
    ["Dwell at each target, s", "0.1", "Dwell is 0.1: it must be from 0.5 to 60 s."],
    ["Z clear, mm", "9000", "Place where the tip is clear, mm, is 9000: it must be from"],
    ["Z where the tip reads, mm", "-9000", "Place where the tip reads, mm, is -9000: it must be from"],
    ["Feed, mm/min", "fast", "“fast”: Not a number; it must be from 1 up to the rapid feed"],
  ])("a %s of %s is refused at its field, and there is no program until it is mended", (label, typed, message) => {
    const panel = open("X");
    const field = panel.page.getByLabelText<HTMLInputElement>(label);
    const before = field.value;
    panel.type(label, typed);
    const told = document.getElementById(field.getAttribute("aria-describedby") ?? "")?.textContent ?? "";
    expect(told).toContain(message);
    // What was typed is named once.
    expect(told.split(typed)).toHaveLength(2);
    expect(panel.page.queryByLabelText("Program text")).toBeNull();
    const download = panel.page.getByRole<HTMLButtonElement>("button", { name: "Download the program" });
    expect(download.disabled).toBe(true);
    panel.type(label, before);
    expect(download.disabled).toBe(false);
    expect(text(panel)).toContain("tip clear");
  });

  it("a length typed in inches is refused in what the bound is in, a time as it is", () => {
    const panel = open("X");
    panel.choose("Units in the program", "inch");
    panel.type("Dwell at each target, s", "0.1");
    expect(panel.alerts()).toBe("Dwell is 0.1: it must be from 0.5 to 60 s.");
    panel.type("Dwell at each target, s", "4");
    panel.type("Z clear, in", "400");
    expect(panel.alerts()).toContain("(that is in millimetres)");
  });
});
