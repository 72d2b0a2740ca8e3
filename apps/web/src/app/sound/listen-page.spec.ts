import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { Sound } from "@iron/contract";
import { AXIS_PROVIDERS, openAxis } from "../../testing/axis";
import { Subject } from "rxjs";
import { answer, refuse, setUpBed, show } from "../../testing/place";
import { Changes } from "../data/changes";
import { AxisContext } from "../machine/axis/axis-context";
import { ListenPage } from "./listen-page";

const band = { midHz: 1000, movingDb: -40, stillDb: -80, scatterDb: 0.2 };
const sound = (id: number, over: object = {}): Sound =>
  ({
    ...{ id, axisId: 2, state: "kept", source: "file", place: "", ownGain: false, why: "", aside: "", by: "Ada" },
    ...{ bytes: 10, received: 10, seconds: 20, at: "2026-03-02T09:00:00.000Z" },
    plan: { stillS: 4, feedMmMin: 8000, fromMm: 0, strokeMm: 300, passes: 2, dwellS: 0.5 },
    result: {
      ...{ bands: [band], directions: [[band], [band]], ways: 2, orders: [], lines: [], troubles: [] },
      chances: { sound: 0.95, grit: 0.05 },
      timing: { startS: 4, eachS: 3, contrastDb: 20 },
    },
    ...over,
  }) as unknown as Sound;

describe("the page that listens", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(...AXIS_PROVIDERS);
  });
  afterEach(() => {
    http.match((r) => r.url.includes("/beside/") || r.url.includes("/cases"));
    http.match("/api/axes/2/ledger");
    http.verify();
  });
  const open = (inputs = {}) => {
    openAxis(http);
    return show(ListenPage, inputs);
  };

  it("offers recordings of sisters however late they come, by whose they are", () => {
    const page = open();
    answer(http.expectOne("/api/axes/2/sounds"), [sound(3)]);
    expect(page.text()).toContain("Much like an axis with nothing wrong.");
    expect(page.page.queryByText(/Beside another recording/)).toBeNull();
    answer(http.expectOne("/api/axes/2/sister-sounds"), [{ ...sound(9), machine: "Plover", letter: "Z" }]);
    page.choose(/^Beside another recording/, "9");
    http.expectOne("/api/sounds/3/beside/9");
    expect(page.page.getByLabelText("The other recording").getAttribute("src")).toBe("/api/sounds/9/wav");
  });

  it("the address says which one is looked at; without it, it is the newest", () => {
    const page = open({ sound: "3" });
    answer(http.expectOne("/api/axes/2/sounds"), [sound(4), sound(3)]);
    answer(http.expectOne("/api/axes/2/sister-sounds"), []);
    expect(page.page.getByLabelText("The recording").getAttribute("src")).toBe("/api/sounds/3/wav");
    page.give({ sound: undefined });
    expect(page.page.getByLabelText("The recording").getAttribute("src")).toBe("/api/sounds/4/wav");
  });

  it("set aside elsewhere it says so; one recorded elsewhere is in the list and does not take its place", () => {
    const others = new Subject<void>();
    jest.spyOn(TestBed.inject(Changes), "of").mockReturnValue(others);
    const page = open();
    answer(http.expectOne("/api/axes/2/sounds"), [sound(3)]);
    answer(http.expectOne("/api/axes/2/sister-sounds"), []);
    others.next();
    http.match((r) => r.url === "/api/machines/1" || r.url === "/api/axes/2/history");
    answer(http.expectOne("/api/axes/2/sounds"), [sound(4), sound(3)]);
    answer(http.expectOne("/api/axes/2/sister-sounds"), []);
    expect(page.page.getByLabelText("The recording").getAttribute("src")).toBe("/api/sounds/3/wav");
    others.next();
    http.match((r) => r.url === "/api/machines/1" || r.url === "/api/axes/2/history");
    answer(http.expectOne("/api/axes/2/sounds"), [sound(3, { aside: "the door stood open" })]);
    answer(http.expectOne("/api/axes/2/sister-sounds"), []);
    expect(page.text()).toContain("Set aside: the door stood open");
  });

  it("what could not be loaded is said, and loaded again", () => {
    const page = open();
    refuse(http.expectOne("/api/axes/2/sounds"), 500, { detail: "The server has a fault." });
    http.match("/api/axes/2/sister-sounds");
    expect(page.alerts()).toContain("The server has a fault.");
    page.press(/again/i);
    answer(http.expectOne("/api/axes/2/sounds"), []);
    http.match("/api/axes/2/sister-sounds");
    expect(page.text()).toContain("Nothing is recorded of this axis yet.");
  });

  it("set aside, it counts no more in the case either", () => {
    const page = open();
    answer(http.expectOne("/api/axes/2/sounds"), [sound(3)]);
    answer(http.expectOne("/api/axes/2/sister-sounds"), []);
    const changed = jest.fn();
    TestBed.inject(AxisContext).changed.subscribe(changed);
    page.press("Set this recording aside");
    page.type("Why is it set aside?", "a compressor ran");
    page.press("Set it aside");
    answer(http.expectOne("/api/sounds/3/aside"), sound(3, { aside: "a compressor ran" }));
    expect(changed).toHaveBeenCalledTimes(1);
  });

  it("a motor alone is asked for by the address, told how to be run, and says where the noise is", () => {
    const page = open({ motor: "alone" });
    const alone = sound(5, { plan: { ...sound(5).plan, motorAlone: true } });
    answer(http.expectOne("/api/axes/2/sounds"), [alone, sound(3)]);
    answer(http.expectOne("/api/axes/2/sister-sounds"), []);
    expect(page.text()).toContain("Isolated, the motor uncoupled; its key or clamp cannot fly off.");
    expect(page.text()).toContain("then the motor turns as if it drove the axis from");
    expect(page.text()).not.toContain("Keep it as how");
    expect(page.text()).toContain("It is weighed in no case.");
    // Looked at, it is held beside its axis at once.
    page.press(/^5: .*motor alone/);
    const whole = { differenceDb: -14, uDb: 3, waysDb: 0.2, differs: true };
    answer(http.expectOne("/api/sounds/5/beside/3"), { code: "compared", freedom: 6, bands: [], whole, most: null });
    TestBed.tick();
    expect(page.text()).toContain(
      "Much quieter than coupled: what is heard lies behind the coupling, not in the motor.",
    );
  });

  it("one that is kept as how the axis sounds when it is well changes what the others are held beside", () => {
    const page = open();
    answer(http.expectOne("/api/axes/2/sounds"), [sound(3)]);
    answer(http.expectOne("/api/axes/2/sister-sounds"), []);
    page.press(/^Keep it as how . sounds when it is well/);
    const request = http.expectOne("/api/sounds/3/well");
    expect(request.request.body).toEqual({ well: true });
    answer(request, sound(3, { well: true }));
    answer(http.expectOne("/api/axes/2/sounds"), [sound(3, { well: true })]);
    answer(http.expectOne("/api/axes/2/sister-sounds"), []);
    expect(page.text()).toContain("Later recordings at this feed are held beside it.");
    expect(page.page.queryByRole("button", { name: /\(when it was well\)/ })).not.toBeNull();
  });
});
