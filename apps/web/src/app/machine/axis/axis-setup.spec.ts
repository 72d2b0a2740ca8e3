import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { AXIS_PROVIDERS, CONFIG, openAxis } from "../../../testing/axis";
import { answer, hearNotices, refuse, setUpBed, show } from "../../../testing/place";
import { Preferences } from "../../data/preferences";
import { AxisSetup } from "./axis-setup";

const axis = (over: object = {}) => ({ id: 2, machineId: 1, version: 1, config: CONFIG, retiredAt: null, ...over });

describe("the data of an axis", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(...AXIS_PROVIDERS);
  });
  afterEach(() => {
    TestBed.inject(Preferences).system.set("metric");
    http.verify();
  });
  const open = () => {
    openAxis(http);
    const page = show(AxisSetup);
    answer(http.expectOne("/api/shop"), { currency: "GBP" });
    return page;
  };
  /** The context reads the machine again. */
  const again = (over: object = {}): void => {
    answer(http.expectOne("/api/machines/1"), { id: 1, nickname: "Heron", bay: "3", axes: [axis(over)] });
    answer(http.expectOne("/api/axes/2/history"), {
      runs: [],
      typed: [],
      events: [],
    });
    http.match("/api/axes/2/ledger").forEach((r) => r.flush({ axisId: 2, links: [] }));
    TestBed.tick();
  };
  const put = () => http.expectOne({ url: "/api/axes/2", method: "PUT" });
  const lead = /^Lead/;

  it("what is typed is kept by version, and the notice takes it back", () => {
    const said = hearNotices();
    const page = open();
    page.type(lead, "5");
    page.press(/^Keep/);
    const request = put();
    expect(request.request.body).toMatchObject({ version: 1, config: { screw: { leadMm: 5 } } });
    const kept = { ...CONFIG, screw: { ...CONFIG.screw, leadMm: 5 } };
    answer(request, axis({ version: 2, config: kept }));
    again({ version: 2, config: kept });
    expect(said).toEqual(["Axis data kept."]);
    expect(page.value(lead)).toBe("5");
  });

  it("a price nobody noted is shown as usual for the size, kept when typed, usual again when emptied", () => {
    const page = open();
    const set = /^End-bearing set/;
    const placeholder = (): string => page.page.getByLabelText<HTMLInputElement>(set).placeholder;
    expect(placeholder()).toBe("usual: about 350");
    page.type(/^Root diameter/, "13");
    page.type(/^Nominal diameter/, "16");
    expect(placeholder()).toMatch(/^usual: about 1\d\d$/);
    page.type(set, "410");
    page.press(/^Keep/);
    const first = put();
    expect(first.request.body).toMatchObject({
      config: { costs: { bearingSet: 410, screw: null } },
    });
    refuse(first, 500, { detail: "Something went wrong." });
    page.type(set, "");
    page.press(/^Keep/);
    const second = put();
    expect(second.request.body).toMatchObject({
      config: { costs: { bearingSet: null } },
    });
    refuse(second, 500, { detail: "Something went wrong." });
  });

  it("retiring the axis meanwhile empties nothing that is being typed", () => {
    const page = open();
    page.type(lead, "5");
    page.press(/^Retire/);
    answer(http.expectOne("/api/axes/2/retire"), axis({ retiredAt: "2026-03-02T08:00:00Z" }));
    again({ retiredAt: "2026-03-02T08:00:00Z" });
    expect(page.value(lead)).toBe("5");
  });

  it("what cannot be is named with its bound, and nothing goes out", () => {
    const page = open();
    page.type(lead, "0");
    expect(page.text()).toContain("Lead 0 mm cannot be");
    page.press(/^Keep/);
    http.expectNone({ url: "/api/axes/2", method: "PUT" });
  });

  it("half a number is said in the other units when they change, not lost", () => {
    const page = open();
    page.type(lead, "25.4");
    TestBed.inject(Preferences).system.set("inch");
    TestBed.tick();
    expect(Number(page.value(lead))).toBeCloseTo(1, 6);
  });

  it("two people: both are shown; mine goes over theirs, or theirs is taken", () => {
    const page = open();
    page.type(lead, "5");
    page.press(/^Keep/);
    const theirs = axis({ version: 4, config: { ...CONFIG, screw: { ...CONFIG.screw, leadMm: 8 } } });
    refuse(put(), 409, { detail: "Somebody else has changed this axis.", more: { current: theirs } });
    expect(page.alerts() + page.text()).toContain("Somebody else has changed this axis.");
    expect(page.value(lead)).toBe("5");
    page.press(/mine/i);
    expect(put().request.body).toMatchObject({ version: 4, config: { screw: { leadMm: 5 } } });
  });
});
