import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { Horizon } from "@iron/contract";
import type { WeekSum } from "@iron/core";
import { answer, cut, setUpBed, show } from "../../testing/place";
import { HalfYear } from "./half-year";
import { HORIZON_WORKER, type HorizonAnswer } from "./horizon-plan";

jest.mock("./make-horizon-worker", () => ({ makeHorizonWorker: null }));

const horizon: Horizon = {
  weeks: [
    { from: "2026-03-02", minutes: 420, shut: [] },
    { from: "2026-03-09", minutes: 60, shut: [] },
  ],
  points: [{ id: 1, machine: 2, bay: "7", minutes: 6, weight: 2, dueDay: 3, intervalDays: 90 }],
};
const week = (over: Partial<WeekSum>): WeekSum =>
  ({ minutes: 6, available: 420, visits: 1, stops: 1, late: 0, early: 0, ...over }) as WeekSum;

/** A worker that answers what the test says. */
class Fake {
  readonly asked: unknown[] = [];
  ended = false;
  onmessage: (event: { data: HorizonAnswer }) => void = () => undefined;
  onerror: (event: { preventDefault: () => void }) => void = () => undefined;
  postMessage(question: unknown): void {
    this.asked.push(question);
  }
  terminate(): void {
    this.ended = true;
  }
  say(data: HorizonAnswer): void {
    this.onmessage({ data });
    TestBed.tick();
  }
}

describe("half a year", () => {
  let http: HttpTestingController;
  let made: Fake[];
  beforeEach(() => {
    made = [];
    const make = () => () => {
      const fake = new Fake();
      made.push(fake);
      return fake as unknown as Worker;
    };
    http = setUpBed({ provide: HORIZON_WORKER, useFactory: make });
  });
  afterEach(() => http.verify());
  const open = (input = horizon) => {
    const page = show(HalfYear);
    answer(http.expectOne("/api/horizon"), input);
    return page;
  };

  it("is planned off the page: how far it is, then week by week, with the weeks that hold too much", () => {
    const page = open();
    expect(made[0].asked).toEqual([horizon]);
    made[0].say({ progress: 0.4 });
    expect(page.text()).toContain("Planning half a year… 40 %");
    made[0].say({
      sums: [week({}), week({ minutes: 75.4, available: 60, late: 1, early: 2 })],
      visits: 9,
      replanned: null,
    });
    expect(page.text()).toContain("1 week holds more than people have");
    expect(
      page.page
        .getByRole("row", { name: /^Mon 9 Mar/ })
        .textContent.replace(/\s+/g, " ")
        .trim(),
    ).toMatch(/75 ?60 ?1 ?1 ?1 ?2$/);
    expect(page.text()).toContain("9 visits. Planned from the beginning.");
  });

  it("says how much was planned anew", () => {
    const page = open();
    const fits = [week({}), week({ available: 60 })];
    made[0].say({ sums: fits, visits: 9, replanned: 0 });
    expect(page.text()).toContain("Half a year fits into the minutes there are");
    expect(page.text()).toContain("Nothing has changed since.");
    made[0].say({ sums: fits, visits: 9, replanned: 1 });
    expect(page.text()).toContain("1 point has changed; the rest keeps its week.");
  });

  it("can be stopped and asked for again", () => {
    const page = open();
    page.press("Stop");
    expect(made[0].ended).toBe(true);
    expect(page.text()).toContain("Nothing is planned.");
    page.press("Plan it");
    answer(http.expectOne("/api/horizon"), horizon);
    expect(made[1].asked).toHaveLength(1);
  });

  it("a worker that breaks down is said, and another one is made", () => {
    const page = open();
    made[0].onerror({ preventDefault: () => undefined });
    TestBed.tick();
    expect(page.alerts()).toContain("The plan could not be made here.");
    page.press("Try again");
    answer(http.expectOne("/api/horizon"), horizon);
    expect([made.length, page.alerts()]).toEqual([2, ""]);
  });

  it("nothing to plan and no server are each said", () => {
    expect(open({ ...horizon, points: [] }).text()).toContain("No lubrication point yet");
    expect(made).toHaveLength(0);
    const page = show(HalfYear);
    cut(http.expectOne("/api/horizon"));
    expect(page.alerts()).not.toBe("");
  });
});
