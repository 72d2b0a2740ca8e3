import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { MessageService } from "primeng/api";
import type { PartOrder, PartRecord, Parts } from "@iron/contract";
import type { Offer } from "../data/notices";
import { answer, cut, refuse, setUpBed, show } from "../../testing/place";
import { PartsPage } from "./parts-page";

const part = (over: Partial<PartRecord> = {}): PartRecord => {
  const name = over.part ?? "drive belt, ratio 2";
  return {
    part: name,
    axes: ["Plover X", "Plover Y"],
    built: 2,
    perYear: 0.4,
    hold: 2,
    stock: 0,
    countedAt: null,
    onOrder: 0,
    order: 2,
    shortChance: 0.01,
    why: "While an order takes its 7 days, one is wanted in 12 of 1,000 cases.",
    terms: { part: name, version: 0, price: 35, leadDays: 7, waitDays: 2, least: 0 },
    usual: true,
    ...over,
  };
};
const order = (over: Partial<PartOrder> = {}): PartOrder => ({
  id: 5,
  part: "brushes",
  count: 2,
  why: "worn to the mark",
  machineId: 3,
  nickname: "Knot",
  pointId: 8,
  state: "wanted",
  at: "2026-03-02T08:00:00Z",
  by: "Kim",
  movedAt: "2026-03-02T08:00:00Z",
  movedBy: "Kim",
  ...over,
});
const all = (parts: PartRecord[] = [part()], orders: PartOrder[] = []): Parts => ({ parts, orders, currency: "EUR" });

