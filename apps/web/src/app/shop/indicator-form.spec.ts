import type { HttpTestingController } from "@angular/common/http/testing";
import type { IndicatorEdit, IndicatorRecord } from "@iron/contract";
import { answer, refuse, setUpBed, show } from "../../testing/place";
import { IndicatorForm } from "./indicator-form";

const lever: IndicatorRecord = {
  id: 3,
  version: 2,
  name: "Lever, 2 µm",
  kind: "lever",
  unit: "mm",
  resolutionMm: 0.002,
  tipAngleDeg: 15,
  rangeMm: 0.4,
  hysteresisMm: 0.003,
  calibrationMm: null,
  retiredAt: null,
};
/** The same in a shop that reads tenths: 0.0001 in are 2.54 µm exactly. */
const tenths: IndicatorRecord = {
  ...lever,
  id: 4,
  unit: "in",
  resolutionMm: 0.00254,
  rangeMm: 0.762,
  hysteresisMm: null,
};

describe("an indicator of the shop", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());
  const open = (start: IndicatorRecord | null) => {
    const kept = jest.fn();
    const page = show(IndicatorForm, { start });
    page.component.kept.subscribe(kept);
    return { ...page, kept };
  };
  const sent = (url: string, method: string) => http.expectOne({ url, method });

  it("shows lengths in the indicator’s own unit and sends millimetres", () => {
    const page = open(tenths);
    expect(page.value(/^Smallest step or division, in/)).toBe("0.0001");
    expect(page.value(/^Reach, in/)).toBe("0.03");
    expect(page.value(/^Hysteresis/)).toBe("");
    page.type(/^Hysteresis/, "0,0002");
    page.press("Keep the indicator");
    const request = sent("/api/indicators/4", "PUT");
    expect(request.request.body).toMatchObject({ version: 2, resolutionMm: 0.00254, rangeMm: 0.762 });
    expect((request.request.body as IndicatorEdit).hysteresisMm).toBeCloseTo(0.00508, 9);
    answer(request, { ...tenths, version: 3 });
    expect(page.kept).toHaveBeenCalled();
  });

  it("the unit that is chosen is the one its fields are read in", () => {
    const page = open(null);
    page.type("Name", "Old plunger");
    page.choose("Its unit", "in");
    page.choose("Kind", "plunger");
    page.type(/^Smallest step or division, in/, "0.001");
    page.type(/^Reach, in/, "1");
    page.press("Keep the indicator");
    const { body } = sent("/api/indicators", "POST").request;
    expect(body).toMatchObject({
      name: "Old plunger",
      unit: "in",
      kind: "plunger",
      rangeMm: 25.4,
      resolutionMm: 0.0254,
    });
  });

  it("left empty, its own errors are not noted; the usual ones are offered, not assumed", () => {
    const page = open({ ...lever, hysteresisMm: null });
    page.press("Keep the indicator");
    const request = sent("/api/indicators/3", "PUT");
    expect(request.request.body).toMatchObject({ hysteresisMm: null, calibrationMm: null });
    answer(request, lever);
    page.press("Take the usual errors of its kind");
    expect(Number(page.value(/^Hysteresis/))).toBeGreaterThan(0);
    expect(Number(page.value(/^Error over a short reach/))).toBeGreaterThan(0);
  });

  it.each([
    [/^Smallest step/, "0", /must be/],
    [/^Smallest step/, "fine", /./],
    [/^Usual tip angle/, "85", /80|79|angle/i],
    ["Name", " ", /Name is empty/],
  ])("%s “%s” is refused at its field, and stays", (label, text, why) => {
    const page = open(lever);
    page.type(label, text);
    page.press("Keep the indicator");
    expect(page.alerts()).toMatch(why);
    expect(page.value(label)).toBe(text);
  });

  it("one that somebody else changed is shown beside, field by field", () => {
    const page = open(lever);
    page.type("Name", "Lever of bay 2");
    page.press("Keep the indicator");
    refuse(sent("/api/indicators/3", "PUT"), 409, {
      detail: "Somebody else has changed this meanwhile.",
      more: { current: { ...lever, version: 5, name: "Lever, old" } },
    });
    expect(page.alerts()).toContain("Lever of bay 2");
    expect(page.alerts()).toContain("Lever, old");
    page.press("Keep mine");
    const again = sent("/api/indicators/3", "PUT");
    expect(again.request.body).toMatchObject({ version: 5, name: "Lever of bay 2" });
    answer(again, { ...lever, version: 6 });
    expect(page.kept).toHaveBeenCalledTimes(1);
  });
});
