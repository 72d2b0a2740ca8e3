import type { HttpTestingController } from "@angular/common/http/testing";
import type { LubricantRecord } from "@iron/contract";
import { answer, cut, hearNotices, refuse, setUpBed, show } from "../../testing/place";
import { LubricantsPage } from "./lubricants-page";

const one = (over: Partial<LubricantRecord> = {}): LubricantRecord => ({
  id: 1,
  version: 3,
  name: "grease, lithium, NLGI 2",
  kind: "grease",
  thickener: "lithium",
  base: "mineral",
  nlgi: 2,
  viscosity: null,
  containerG: 400,
  leadDays: 7,
  reserveG: 100,
  points: 12,
  stockG: 600,
  countedAt: "2026-03-02T08:00:00Z",
  gramsPerDay: 4,
  daysLeft: 125,
  orderBy: "2126-03-01",
  ...over,
});
const clay = one({ id: 2, name: "grease, clay", thickener: "clay" });

describe("lubricants", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());
  const open = (list = [one(), clay]) => {
    const page = show(LubricantsPage);
    answer(http.expectOne("/api/lubricants"), list);
    return page;
  };

  it("say what is there, how long it lasts and when to order; what should be ordered by now says so", () => {
    const page = open([
      one(),
      one({ id: 3, name: "way oil", daysLeft: 3.7, orderBy: "2020-01-01" }),
      one({ id: 4, name: "idle", daysLeft: null, orderBy: null }),
    ]);
    const row = (name: RegExp) => page.page.getByRole("row", { name }).textContent.replace(/\s+/g, " ");
    expect(row(/^grease, lithium/)).toMatch(/600 g \(1\.5 of 400 g\).*125 days.*1 Mar 2126/);
    expect(row(/^way oil/)).toMatch(/3 days ?now/);
    expect(row(/^idle/)).not.toMatch(/days/);
  });

  it("a figure that cannot be is said beside it and holds the form back, whatever is typed after it", () => {
    const page = open();
    page.press("grease, lithium, NLGI 2");
    page.type("NLGI of a grease", "7");
    page.type("Reserve, g", "50");
    page.press("Keep the lubricant");
    expect(page.alerts()).toBe("“7”: NLGI must be from 0 to 6.");
    page.type("NLGI of a grease", "");
    page.type("A container holds, g", "18000");
    page.press("Keep the lubricant");
    const request = http.expectOne({ url: "/api/lubricants/1", method: "PUT" });
    expect(request.request.body).toMatchObject({ nlgi: null, reserveG: 50, containerG: 18_000, thickener: "lithium" });
    expect(request.request.body).not.toHaveProperty("stockG");
    answer(request, [one({ reserveG: 50 })]);
    expect(page.page.queryByRole("button", { name: "Keep the lubricant" })).toBeNull();
  });

  it("a new one wants a name; what the server refuses leaves the form as typed", () => {
    const page = open([]);
    expect(page.text()).toContain("No lubricant is kept yet.");
    page.press("Add a lubricant");
    page.press("Keep the lubricant");
    expect(page.alerts()).toContain("Name");
    page.type("Name", "chain oil");
    page.choose("Kind", "oil");
    page.choose("Thickener of a grease", "");
    page.choose("Base oil", "ester");
    page.press("Keep the lubricant");
    const request = http.expectOne({ url: "/api/lubricants", method: "POST" });
    expect(request.request.body).toMatchObject({ name: "chain oil", kind: "oil", thickener: null, base: "ester" });
    refuse(request, 409, { detail: "There is a chain oil already." });
    expect([page.alerts(), page.value("Name")]).toEqual(["There is a chain oil already.", "chain oil"]);
  });

  it("what was counted or came in is kept in grams; what is no number is not", () => {
    const said = hearNotices();
    const page = open();
    page.type("Grams of grease, clay", "half");
    page.press("Counted: grease, clay");
    expect(said).toEqual(["“half” is not a number of grams; nothing was kept."]);
    page.type("Grams of grease, clay", "387,5");
    page.press("Come in: grease, clay");
    const request = http.expectOne("/api/lubricants/2/stock");
    expect(request.request.body).toMatchObject({ kind: "in", grams: 387.5 });
    answer(request, [one(), one({ ...clay, stockG: 987.5 })]);
    expect(page.value("Grams of grease, clay")).toBe("");
  });

  it("may they meet? Incompatible ones name what a changeover needs", () => {
    const page = open();
    page.choose("In there now", "1");
    page.choose("To go in", "1");
    expect(page.page.getByRole("status").textContent).toContain("same");
    page.choose("To go in", "2");
    const said = page.page.getByRole("status");
    expect(said.textContent).toMatch(/hickeners lithium and clay: incompatible/);
    expect([said.className, said.querySelectorAll("p").length > 1]).toEqual(["bad", true]);
  });

  it("no server is said, with a way to try again", () => {
    const page = show(LubricantsPage);
    cut(http.expectOne("/api/lubricants"));
    page.press("Try again");
    answer(http.expectOne("/api/lubricants"), [clay]);
    expect(page.text()).toContain("grease, clay");
  });
});
