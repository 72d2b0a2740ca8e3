import type { HttpTestingController } from "@angular/common/http/testing";
import type { LubricationPointRecord, LubricationVisitInput } from "@iron/contract";
import { lubricationPoint, roundsOf } from "../../testing/lubrication";
import { answer, setUpBed, show } from "../../testing/place";
import { RoundsPage } from "./rounds-page";

type Answered = LubricationPointRecord["answered"][number];
const check = (over: Partial<Answered>): Answered => ({
  name: "belt",
  unit: null,
  least: null,
  most: null,
  wrong: "cracked",
  answer: null,
  figure: null,
  at: null,
  readings: [],
  boundOn: null,
  ...over,
});
const brush = check({
  name: "brush length",
  unit: "mm",
  least: 6,
  wrong: "worn to the mark",
  answer: "fine",
  figure: 9.5,
  at: "2026-02-01T09:00:00Z",
  readings: [
    { at: "2026-01-01T09:00:00Z", figure: 11 },
    { at: "2026-02-01T09:00:00Z", figure: 9.5 },
  ],
  boundOn: "2026-04-12",
});

describe("what is looked at on the way", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());
  const walk = (answered: Answered[], photos: LubricationPointRecord["photos"] = []) => {
    const point = lubricationPoint({
      id: 4,
      place: "spindle brushes",
      way: "look",
      dose: 0,
      outlets: [],
      answered,
      photos,
    });
    const place = show(RoundsPage);
    answer(http.expectOne("/api/rounds"), roundsOf([point]));
    return place;
  };
  const sent = () => http.expectOne("/api/lube-points/4/visits").request.body as LubricationVisitInput;

  it("what is not fine asks for its own photo; the last one of it is a press away", () => {
    const shown = { id: 31, caption: "spindle brushes: belt", of: "belt", at: "2026-02-01T09:00:00Z", by: "Ama" };
    const place = walk([check({})], [shown, { ...shown, id: 30, of: null }]);
    expect(place.page.getByRole("link", { name: "Photo of Sun 1 Feb, Ama" }).getAttribute("href")).toBe(
      "/api/lube-photos/31",
    );
    expect(place.page.queryByLabelText("Photo of belt, JPEG or PNG")).toBeNull();
    place.page.getByRole("radio", { name: "Act: cracked" }).click();
    place.give({});
    const field = place.page.getByLabelText<HTMLInputElement>("Photo of belt, JPEG or PNG");
    const file = new File(["x"], "belt.png", { type: "image/png" });
    Object.defineProperty(field, "files", { value: [file], configurable: true });
    field.dispatchEvent(new Event("change"));
    const asked = http.expectOne((r) => r.url.startsWith("/api/lube-points/4/photos"));
    expect(new URLSearchParams(asked.request.url.split("?")[1]).get("shows")).toBe("belt");
    answer(asked, lubricationPoint({ id: 4 }));
  });

  it("is fine, to be watched or to be acted on, in words that fit", () => {
    const place = walk([check({}), brush]);
    expect(place.text()).toContain("Act: cracked");
    expect(place.text()).toContain("Last time, Sun 1 Feb: fine, 9.5 mm (11, 9.5). At its bound about Sun 12 Apr.");
    place.page.getAllByRole("radio", { name: "Watch it" })[0].click();
    place.type(/^Read, mm, at least 6/, "5.5");
    place.press("Looked at");
    expect(sent()).toMatchObject({
      found: "right",
      checks: [
        { name: "belt", answer: "watch", figure: null },
        // Beyond its bound somebody has to act, whether or not that was pressed.
        { name: "brush length", answer: "act", figure: 5.5 },
      ],
    });
  });

  it("one that is not answered is asked about once, and may be left at that", () => {
    const place = walk([check({})]);
    place.press("Looked at");
    http.expectNone("/api/lube-points/4/visits");
    expect(place.alerts()).toContain("Not answered: belt.");
    place.press("Looked at");
    expect(sent()).toMatchObject({ checks: [] });
  });

  it("a figure without bounds is kept with what was seen; what is answered since is no longer asked for", () => {
    const place = walk([check({ name: "regulator", unit: "bar" }), check({})]);
    place.type(/^Read, bar/, "5,8");
    place.press("Looked at");
    expect(place.alerts()).toContain("Not answered: belt.");
    place.page.getAllByRole("radio", { name: "Fine" })[1].click();
    place.type("Note", "steady");
    expect(place.alerts()).toBe("");
    place.press("Looked at");
    expect(sent().checks).toEqual([
      { name: "regulator", answer: "fine", figure: 5.8 },
      { name: "belt", answer: "fine", figure: null },
    ]);
  });

  it("a figure that is none is told, and nothing is kept", () => {
    const place = walk([brush]);
    place.type(/^Read, mm/, "short");
    place.press("Looked at");
    http.expectNone("/api/lube-points/4/visits");
    expect(place.text()).toContain("“short” is not a number of mm.");
  });
});
