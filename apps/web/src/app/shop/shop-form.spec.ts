import type { HttpTestingController } from "@angular/common/http/testing";
import type { Shop } from "@iron/contract";
import { answer, cut, hearNotices, refuse, setUpBed, show } from "../../testing/place";
import { ShopForm } from "./shop-form";

const shop = (over: Partial<Shop> = {}): Shop => ({
  version: 4,
  name: "Harrow Fen Pump Works",
  currency: "EUR",
  people: ["Ama", "Tomas"],
  demo: false,
  ...over,
});

describe("the shop’s own name, currency and people", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());
  const asked = () => http.expectOne({ url: "/api/shop", method: "GET" });
  const put = () => http.expectOne({ url: "/api/shop", method: "PUT" });
  const open = () => {
    const page = show(ShopForm);
    answer(asked(), shop());
    return page;
  };

  it("nothing can be typed before the shop is known: it would be lost under what comes", () => {
    const page = show(ShopForm);
    expect(page.page.queryByLabelText("Name")).toBeNull();
    expect(page.text()).toContain("Looking up the shop.");
    answer(asked(), shop());
    expect(page.value("Name")).toBe("Harrow Fen Pump Works");
    expect(page.text()).not.toContain("Looking up");
  });

  it("is sent as it is meant: people by commas, a currency in capitals, the version it was read at", () => {
    const said = hearNotices();
    const page = open();
    page.type("Currency", " gbp ");
    page.type("Who works here", "Ama,  Tomas ,, Rowan");
    page.press("Keep the shop");
    const request = put();
    expect(request.request.body).toEqual({
      name: "Harrow Fen Pump Works",
      currency: "GBP",
      people: ["Ama", "Tomas", "Rowan"],
      version: 4,
    });
    answer(request, shop({ version: 5 }));
    expect(said).toEqual(["The shop is kept."]);
    page.press("Keep the shop");
    expect((put().request.body as Shop).version).toBe(5);
  });

  it.each([
    ["Name", "", /Name of the shop is empty/],
    ["Currency", "EU", /three capitals/],
  ])("%s “%s” is refused at its field and not sent", (label, text, why) => {
    const page = open();
    page.type(label, text);
    page.press("Keep the shop");
    expect(page.alerts()).toMatch(why);
    expect(page.value(label)).toBe(text);
  });

  it("what somebody else kept meanwhile stands beside, and either can be had", () => {
    const page = open();
    page.type("Name", "Fen Works");
    page.press("Keep the shop");
    refuse(put(), 409, {
      detail: "Somebody else has changed this meanwhile.",
      more: { current: shop({ version: 7, name: "Harrow" }) },
    });
    expect(page.alerts()).toContain("Somebody else has changed this meanwhile.");
    expect(page.alerts()).toContain("Fen Works");
    expect(page.alerts()).not.toContain("EUR");
    page.press("Keep mine");
    const again = put();
    expect(again.request.body).toMatchObject({ version: 7, name: "Fen Works" });
    answer(again, shop({ version: 8, name: "Fen Works" }));
    expect(page.alerts()).toBe("");
  });

  it("theirs is looked up anew when it is taken", () => {
    const page = open();
    page.type("Name", "Fen Works");
    page.press("Keep the shop");
    refuse(put(), 409, { detail: "Changed.", more: { current: shop({ version: 7, name: "Harrow" }) } });
    page.press("Take the kept one");
    answer(asked(), shop({ version: 7, name: "Harrow" }));
    expect(page.value("Name")).toBe("Harrow");
  });

  it("a server that does not answer is said, what is typed stays, and a shop that never came is asked for again", () => {
    const page = open();
    page.type("Name", "Fen Works");
    page.press("Keep the shop");
    cut(put());
    expect(page.alerts()).not.toBe("");
    expect(page.value("Name")).toBe("Fen Works");
    const other = show(ShopForm);
    cut(asked());
    expect(other.page.queryByLabelText("Name")).toBeNull();
    other.press(/again/i);
    answer(asked(), shop());
    expect(other.value("Name")).toBe("Harrow Fen Pump Works");
  });
});
