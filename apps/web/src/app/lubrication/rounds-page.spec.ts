import type { HttpTestingController } from "@angular/common/http/testing";
import type { LubricationVisitInput } from "@iron/contract";
import { lubricationPoint, roundsOf } from "../../testing/lubrication";
import { Subject } from "rxjs";
import { TestBed } from "@angular/core/testing";
import { Changes } from "../data/changes";
import { answer, cut, hearNotices, refuse, setUpBed, show } from "../../testing/place";
import { RoundsPage } from "./rounds-page";

const nut = lubricationPoint({ id: 1, place: "X ball nut" });
const ways = lubricationPoint({ id: 2, place: "Y ways", way: "central line", outlets: ["front", "far end"] });
const guide = lubricationPoint({ id: 3, place: "Z carriages" });

describe("a round walked", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => {
    http.verify();
    jest.useRealTimers();
  });

  const walk = (points = [nut, ways, guide], over = {}) => {
    const place = show(RoundsPage);
    answer(http.expectOne("/api/rounds"), roundsOf(points, over));
    return place;
  };
  const sent = (id: number) => http.expectOne(`/api/lube-points/${id}/visits`);
  const at = (place: ReturnType<typeof walk>, name: string) =>
    expect(place.page.getByRole("heading", { level: 2, name })).toBeTruthy();

  it("goes on at once at a key, and sends what was found with the dose of the point", () => {
    const place = walk();
    at(place, "X ball nut");
    place.press("Dry");
    at(place, "Y ways");
    const request = sent(1);
    expect(request.request.body).toMatchObject({ found: "dry", dose: nut.dose, glitter: false, friction: false });
    answer(request, nut);
    expect(place.text()).toContain("X ball nut: dry");
  });

  it("all outlets wet is one press", () => {
    const place = walk();
    place.press("Right");
    answer(sent(1), nut);
    place.press("All outlets are wet");
    expect(place.text()).toContain("All 2 are wet.");
    place.press("Right");
    expect(sent(2).request.body).toMatchObject({ found: "right", outlets: [true, true] });
  });

  it("what is typed for a point stays while the answer for the point before arrives", () => {
    const place = walk();
    place.press("Right");
    place.press("Outlets one by one");
    place.choose("Outlet: far end", "false");
    place.choose("Outlet: front", "true");
    place.type(/^Given/, "2");
    place.type("Note", "wiper torn");
    answer(sent(1), nut);
    expect(place.value(/^Given/)).toBe("2");
    place.tick("Metal glitter or chips in the old grease");
    place.press("Dirty");
    const body = sent(2).request.body as LubricationVisitInput;
    expect(body).toMatchObject({ found: "dirty", dose: 2, glitter: true, words: "wiper torn", outlets: [true, false] });
    at(place, "Z carriages");
    expect([place.value(/^Given/), place.value("Note")]).toEqual(["", ""]);
  });

  it.each(["soft", "-1", "501", "1.2.3"])("a dose of %s is refused beside its field, and nothing is kept", (text) => {
    const place = walk();
    place.type(/^Given/, text);
    place.press("Right");
    expect(place.alerts()).toBe(`“${text}” cannot be: a dose is a number from 0 to 500. Nothing was kept.`);
    at(place, "X ball nut");
    place.type(/^Given/, "3,5");
    expect(place.alerts()).toBe("");
    place.press("Right");
    expect(sent(1).request.body).toMatchObject({ dose: 3.5 });
  });

  it("carriages that are not alike are told one by one; the key is for the others, and the point as bad as its worst", () => {
    const outlets = ["carriage 1", "carriage 2", "carriage 3", "carriage 4"];
    const last = [{ name: "carriage 4", found: "flooded" as const, dose: 0 }];
    const place = walk([lubricationPoint({ id: 5, place: "X rail carriages", dose: 4, outlets, places: last }), nut]);
    expect(place.text()).toContain("Last time: carriage 4 flooded.");
    expect(place.text()).toContain("4 strokes, 1 each, ");
    place.press("They are not alike: one by one");
    place.choose("carriage 2", "dry");
    place.type(/^carriage 2 given/, "two");
    expect(place.text()).toContain("The others, before anything was given");
    place.press("Right");
    expect(place.alerts()).toContain("“two” cannot be: a dose is a number from 0 to 500.");
    at(place, "X rail carriages");
    place.type(/^carriage 2 given/, "2,5");
    place.choose("carriage 3", "flooded");
    expect(place.text()).toContain("Told: carriage 2 dry, carriage 3 flooded.");
    place.press("Right");
    expect(sent(5).request.body).toMatchObject({
      found: "dry",
      dose: 4.5,
      outlets: [],
      places: [
        { name: "carriage 1", found: "right", dose: 1 },
        { name: "carriage 2", found: "dry", dose: 2.5 },
        { name: "carriage 3", found: "flooded", dose: 0 },
        { name: "carriage 4", found: "right", dose: 1 },
      ],
    });
  });

  it("flooded and blocked give nothing, unless something was typed", () => {
    const place = walk();
    place.press("Flooded");
    place.type(/^Given/, "1");
    place.press("Blocked");
    const first = sent(1);
    expect(first.request.body).toMatchObject({ found: "flooded", dose: 0 });
    answer(first, nut);
    expect(sent(2).request.body).toMatchObject({ found: "blocked", dose: 1 });
  });

  it("a point somebody else has done is told and comes last: none slips under the thumb", () => {
    const place = walk();
    place.press("Right");
    at(place, "Y ways");
    refuse(sent(1), 409, { detail: "Rowan did this point at 9:12." });
    expect(place.alerts()).toContain("X ball nut: Rowan did this point at 9:12.");
    at(place, "Y ways");
    expect(
      place.page
        .getAllByRole("listitem")
        .map((l) => l.textContent.trim())
        .filter((t) => t.startsWith("Godwit"))
        .map((t) => t.replace(/\s+/g, " ")),
    ).toEqual(["Godwit: Z carriages", "Godwit: X ball nut"]);
    place.press("Read");
    expect(place.alerts()).toBe("");
  });

  it("without a server visits wait and are counted; they go when it answers", () => {
    jest.useFakeTimers();
    const place = walk();
    place.press("Dry");
    cut(sent(1));
    expect(place.text()).toContain("No connection. 1 visit is kept in this browser");
    place.press("Right");
    expect(place.text()).toContain("2 visits are kept");
    jest.advanceTimersByTime(3500);
    answer(sent(1), nut);
    answer(sent(2), ways);
    expect(place.text()).not.toContain("No connection");
  });

  it("what somebody else does meanwhile is passed over and told; what is under the thumb is said there", () => {
    const others = new Subject<void>();
    jest.spyOn(TestBed.inject(Changes), "of").mockReturnValue(others);
    const place = walk();
    others.next();
    answer(http.expectOne("/api/rounds"), roundsOf([nut, guide]));
    at(place, "X ball nut");
    expect(place.text()).toContain("Done or moved by somebody else meanwhile: Y ways.");
    others.next();
    answer(http.expectOne("/api/rounds"), roundsOf([{ ...nut, visits: 3 }, guide]));
    at(place, "X ball nut");
    expect(place.alerts()).toContain("Somebody else has done this point or moved it meanwhile.");
    place.press("Go on to the next");
    at(place, "Z carriages");
    expect(place.alerts()).toBe("");
    expect(place.text()).toContain("meanwhile: Y ways; X ball nut.");
  });

  it("does not look while visits are on their way, and a plan that cannot be had changes nothing", () => {
    const others = new Subject<void>();
    jest.spyOn(TestBed.inject(Changes), "of").mockReturnValue(others);
    const place = walk();
    place.press("Right");
    others.next();
    http.expectNone("/api/rounds");
    answer(sent(1), nut);
    document.dispatchEvent(new Event("visibilitychange"));
    cut(http.expectOne("/api/rounds"));
    at(place, "Y ways");
    expect(place.alerts()).toBe("");
  });

  it("the last one can be taken back", () => {
    const place = walk();
    place.press("Dry");
    answer(sent(1), nut);
    place.press("Take the last one back");
    at(place, "X ball nut");
    expect(sent(1).request.body).toMatchObject({ found: null, takesBack: expect.any(String) as string });
  });

  it("a point that wants more than grease asks for a case", () => {
    const place = walk();
    place.press("Blocked");
    answer(sent(1), { ...nut, asksCase: "Found blocked: the line or the fitting has to be freed." });
    expect(place.text()).toContain("X ball nut: Found blocked");
    expect(place.page.getByRole("button", { name: "Open a case on it" })).toBeTruthy();
  });

  it("putting it on another day wants the day, leaving it out the day and a reason", () => {
    const place = walk();
    place.press("Put it there");
    expect(place.alerts()).toBe("Choose the day first.");
    place.press("Leave it out");
    expect(place.alerts()).toBe("Name the day till which it is left out.");
    place.type("Leave it out till", "2026-04-01");
    place.press("Leave it out");
    refuse(http.expectOne("/api/lube-points/1/holds"), 400, { detail: "Say why it is left out." });
    expect(place.alerts()).toBe("Say why it is left out.");
    place.type("Why", "under covers");
    place.press("Leave it out");
    const hold = http.expectOne("/api/lube-points/1/holds");
    expect(hold.request.body).toMatchObject({ kind: "skip", date: "2026-04-01", reason: "under covers" });
    answer(
      hold,
      roundsOf([ways, guide], {
        changes: [{ id: 9, what: "X ball nut left till 2026-04-01", why: "under covers" }],
        changedAt: "2026-03-02T08:00:00Z",
      }),
    );
    at(place, "Y ways");
    expect(place.text()).toContain("What changed");
  });

  it("a point dragged onto a day where nobody is, is refused in sight; onto another it is put there", () => {
    const place = walk();
    const drop = (on: RegExp): void => {
      place.drop(place.page.getByRole("button", { name: on }), 2);
    };
    drop(/^Sat 7 Mar/);
    const request = http.expectOne("/api/lube-points/2/holds");
    expect(request.request.body).toMatchObject({ kind: "pin", date: "2026-03-07" });
    refuse(request, 422, { detail: "Y ways cannot be put on 2026-03-07: nobody has minutes for it." });
    const alert = place.page.getByRole("alert");
    expect(alert.textContent).toContain("nobody has minutes for it");
    expect(alert.closest("details")).toBeNull();
    drop(/^Mon 2 Mar/);
    answer(http.expectOne("/api/lube-points/2/holds"), roundsOf([nut, ways, guide]));
    expect(place.alerts()).toBe("");
  });

  it("a shop with no point, a day with none left and a dead server are each said", () => {
    const place = walk([]);
    expect(place.text()).toContain("No lubrication point yet");
    const done = walk([nut]);
    done.press("Right");
    expect(done.text()).toContain("Nothing is left on this day.");
    answer(sent(1), nut);
    const dead = show(RoundsPage);
    cut(http.expectOne("/api/rounds"));
    expect(dead.alerts()).not.toBe("");
    dead.press("Try again");
    answer(http.expectOne("/api/rounds"), roundsOf([nut]));
    at(dead, "X ball nut");
  });

  it("a photo is taken for the point under the eye", () => {
    const said = hearNotices();
    const place = walk();
    const field = place.page.getByLabelText<HTMLInputElement>("Photo, JPEG or PNG");
    Object.defineProperty(field, "files", { value: [new File(["x"], "a.png", { type: "image/png" })] });
    field.dispatchEvent(new Event("change"));
    expect(said).toEqual(["X ball nut: photo taken; it goes to the point."]);
    const request = http.expectOne((r) => r.url.startsWith("/api/lube-points/1/photos"));
    expect(request.request.headers.get("content-type")).toBe("image/png");
    place.give({});
    expect(place.text()).toContain("A photo waits in this browser till the server answers.");
    answer(request, nut);
    expect(place.text()).not.toContain("A photo waits");
  });
});
