import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { AXIS_PROVIDERS, openAxis } from "../../testing/axis";
import { lubricationPoint } from "../../testing/lubrication";
import { answer, cut, setUpBed, show } from "../../testing/place";
import { AxisContext } from "../machine/axis/axis-context";
import { KeepStation } from "./keep-station";

const nut = lubricationPoint({ id: 1, place: "X ball nut", letter: "X", link: "nut", lateDays: 3.4 });
const bearings = lubricationPoint({ id: 2, place: "X end bearings", letter: "X", link: "end-bearings" });
const air = lubricationPoint({ id: 3, place: "air unit", letter: null, link: null });
const other = lubricationPoint({ id: 4, place: "Z ball nut", letter: "Z", link: "nut" });
const gone = lubricationPoint({ id: 5, place: "old cup", letter: "X", link: "way", retired: true });

describe("station Keep", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(...AXIS_PROVIDERS);
  });
  afterEach(() => http.verify());
  const open = (points = [air, nut, other, bearings, gone]) => {
    openAxis(http);
    const page = show(KeepStation);
    answer(http.expectOne("/api/machines/1/lube-points"), points);
    return page;
  };

  it("shows this axis’ points along its chain, then the machine’s own; those of other axes and old ones not", () => {
    const page = open();
    expect(
      page.page
        .getAllByRole("link")
        .map((l) => l.textContent.trim())
        .filter((t) => /nut|bearings|air|cup/.test(t)),
    ).toEqual(["X end bearings", "X ball nut", "air unit"]);
    expect(page.text()).toContain("1 point is late");
    expect(page.text()).toContain("3 days late");
    expect(Object.keys(TestBed.inject(AxisContext).marks())).toEqual(expect.arrayContaining(["nut", "end-bearings"]));
  });

  it("a new machine is led to its usual points; nothing kept is no comfort", () => {
    const page = open([]);
    expect(page.text()).toContain("No point is kept for this machine yet.");
    // Where nothing is kept, “nothing is late” would be no comfort.
    expect(page.text()).toContain("Nothing is kept here yet");
    expect(page.text()).not.toContain("Nothing is late");
    const lead = page.page.getByRole("link", { name: "Add the usual points of this machine" });
    expect(lead.getAttribute("href")).toBe("/machines/1/points");
  });

  it("one that wants more than grease leads to Ask", () => {
    const page = open([{ ...nut, asksCase: "Metal glitter in the old grease.", lastFound: "dirty" }]);
    expect(page.page.getByRole("link", { name: /Metal glitter.*Open a case/ }).getAttribute("href")).toBe(
      "/machines/1/axes/2/ask",
    );
  });

  it("no server is said, with a way to try again", () => {
    openAxis(http);
    const page = show(KeepStation);
    cut(http.expectOne("/api/machines/1/lube-points"));
    page.press("Try again");
    answer(http.expectOne("/api/machines/1/lube-points"), [air]);
    expect(page.text()).toContain("Nothing is late here");
  });
});
