import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { answer, setUpBed, show } from "../../../testing/place";
import { Preferences } from "../../data/preferences";
import { HandTestSetUp, type HandTestExtra } from "./hand-test-set-up";

describe("before a row of readings", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => {
    TestBed.inject(Preferences).system.set("metric");
    http.verify();
  });
  const indicators = [
    {
      id: 1,
      name: "old",
      resolutionMm: 0.05,
      retiredAt: "2026-01-01T00:00:00Z",
    },
    { id: 2, name: "lever", resolutionMm: 0.002, retiredAt: null },
    { id: 3, name: "dial", resolutionMm: 0.01, retiredAt: null },
  ];
  function open(kind: "tram" | "crest-run", known: readonly object[] = indicators) {
    const form = show(HandTestSetUp, { kind, name: "Tram" });
    answer(http.expectOne("/api/indicators"), known);
    const begun: HandTestExtra[] = [];
    form.component.begin.subscribe((extra) => begun.push(extra));
    return { form, begun };
  }

  it("the span of a sweep is asked, never guessed, and refused with its bounds in the reader’s units", () => {
    const { form, begun } = open("tram");
    form.press(/^Begin/);
    expect(form.alerts()).toBe("Say how far was swept: from 20 mm to 3000 mm.");
    form.type("Swept across, mm", "5");
    form.press(/^Begin/);
    expect(form.alerts()).toBe("“5” cannot be: it must be from 20 to 3000 mm.");
    expect(begun).toEqual([]);
    form.type("Swept across, mm", "240");
    form.press(/^Begin/);
    expect(begun).toEqual([{ resolutionMm: 0.002, spanMm: 240, depthMm: 0 }]);
  });

  it("six inches are six inches", () => {
    const { form, begun } = open("tram");
    TestBed.inject(Preferences).system.set("inch");
    TestBed.tick();
    form.type("Swept across, in", "6");
    form.type("Swept in depth, in", "4");
    form.press(/^Begin/);
    expect(begun[0].spanMm).toBeCloseTo(152.4, 9);
    expect(begun[0].depthMm).toBeCloseTo(101.6, 9);
  });

  it("offers the indicators in use, and takes the step of the one that reads", () => {
    const { form, begun } = open("crest-run");
    expect(form.text()).not.toContain("old");
    form.choose("Read with", "3");
    form.press(/^Begin/);
    expect(begun).toEqual([{ resolutionMm: 0.01 }]);
  });

  it("without a noted indicator it begins all the same; the step is then a usual one", () => {
    const { form, begun } = open("crest-run", []);
    expect(form.text()).toContain("an indicator nobody noted");
    form.press(/^Begin/);
    expect(begun).toEqual([{}]);
  });
});
