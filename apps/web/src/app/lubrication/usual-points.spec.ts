import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { Router } from "@angular/router";
import { MessageService } from "primeng/api";
import type { UsualPoint, UsualPoints } from "@iron/contract";
import { defaultAxis } from "@iron/core";
import { lubricationPoint } from "../../testing/lubrication";
import { answer, cut, hearNotices, refuse, setUpBed, show } from "../../testing/place";
import type { Offer } from "../data/notices";
import { UsualPointsPage } from "./usual-points";

const usual = (place: string, over: Partial<UsualPoint> = {}): UsualPoint => ({
  place,
  give: "2 strokes, grease",
  intervalDays: 91,
  plainDays: 182,
  by: "calendar",
  dueOn: "2026-03-02",
  minutes: 5,
  partsNut: false,
  there: false,
  ...over,
});
const MACHINE = {
  id: 9,
  nickname: "Plover",
  bay: "11",
  kind: "vertical-centre",
  axes: [{ id: 22, machineId: 9, retiredAt: null, config: defaultAxis("vertical-centre", "X") }],
};

describe("the usual points of a machine", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    jest.useFakeTimers();
    http = setUpBed();
  });
  afterEach(() => {
    http.verify();
    jest.useRealTimers();
  });
  const open = () => {
    const page = show(UsualPointsPage, { machineId: "9" });
    answer(http.expectOne("/api/machines/9"), MACHINE);
    return page;
  };
  /** What the page asks for once nobody has chosen anything for a moment. */
  const asked = () => {
    jest.advanceTimersByTime(200);
    return http.expectOne("/api/machines/9/lube-points/usual-preview");
  };
  const body = (request: { request: { body: unknown } }) => request.request.body as UsualPoints;
  const ROWS = [
    usual("X ball nut"),
    usual("X wipers and covers", { plainDays: 91 }),
    usual("air unit", { there: true }),
  ];

  it("begins with what is usual for its kind, and shows what each choice does", () => {
    const page = open();
    const first = asked();
    expect(body(first)).toMatchObject({ setUp: { central: "none", nuts: "nipple" }, factors: [], lastDone: null });
    answer(first, ROWS);
    expect(page.text()).toContain("2 points, 10 minutes for all of them once");
    expect(page.text()).toContain("91 days by calendar (else 182)");
    expect(page.text()).toContain("air unit (there already)");
    page.choose("Ball nuts get their grease", "bead");
    page.tick(/^dust, castings/);
    const again = asked();
    expect(body(again)).toMatchObject({ setUp: { nuts: "bead" }, factors: ["dirt"] });
    answer(again, ROWS);
    page.choose("Central system", "ways-and-nuts");
    answer(asked(), ROWS);
    expect(page.text()).not.toContain("Ball nuts get their grease");
    expect(page.text()).not.toContain("Rail carriages");
  });

  it("a known day is asked for before anything is made of it", () => {
    const page = open();
    answer(asked(), ROWS);
    page.choose("Last seen to", "true");
    jest.advanceTimersByTime(500);
    http.expectNone("/api/machines/9/lube-points/usual-preview");
    page.type("On which day", "2026-02-01");
    const known = asked();
    expect(body(known).lastDone).toBe("2026-02-01");
    refuse(known, 422, { detail: "Last done on 2026-02-01 is still to come." });
    expect(page.alerts()).toBe("Last done on 2026-02-01 is still to come.");
  });

  it("keeps those that are ticked, and takes them back", () => {
    const gone: string[] = [];
    jest.spyOn(TestBed.inject(Router), "navigateByUrl").mockImplementation(async (url) => {
      gone.push(url as string);
      return true;
    });
    const offers: Offer[] = [];
    TestBed.inject(MessageService).messageObserver.subscribe((m) => {
      for (const one of Array.isArray(m) ? m : [m]) {
        const { offer } = one.data as { offer?: Offer };
        if (offer) offers.push(offer);
      }
    });
    const page = open();
    answer(asked(), ROWS);
    page.tick("X wipers and covers");
    page.press("Add this point");
    const request = http.expectOne("/api/machines/9/lube-points/usual");
    expect(body(request).leaveOut).toEqual(["X wipers and covers"]);
    cut(request);
    expect(page.alerts()).not.toBe("");
    page.press("Add this point");
    answer(http.expectOne("/api/machines/9/lube-points/usual"), [lubricationPoint({ id: 71, place: "X ball nut" })]);
    expect(gone).toEqual(["/machines/9/axes/22/keep"]);
    offers[0].press();
    const back = http.expectOne("/api/lube-points/71/retire");
    expect(back.request.body).toEqual({ retired: true });
    answer(back, lubricationPoint({ id: 71, retired: true }));
  });

  it("what somebody else has added meanwhile is not said to be one’s own, and cannot be taken back by it", () => {
    jest.spyOn(TestBed.inject(Router), "navigateByUrl").mockResolvedValue(true);
    const said = hearNotices();
    const page = open();
    answer(asked(), ROWS);
    page.press("Add these 2 points");
    answer(http.expectOne("/api/machines/9/lube-points/usual"), []);
    expect(said).toEqual(["Plover has these points already: somebody else has added them."]);
  });

  it("a machine without axes is told to get them first; one that is not there leads to the floor", () => {
    const page = show(UsualPointsPage, { machineId: "9" });
    answer(http.expectOne("/api/machines/9"), { ...MACHINE, axes: [] });
    answer(asked(), [usual("air unit")]);
    expect(page.text()).toContain("This machine has no axis yet.");
    const gone = show(UsualPointsPage, { machineId: "9" });
    refuse(http.expectOne("/api/machines/9"), 404, { detail: "There is no machine 9." });
    expect(gone.page.getByRole("link", { name: "Go to the floor" }).getAttribute("href")).toBe("/floor");
  });
});
