import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { Router } from "@angular/router";
import { MessageService } from "primeng/api";
import { lubricationPoint } from "../../testing/lubrication";
import { answer, cut, refuse, setUpBed, show } from "../../testing/place";
import type { Offer } from "../data/notices";
import { PhotoQueue } from "../job/photo-queue";
import { PointPage } from "./point-page";

const point = lubricationPoint({ id: 7, place: "X ball nut", outlets: [], access: "covers back" });

describe("a lubrication point, as its label opens it", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());
  const around = (): void => {
    http.match("/api/lubricants").forEach((r) => r.flush([]));
    http.match("/api/machines/2").forEach((r) => r.flush({ id: 2, nickname: "Godwit", bay: "7", axes: [] }));
    TestBed.tick();
  };
  const open = (over: object = {}) => {
    const page = show(PointPage, { pointId: "7" });
    answer(http.expectOne("/api/lube-points/7"), { ...point, ...over });
    around();
    return page;
  };
  const sent = () => http.expectOne("/api/lube-points/7/visits");

  it("says what to give, when it is due and what to look at", () => {
    const page = open();
    expect(page.text()).toContain("Godwit, bay 7");
    expect(page.text()).toContain("Covers back.");
    expect(page.text()).toContain("Not visited yet.");
  });

  it("a visit by one key can be undone, and the page shows the point as answered", () => {
    const notices: (() => void)[] = [];
    TestBed.inject(MessageService).messageObserver.subscribe((m) => {
      for (const one of Array.isArray(m) ? m : [m]) notices.push((one.data as { offer: Offer }).offer.press);
    });
    const page = open();
    page.press("Dry");
    const request = sent();
    expect(request.request.body).toMatchObject({ found: "dry", dose: point.dose });
    answer(request, { ...point, lastAt: "2026-03-02T08:00:00Z", lastFound: "dry" });
    expect(page.text()).toContain("found dry.");
    notices[0]();
    const undo = sent();
    // That visit and no other: somebody else may have been there since.
    expect(undo.request.body).toMatchObject({ found: null, takesBack: (request.request.body as { key: string }).key });
    answer(undo, point);
    expect(page.text()).toContain("Not visited yet.");
  });

  it("an answer that was under way when a photo was kept does not take the photo away", () => {
    const page = show(PointPage, { pointId: "7" });
    const older = http.expectOne("/api/lube-points/7");
    const photo = { id: 3, caption: "the nipple", of: null, at: "2026-03-02T08:00:00Z", by: "Kim" };
    TestBed.inject(PhotoQueue).taken.set({ ...point, photos: [photo] });
    TestBed.tick();
    answer(older, point);
    around();
    expect(page.page.getByRole("img", { name: "the nipple" })).toBeTruthy();
  });

  it("a photo kept meanwhile empties nothing that is told; a visit that was told does", () => {
    const outlets = ["carriage 1", "carriage 2"];
    const page = open({ outlets });
    page.press("They are not alike: one by one");
    page.choose("carriage 2", "dry");
    page.type("Note", "wiper torn");
    TestBed.inject(PhotoQueue).taken.set({ ...point, outlets: [...outlets], photos: [] });
    TestBed.tick();
    expect(page.text()).toContain("Told: carriage 2 dry.");
    expect(page.value("Note")).toBe("wiper torn");
    page.press("Right");
    const request = sent();
    expect(request.request.body).toMatchObject({ found: "dry", words: "wiper torn" });
    answer(request, { ...point, outlets: [...outlets] });
    expect(page.text()).not.toContain("Told:");
    expect(page.value("Note")).toBe("");
  });

  it("a visit taken while the point is being changed empties nothing of the form", () => {
    const page = open();
    page.press("Change the point");
    page.type("Place", "X ball nut, far side");
    page.press("Right");
    answer(sent(), { ...point, visits: 3 });
    expect(page.value("Place")).toBe("X ball nut, far side");
    page.press("Keep the point");
    const request = http.expectOne({ url: "/api/lube-points/7", method: "PUT" });
    expect(request.request.body).toMatchObject({ place: "X ball nut, far side" });
    refuse(request, 422, { detail: "There is such a place already." });
    expect(page.alerts()).toBe("There is such a place already.");
    expect(page.value("Place")).toBe("X ball nut, far side");
  });

  it("kept no more, it takes no visit till it is kept again", () => {
    const page = open();
    page.press("Keep it no more");
    const request = http.expectOne("/api/lube-points/7/retire");
    expect(request.request.body).toEqual({ retired: true });
    answer(request, { ...point, retired: true });
    expect(page.text()).toContain("This point is kept no more.");
    expect(page.page.queryByRole("button", { name: "Dry" })).toBeNull();
    page.press("Keep it again");
    answer(http.expectOne("/api/lube-points/7/retire"), point);
    expect(page.page.getByRole("button", { name: "Dry" })).toBeTruthy();
  });

  it("one found blocked leads to a case on its axis", () => {
    const page = open({ asksCase: "Blocked: nothing gets through." });
    const went = jest.spyOn(TestBed.inject(Router), "navigateByUrl").mockResolvedValue(true);
    page.press("Open a case on it");
    answer(http.expectOne("/api/lube-points/7/case"), { caseId: 1, machineId: 2, axisId: 4 });
    expect(went).toHaveBeenCalledWith("/machines/2/axes/4/ask");
  });

  it("a new one is made on its machine, and then shown", () => {
    const page = show(PointPage, { pointId: "new", machine: "2" });
    around();
    const went = jest.spyOn(TestBed.inject(Router), "navigateByUrl").mockResolvedValue(true);
    page.type("Place", "Z chain");
    page.type("Lubricant", "chain oil");
    page.press("Keep the point");
    const request = http.expectOne("/api/machines/2/lube-points");
    expect(request.request.body).toMatchObject({ place: "Z chain", lubricant: "chain oil", letter: null });
    answer(request, { ...point, id: 31 });
    expect(went).toHaveBeenCalledWith("/points/31");
  });

  it.each(["There is no lubrication point 7.", "The server does not answer."])(
    "“%s” is said, with a way to try again",
    (words) => {
      const page = show(PointPage, { pointId: "7" });
      const request = http.expectOne("/api/lube-points/7");
      if (words.startsWith("There")) refuse(request, 404, { detail: words });
      else cut(request);
      expect(page.text()).toContain("This point cannot be shown");
      page.press("Try again");
      answer(http.expectOne("/api/lube-points/7"), point);
      around();
      expect(page.text()).toContain("X ball nut");
    },
  );
});
