import type { HttpTestingController } from "@angular/common/http/testing";
import { dayOf } from "@iron/core";
import { lubricationPoint, roundsOf } from "../../testing/lubrication";
import { answer, cut, refuse, setUpBed, show } from "../../testing/place";
import { PaperEntry } from "./paper-entry";

const points = [
  lubricationPoint({ id: 1, place: "X ball nut", dose: 2 }),
  lubricationPoint({ id: 2, place: "Y ways", dose: 5 }),
  lubricationPoint({ id: 3, place: "Z carriages", dose: 4 }),
];

describe("a paper round typed in", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());
  const open = (list = points) => {
    const page = show(PaperEntry);
    answer(http.expectOne("/api/rounds"), roundsOf(list));
    return page;
  };
  const at = (place: string) => `Found at Godwit, ${place}`;
  const sent = (id: number) => http.expectOne(`/api/lube-points/${id}/visits`);

  it("a letter a point; what was left empty was not done; all go under the day they were walked", () => {
    const page = open();
    expect(page.value("Walked on")).toBe(dayOf(new Date()));
    page.type("Walked on", "2026-03-01");
    page.type(at("X ball nut"), "d");
    page.type(at("Z carriages"), "F");
    expect(page.text()).toContain("dry");
    page.press("Keep 2 visits");
    const first = sent(1);
    expect(first.request.body).toMatchObject({ found: "dry", dose: 2, date: "2026-03-01" });
    answer(first, points[0]);
    const second = sent(3);
    expect(second.request.body).toMatchObject({ found: "flooded", dose: 0, date: "2026-03-01" });
    answer(second, points[2]);
    expect(page.text()).toContain("2 visits kept.");
    expect(page.page.queryByLabelText(at("X ball nut"))).toBeNull();
    expect(page.value(at("Y ways"))).toBe("");
  });

  it("what else stands on the paper goes in under More, under its day; the letters of the others stay", () => {
    const outlets = ["carriage 1", "carriage 2"];
    const page = open([points[0], lubricationPoint({ id: 4, place: "X rail carriages", dose: 2, outlets })]);
    page.type("Walked on", "2026-03-01");
    page.type(at("X ball nut"), "d");
    page.press("More of Godwit, X rail carriages");
    page.press("They are not alike: one by one");
    page.choose("carriage 1", "dry");
    page.choose("carriage 2", "flooded");
    // There are no others left for a key to speak of.
    page.press("Keep what was told");
    const request = sent(4);
    expect(request.request.body).toMatchObject({
      found: "dry",
      dose: 1,
      date: "2026-03-01",
      places: [
        { name: "carriage 1", found: "dry", dose: 1 },
        { name: "carriage 2", found: "flooded", dose: 0 },
      ],
    });
    answer(request, points[0]);
    expect(page.page.queryByLabelText(at("X rail carriages"))).toBeNull();
    expect(page.value(at("X ball nut"))).toBe("d");
    expect(page.page.queryByRole("button", { name: /^More of/ })).toBeNull();
  });

  it("a letter that means nothing is named, and taken out", () => {
    const page = open();
    page.type(at("X ball nut"), "q");
    expect(page.alerts()).toBe("“q” is none of d, r, f, i, b.");
    expect(page.value(at("X ball nut"))).toBe("");
    page.type(at("X ball nut"), "r");
    expect(page.alerts()).toBe("");
  });

  it("Enter goes to the next point, and from the last to the key that keeps them", () => {
    const page = open();
    const enter = (name: string): void =>
      void page.page.getByLabelText(name).dispatchEvent(new KeyboardEvent("keydown", { key: "Enter" }));
    page.type(at("X ball nut"), "r");
    enter(at("X ball nut"));
    expect(document.activeElement).toBe(page.page.getByLabelText(at("Y ways")));
    enter(at("Z carriages"));
    expect(document.activeElement?.textContent).toContain("Keep 1 visit");
  });

  it("what the server refuses is told point by point", () => {
    const page = open();
    page.type(at("Y ways"), "b");
    page.press("Keep 1 visit");
    refuse(sent(2), 409, { detail: "This point was visited since, on 2026-03-02 by Rowan." });
    expect(page.alerts()).toContain("Y ways: This point was visited since, on 2026-03-02 by Rowan.");
  });

  it("nothing planned and no server are each said", () => {
    expect(open([]).text()).toContain("Nothing is planned in the coming two weeks");
    const page = show(PaperEntry);
    cut(http.expectOne("/api/rounds"));
    page.press("Try again");
    answer(http.expectOne("/api/rounds"), roundsOf(points));
    expect(page.page.getByLabelText(at("Y ways"))).toBeTruthy();
  });
});