describe("spare parts", () => {
  let http: HttpTestingController;
  const offers: Offer[] = [];
  const said: string[] = [];
  beforeEach(() => {
    http = setUpBed();
    offers.length = 0;
    said.length = 0;
    jest.spyOn(TestBed.inject(MessageService), "add").mockImplementation((message) => {
      said.push(message.summary ?? "");
      const { offer } = (message.data ?? {}) as { offer?: Offer };
      if (offer) offers.push(offer);
    });
  });
  afterEach(() => http.verify());
  const open = (parts = all()) => {
    const page = show(PartsPage);
    answer(http.expectOne("/api/parts"), parts);
    return page;
  };

  it("say how many to hold, what is there, and what is on its way; many axes are counted, not named", () => {
    const page = open(
      all([
        part(),
        part({
          part: "V-wheel",
          axes: ["A", "B", "C", "D"],
          built: 16,
          stock: 3,
          countedAt: "2026-03-01T08:00:00Z",
          order: 0,
          onOrder: 4,
        }),
        part({ part: "brushes", axes: [], built: 0, hold: 0, order: 0, why: "" }),
      ]),
    );
    const row = (name: RegExp) => page.page.getByRole("row", { name }).textContent.replace(/\s+/g, " ");
    expect(row(/^drive belt/)).toMatch(/Plover X, Plover Y ?2 ?not counted ?Order 2/);
    expect(row(/^V-wheel/)).toMatch(/4 axes, 16 of them ?2 ?3 ?4 on the way/);
    expect(row(/^brushes/)).toMatch(/no axis here/);
  });

  it("what is wanted goes onto the list, once though the line was cut, and comes off it again by undo", () => {
    const page = open();
    page.press("Order 2");
    page.press("Put it on the list");
    const first = http.expectOne({ url: "/api/part-orders", method: "POST" });
    expect(first.request.body).toMatchObject({ part: "drive belt, ratio 2", count: 2, pointId: null });
    cut(first);
    expect(page.alerts()).not.toBe("");
    page.press("Put it on the list");
    const second = http.expectOne({ url: "/api/part-orders", method: "POST" });
    expect((second.request.body as { key: string }).key).toBe((first.request.body as { key: string }).key);
    answer(second, all([part({ onOrder: 2, order: 0 })], [order({ id: 7, part: "drive belt, ratio 2" })]));
    expect(page.text()).toContain("To be ordered since Mon 2 Mar");
    offers[0].press();
    const back = http.expectOne("/api/part-orders/7/state");
    expect(back.request.body).toMatchObject({ state: "dropped" });
    answer(back, all());
    expect(page.text()).toContain("Nothing is wanted and nothing is on its way.");
  });

  it("the same part ordered again is another order", () => {
    const page = open();
    const keys = [1, 2].map(() => {
      page.press("Order 2");
      page.press("Put it on the list");
      const request = http.expectOne({ url: "/api/part-orders", method: "POST" });
      answer(request, all());
      return (request.request.body as { key: string }).key;
    });
    expect(keys[0]).not.toBe(keys[1]);
  });

  it("changed after a lost answer it is another order, and not taken for the first", () => {
    const page = open();
    page.press("Order 2");
    page.press("Put it on the list");
    const lost = http.expectOne({ url: "/api/part-orders", method: "POST" });
    cut(lost);
    page.type("How many", "3");
    page.press("Put it on the list");
    const next = http.expectOne({ url: "/api/part-orders", method: "POST" });
    expect((next.request.body as { key: string }).key).not.toBe((lost.request.body as { key: string }).key);
    answer(next, all());
  });

  it("what is counted meanwhile empties nothing of the figures that are being typed", () => {
    const page = open();
    page.press("drive belt, ratio 2");
    page.type("Days to arrive", "21");
    page.type("Number of drive belt, ratio 2", "4");
    page.press("Counted: drive belt, ratio 2");
    answer(http.expectOne("/api/parts/count"), all([part({ stock: 4, countedAt: "2026-03-02T08:00:00Z", order: 0 })]));
    expect(page.value("Days to arrive")).toBe("21");
  });

  it("an order that came, or was dropped, can be taken back", () => {
    const page = open(all([part()], [order()]));
    page.press("Has come: brushes");
    const came = http.expectOne("/api/part-orders/5/state");
    expect(came.request.body).toMatchObject({ state: "came" });
    answer(came, all([part()], [order({ state: "came" })]));
    page.press("It has not come: brushes");
    const back = http.expectOne("/api/part-orders/5/state");
    expect(back.request.body).toMatchObject({ state: "ordered" });
    answer(back, all([part()], [order({ state: "ordered" })]));
    expect(page.text()).toContain("2 × brushes for Knot: worn to the mark");
  });

  it("counted is a whole number; another is named and nothing is kept", () => {
    const page = open();
    page.type("Number of drive belt, ratio 2", "1.5");
    page.press("Counted: drive belt, ratio 2");
    expect(said).toEqual(["“1.5” is not a whole number of pieces; nothing was kept."]);
    page.type("Number of drive belt, ratio 2", "4");
    page.press("Counted: drive belt, ratio 2");
    const request = http.expectOne("/api/parts/count");
    expect(request.request.body).toMatchObject({ part: "drive belt, ratio 2", kind: "count", count: 4 });
    answer(request, all([part({ stock: 4, countedAt: "2026-03-02T08:00:00Z", order: 0 })]));
    expect(page.page.queryByRole("button", { name: "Order 2" })).toBeNull();
  });

  it("the shop’s own figures; somebody faster is shown beside one’s own", () => {
    const page = open();
    page.press("drive belt, ratio 2");
    expect(page.text()).toContain("one is wanted in 12 of 1,000 cases");
    page.type("Days to arrive", "400");
    page.press("Keep these figures");
    expect(page.alerts()).toBe("“400”: Days to arrive must be from 0 to 365.");
    page.type("Days to arrive", "21");
    page.press("Keep these figures");
    const request = http.expectOne({ url: "/api/parts/terms", method: "PUT" });
    expect(request.request.body).toEqual({ ...part().terms, leadDays: 21 });
    const theirs = { ...part().terms, version: 1, leadDays: 14 };
    refuse(request, 409, { detail: "Somebody has changed this part meanwhile.", more: { current: theirs } });
    expect(page.text()).toContain("14");
    page.press(/mine/i);
    const mine = http.expectOne({ url: "/api/parts/terms", method: "PUT" });
    expect(mine.request.body).toMatchObject({ version: 1, leadDays: 21 });
    answer(mine, all());
  });

  it("an empty shop is told where parts come from; what cannot be loaded can be asked again", () => {
    expect(open(all([])).text()).toContain("with the first machine its usual spare parts stand here");
    const page = show(PartsPage);
    cut(http.expectOne("/api/parts"));
    page.press("Try again");
    answer(http.expectOne("/api/parts"), all());
    expect(page.page.getByRole("row", { name: /^drive belt/ })).toBeTruthy();
  });
});
