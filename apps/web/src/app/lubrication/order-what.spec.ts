import type { HttpTestingController } from "@angular/common/http/testing";
import { lubricationPoint } from "../../testing/lubrication";
import { answer, setUpBed, show } from "../../testing/place";
import { OrderWhat } from "./order-what";

const AT = "2026-03-02T08:00:00Z";
const check = {
  name: "brush length",
  unit: "mm",
  least: 6,
  most: null,
  wrong: "worn to the mark",
  answer: "act" as const,
  figure: 5,
  at: AT,
  readings: [],
  boundOn: null,
};

describe("what is to be ordered after a look", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());
  const open = (answered: (typeof check)[]) =>
    show(OrderWhat, { point: lubricationPoint({ id: 8, place: "spindle motor", lastAt: AT, answered }) });

  it("is asked for what somebody has to act on: the part, the place, and what was found", () => {
    const page = open([check]);
    page.press("Order a part for it");
    page.press("Put it on the list");
    const request = http.expectOne({ url: "/api/part-orders", method: "POST" });
    expect(request.request.body).toMatchObject({
      part: "brush, spindle motor",
      why: "brush length 5 mm, worn to the mark",
      pointId: 8,
    });
    answer(request, { parts: [], orders: [], currency: "EUR" });
    expect(page.page.getByRole("link", { name: "what to order" }).getAttribute("href")).toBe("/rounds/parts");
  });

  it("a place that is named by what wears is the part", () => {
    const page = show(OrderWhat, {
      point: lubricationPoint({ place: "spindle brushes", lastAt: AT, answered: [check] }),
    });
    page.press("Order a part for it");
    expect(page.page.getByRole<HTMLInputElement>("textbox", { name: "Part" }).value).toBe("spindle brushes");
  });

  it("is not asked for what was fine, nor for what was found at an earlier visit", () => {
    expect(open([{ ...check, answer: "fine" as never }]).text()).toBe("");
    expect(open([{ ...check, at: "2026-02-02T08:00:00Z" }]).text()).toBe("");
  });
});
