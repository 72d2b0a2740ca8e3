import type { HttpTestingController } from "@angular/common/http/testing";
import type { LubricationSettings } from "@iron/contract";
import { answer, cut, hearNotices, refuse, setUpBed, show } from "../../testing/place";
import { KeepingPage } from "./keeping-page";

const settings = (over: Partial<LubricationSettings> = {}): LubricationSettings => ({
  version: 3,
  minutesByWeekday: [90, 90, 90, 90, 60, 0, 0],
  holidays: [],
  method: "all",
  windows: [],
  bays: [],
  travel: [],
  guns: [{ name: "bay 1", weighings: [{ strokes: 10, grams: 8 }] }],
  gramsPerStroke: 0.8,
  gunFigures: [{ name: "bay 1", gramsPerStroke: 0.8, expandedGrams: 0.04 }],
  ...over,
});

describe("days and rules", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());
  const open = () => {
    const page = show(KeepingPage);
    answer(http.expectOne("/api/keep-settings"), settings());
    answer(http.expectOne("/api/meters"), [{ machineId: 4, nickname: "Wren" }]);
    return page;
  };
  const put = () => http.expectOne({ url: "/api/keep-settings", method: "PUT" });
  const body = (request: ReturnType<typeof put>) => request.request.body as Partial<LubricationSettings>;

  it("minutes, method, holiday and window go out together; till then it says that they are not kept", () => {
    const said = hearNotices();
    const page = open();
    expect(page.text()).not.toContain("not kept yet");
    page.type("Friday, min", "45");
    page.choose("Method", "calendar");
    page.type("Day", "2026-12-24");
    page.type("What it is", "inventory");
    page.press("Add the holiday");
    page.tick("Wren on Tuesday");
    expect(page.text()).toContain("Changed, and not kept yet.");
    page.press("Keep days and rules");
    const request = put();
    expect(body(request)).toMatchObject({
      version: 3,
      method: "calendar",
      minutesByWeekday: [90, 90, 90, 90, 45, 0, 0],
      holidays: [{ date: "2026-12-24", words: "inventory" }],
      windows: [{ machineId: 4, days: [true, false, true, true, true, true, true] }],
    });
    expect(body(request)).not.toHaveProperty("gunFigures");
    answer(request, settings({ version: 4, method: "calendar" }));
    expect(said).toEqual(["Kept. The rounds are planned by it."]);
    expect(page.text()).not.toContain("not kept yet");
  });

  it("one day’s minutes that cannot be hold everything back, even when another day’s are typed after", () => {
    const page = open();
    page.type("Monday, min", "1441");
    page.type("Tuesday, min", "30");
    page.press("Keep days and rules");
    expect(page.alerts()).toBe("“1441” cannot be: it must be from 0 to 1440.");
    page.type("Monday, min", "60");
    page.press("Keep days and rules");
    expect(body(put()).minutesByWeekday?.slice(0, 2)).toEqual([60, 30]);
  });

  it("what was changed can be taken back", () => {
    const page = open();
    page.type("Monday, min", "nine");
    page.type("Tuesday, min", "30");
    expect(page.text()).toContain("Changed, and not kept yet.");
    page.press("Take it back");
    expect([page.value("Monday, min"), page.alerts()]).toEqual(["90", ""]);
    expect([page.value("Tuesday, min"), page.text().includes("not kept yet")]).toEqual(["90", false]);
  });

  it("what somebody else has changed meanwhile is told; kept again, one’s own goes over it", () => {
    const page = open();
    page.type("Friday, min", "45");
    page.press("Keep days and rules");
    refuse(put(), 409, {
      detail: "Changed meanwhile.",
      more: {
        current: settings({ version: 9, minutesByWeekday: [10, 10, 10, 10, 10, 0, 0] }),
      },
    });
    expect(page.alerts()).toContain("Changed meanwhile.");
    expect(page.page.getByRole("row", { name: /^Monday/ }).textContent).toMatch(/90 min\s*10 min/);
    expect(page.value("Friday, min")).toBe("45");
    page.press("Keep mine");
    const request = put();
    expect(body(request)).toMatchObject({ version: 9, minutesByWeekday: [90, 90, 90, 90, 45, 0, 0] });
    answer(request, settings({ version: 10 }));
    expect(page.alerts()).toBe("");
  });

  it("a weighing is kept at once with nothing else; what is being changed besides stays as typed", () => {
    const page = open();
    page.type("Friday, min", "45");
    page.type("Gun", "bay 7");
    page.type("Came out, g", "9,5");
    page.press("Keep the weighing");
    const request = put();
    expect(body(request)).toMatchObject({
      minutesByWeekday: [90, 90, 90, 90, 60, 0, 0],
      guns: [{ name: "bay 1" }, { name: "bay 7", weighings: [{ strokes: 10, grams: 9.5 }] }],
    });
    answer(
      request,
      settings({ version: 4, gunFigures: [{ name: "bay 7", gramsPerStroke: 0.95, expandedGrams: 0.06 }] }),
    );
    expect(page.text()).toContain("bay 7: 0.950 g ± 0.060 g a stroke");
    // The next weighing is typed into an empty field.
    expect([page.value("Came out, g"), page.value("Gun")]).toEqual(["", "bay 7"]);
    expect(page.value("Friday, min")).toBe("45");
    expect(page.text()).toContain("Changed, and not kept yet.");
  });

  it("a weighing that somebody else overtook does not let one’s own days go over theirs unseen", () => {
    const page = open();
    page.type("Friday, min", "45");
    page.type("Gun", "bay 7");
    page.type("Came out, g", "9,5");
    page.press("Keep the weighing");
    const current = settings({ version: 9, minutesByWeekday: [10, 10, 10, 10, 10, 0, 0] });
    refuse(put(), 409, { detail: "Changed meanwhile.", more: { current } });
    expect(page.alerts()).toContain("Do it once more.");
    expect(page.value("Came out, g")).toBe("9,5");
    page.press("Keep days and rules");
    const request = put();
    expect(body(request).version).toBe(3);
    refuse(request, 409, { detail: "Changed meanwhile.", more: { current } });
    expect(page.page.getByRole("row", { name: /^Monday/ }).textContent).toMatch(/90 min\s*10 min/);
  });

  it.each([
    ["", "10", "8", "wants the gun’s name"],
    ["bay 1", "ten", "8", "wants the gun’s name, its strokes"],
    ["bay 1", "2.5", "8", "2.5 strokes and 8 g cannot be"],
    ["bay 1", "10", "4001", "strokes are a whole number from 1 to 200, grams above 0 and up to 4000"],
  ])("gun “%s”, %s strokes, %s g is refused", (gun, strokes, grams, words) => {
    const page = open();
    page.type("Gun", gun);
    page.type("Strokes", strokes);
    page.type("Came out, g", grams);
    page.press("Keep the weighing");
    expect(page.alerts()).toContain(words);
  });

  it("a holiday without a day is asked for; one can be struck out again", () => {
    const page = open();
    page.press("Add the holiday");
    expect(page.alerts()).toBe("Name the day of the holiday.");
    page.type("Day", "2026-12-24");
    page.press("Add the holiday");
    expect(page.alerts()).toBe("");
    page.press("Strike out 2026-12-24");
    expect(page.text()).toContain("none");
  });

  it("a part program tells what each axis travels in an hour; without its machine it is asked for", async () => {
    const page = open();
    const field = page.page.getByLabelText<HTMLInputElement>("G-code file");
    const give = async (text: string) => {
      const file = new File([text], "o1.nc");
      Object.defineProperty(file, "text", { value: () => Promise.resolve(text) });
      Object.defineProperty(field, "files", { value: [file], configurable: true });
      field.dispatchEvent(new Event("change"));
      await Promise.resolve();
      page.give({});
    };
    await give("G1 X1");
    expect(page.alerts()).toBe("Choose the machine first.");
    page.choose("Program of", "4");
    // 1,000 mm at 1,000 mm/min: a minute for a metre, 0.06 km an hour.
    await give("G21 G90 G94\nG1 X1000 F1000\nM30");
    expect(page.text()).toContain("Wren X: 0.06 km an hour of running, o1.nc");
  });

  it("no server is said, with a way to try again", () => {
    const page = show(KeepingPage);
    cut(http.expectOne("/api/keep-settings"));
    cut(http.expectOne("/api/meters"));
    page.press("Try again");
    answer(http.expectOne("/api/keep-settings"), settings());
    answer(http.expectOne("/api/meters"), []);
    expect(page.value("Friday, min")).toBe("60");
  });

  it("bays are walked in the order that the shop says", () => {
    const page = open();
    page.type("Bays in the order of the walk, commas between", "7, 3 ,,12");
    page.press("Keep days and rules");
    const request = put();
    expect(request.request.body).toMatchObject({ bays: ["7", "3", "12"] });
    answer(request, settings({ bays: ["7", "3", "12"] }));
    expect(page.page.getByRole<HTMLInputElement>("textbox", { name: /^Bays in the order/ }).value).toBe("7, 3, 12");
  });
});
