import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { Router } from "@angular/router";
import type { CaseResult } from "@iron/contract";
import { defaultAxis, type AxisConfig } from "@iron/core";
import { AXIS_PROVIDERS, CONFIG, openAxis, openCase, takeUpCase } from "../../testing/axis";
import { answerIn, answer, cut, hearNotices, setUpBed, show } from "../../testing/place";
import { Preferences } from "../data/preferences";
import { TestForm } from "./test-form";

describe("a test that is looked, listened or felt for", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(...AXIS_PROVIDERS);
  });
  afterEach(() => {
    TestBed.inject(Preferences).system.set("metric");
    http.verify();
  });
  const open = (testId: string, config: AxisConfig = CONFIG, withCase = true) => {
    openAxis(http, { config });
    if (withCase) takeUpCase(http, openCase());
    const form = show(TestForm, { testId });
    // Only a row of readings asks with what it is read.
    for (const asked of http.match("/api/indicators")) answer(asked, []);
    return form;
  };
  const sent = () => http.expectOne("/api/cases/5/results").request.body as CaseResult;
  const says = (place: ReturnType<typeof open>, question: RegExp, key: string) => {
    answerIn(place.page.getAllByRole("group", { name: question })[0], key);
  };

  it("cannot be kept before something is answered; unknown answers are not sent", () => {
    const place = open("far-end");
    const keep = place.page.getByRole<HTMLButtonElement>("button", { name: "Keep the result" });
    expect(keep.disabled).toBe(true);
    says(place, /./, "Yes");
    expect(keep.disabled).toBe(false);
    says(place, /./, "?");
    expect(keep.disabled).toBe(true);
    says(place, /./, "No");
    place.type("Note", "marks in line");
    place.press("Keep the result");
    const body = sent();
    expect(body).toMatchObject({ axisId: 2, note: "marks in line" });
    expect(Object.values(body.answers)).toEqual([false]);
  });

  it("is made where it was noticed too, in the technician’s own units; one that has no place is not", () => {
    TestBed.inject(Preferences).system.set("inch");
    openAxis(http, { config: CONFIG });
    const told = { answers: {}, evidence: {}, allTold: false, place: { kind: "high-end" as const, atMm: null } };
    takeUpCase(http, { ...openCase(), told: { 2: told } });
    const form = show(TestForm, { testId: "rock" });
    for (const asked of http.match("/api/indicators")) answer(asked, []);
    expect(form.text()).toMatch(/Noticed at the high end, about [\d.]+ in: do it there too\./);
    const other = show(TestForm, { testId: "comp-look" });
    expect(other.text()).not.toContain("Noticed");
  });

  it("motor against scale is held against what the axis may lose, and the axis runs in it", () => {
    const scale: AxisConfig = { ...CONFIG, feedback: "scale", limits: { ...CONFIG.limits, leaveMm: 0.012 } };
    const place = open("motor-against-scale", scale);
    expect(place.text()).toContain(`${CONFIG.letter} may lose 12 µm: “yes” is more than that.`);
    expect(place.text()).toContain("The machine runs in this test: guards closed");
    expect(place.text()).toContain("To set, feel or look inside: isolate, lock out");
    says(place, /part by more than may be lost/, "Yes");
    place.press("Keep the result");
    expect(sent()).toMatchObject({ test: "motor-against-scale", answers: { "scale-gap": true } });
    for (const testId of ["control-check", "listen-still"])
      expect(show(TestForm, { testId }).text()).toContain("The machine runs in this test");
    const still = show(TestForm, { testId: "look-over" });
    expect(still.text()).not.toContain("The machine runs in this test");
    expect(still.text()).toContain("Isolate, lock out, prove dead");
  });

  it("a hand push on a gravity axis is refused with its reason", () => {
    const place = open("hand-push", { ...defaultAxis("vertical-centre", "Z") });
    expect(place.alerts()).toMatch(/^Not on this axis: /);
    expect(place.page.queryByRole("button", { name: "Keep the result" })).toBeNull();
  });

  it("an axis that does not move has no answer to a test that needs it to: that is told, and looked for at the control", () => {
    const place = open("load-trace");
    const gone = jest.spyOn(TestBed.inject(Router), "navigateByUrl").mockResolvedValue(true);
    place.press("It does not move");
    expect(gone).toHaveBeenCalledWith("/machines/1/axes/2/locate");
    const kept = http.expectOne({ url: "/api/cases/5", method: "PUT" }).request.body as {
      told: Record<string, unknown>;
    };
    expect(kept.told[2]).toMatchObject({ answers: { "no-motion": true } });
    http.expectNone("/api/cases/5/results");
    expect(show(TestForm, { testId: "look-over" }).page.queryByRole("button", { name: "It does not move" })).toBeNull();
  });

  it("without an open case it says where one is opened; a test that does not exist is said", () => {
    expect(open("far-end", CONFIG, false).text()).toContain("There is no open case on this axis");
    expect(show(TestForm, { testId: "tea-leaves" }).text()).toContain("There is no such test");
  });

  describe("fasteners", () => {
    const first = () => {
      const place = open("fastener-check");
      const list = place.page.getAllByLabelText(/^Torque of /);
      const label = (field: HTMLElement): string => (field as HTMLInputElement).labels?.[0].textContent ?? "";
      return { place, names: list.map((field) => /^Torque of (.*), /.exec(label(field))?.[1] ?? "") };
    };

    it("each is kept with its state and torque; one torque that cannot be holds everything back", () => {
      const { place, names } = first();
      place.choose(names[0], "turned");
      place.choose(names[1], "tight");
      place.type(`Torque of ${names[0]}, N·m`, "2001");
      place.type(`Torque of ${names[1]}, N·m`, "24");
      expect(place.alerts()).toContain("“2001” cannot be: it must be from 0.1 to 2000 N·m.");
      place.press("Keep the result");
      http.expectNone("/api/cases/5/results");
      place.type(`Torque of ${names[0]}, N·m`, "");
      place.press("Keep the result");
      const { data } = sent();
      expect(data).toMatchObject({
        kind: "fasteners",
        found: [
          { name: names[0], state: "turned", torqueNm: null },
          { name: names[1], state: "tight", torqueNm: 24 },
        ],
      });
    });

    it("a torque without what it did to the screw is asked about, and not lost", () => {
      const { place, names } = first();
      place.choose(names[0], "tight");
      place.type(`Torque of ${names[1]}, N·m`, "24");
      expect([place.text().includes("Did it hold or turn at that?"), place.alerts()]).toEqual([true, ""]);
      place.press("Keep the result");
      http.expectNone("/api/cases/5/results");
      expect(place.alerts()).toContain("Did it hold or turn at that?");
      place.choose(names[1], "turned");
      place.press("Keep the result");
      expect(sent().data).toMatchObject({
        found: [
          { name: names[0], state: "tight" },
          { name: names[1], state: "turned", torqueNm: 24 },
        ],
      });
    });

    it("torque is typed in lbf·ft where the reader counts in inches", () => {
      const { place, names } = first();
      TestBed.inject(Preferences).system.set("inch");
      TestBed.tick();
      place.choose(names[0], "turned");
      place.type(`Torque of ${names[0]}, lbf·ft`, "10");
      place.press("Keep the result");
      const { data } = sent();
      const torque = data?.kind === "fasteners" ? data.found[0].torqueNm : null;
      // 1 lbf·ft = 1.3558179483 N·m (NIST SP 811, from memory).
      expect(torque).toBeCloseTo(13.558179483, 6);
      place.type(`Torque of ${names[0]}, lbf·ft`, "0.01");
      expect(place.alerts()).toContain("“0.01” cannot be: it must be from 0.0737");
    });

    it("a wrench on the motor screws alone is a result too, which weighs nothing yet", () => {
      const { place } = first();
      place.choose("Motor screws", "tight");
      place.press("Keep the result");
      expect(sent()).toMatchObject({ answers: {}, data: { found: [{ name: "Motor screws", state: "tight" }] } });
    });

    it("the simulated machine’s finding is shown and taken over", () => {
      const { place } = first();
      place.press("Do it on the simulated machine");
      answer(http.expectOne("/api/axes/2/device/observe"), {
        answers: { "retainer-turns": true },
        shown: ["retainer turned a quarter"],
      });
      expect(place.text()).toContain("Simulated: retainer turned a quarter.");
      place.press("Keep the result");
      expect(sent().answers).toMatchObject({ "retainer-turns": true });
    });
  });

  describe("crests typed as a list", () => {
    const list = (slope: number) => [0, 100, 200, 300, 400].map((x) => `${x}; ${(slope * x) / 1000}; 0`).join("\n");

    it("say the slope in the reader’s units", () => {
      const place = open("crest-run");
      place.type(/^Or type what was read/, list(0.4));
      expect(place.text()).toMatch(/0°: 0\.400\d* ± 0\.0\d+ mm per metre/);
      expect(place.text()).toMatch(/Out of line: 300\.\d* ± \d/);
      TestBed.inject(Preferences).system.set("inch");
      TestBed.tick();
      expect(place.text()).toMatch(/0°: 0\.0048\d* ± 0\.0+[1-9]\d in per foot/);
    });

    it("what cannot be read is no result, not even the one typed before", () => {
      const place = open("crest-run");
      place.type(/^Or type what was read/, list(0.4));
      place.type(/^Or type what was read/, "0; soft; 1");
      expect(place.text()).toContain("soft");
      expect(place.page.getByRole<HTMLButtonElement>("button", { name: "Keep the result" }).disabled).toBe(true);
    });
  });

  it("another test begins with nothing of the one before", () => {
    const place = open("crest-run");
    place.type(/^Or type what was read/, "0; 0; 0\n100; 0.04; 0\n200; 0.08; 0\n300; 0.12; 0");
    place.type("Note", "dirty crest");
    place.give({ testId: "far-end" });
    says(place, /./, "No");
    place.press("Keep the result");
    expect(sent()).toMatchObject({ note: "", data: null });
  });

  it("a load trace that is no CSV is refused line by line", async () => {
    const place = open("load-trace");
    const field = place.page.getByLabelText<HTMLInputElement>(/^Or a CSV file/);
    const file = new File([""], "x.csv");
    Object.defineProperty(file, "text", {
      value: () => Promise.resolve("position_mm,direction,load_percent\n10,sideways,5\n"),
    });
    Object.defineProperty(field, "files", { value: [file] });
    field.dispatchEvent(new Event("change"));
    await Promise.resolve();
    TestBed.tick();
    expect(place.alerts()).toContain("The file cannot be used; nothing was kept.");
    expect(place.alerts()).toContain("Line 2, direction");
  });

  it("no server when the simulated machine is asked is told, and the form stays", () => {
    const said = hearNotices();
    const place = open("far-end");
    place.press("Do it on the simulated machine");
    cut(http.expectOne("/api/axes/2/device/observe"));
    expect(said).toHaveLength(1);
    says(place, /./, "Yes");
  });
});
