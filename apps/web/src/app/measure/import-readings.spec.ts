import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { AXIS_PROVIDERS, openAxis } from "../../testing/axis";
import { answer, setUpBed, show } from "../../testing/place";
import { ImportReadings } from "./import-readings";

const DIAL = {
  id: 4,
  name: "Dial",
  kind: "plunger",
  resolutionMm: 0.01,
  unit: "mm",
  tipAngleDeg: 0,
  rangeMm: 10,
  retiredAt: null,
};
const FILE = "place_mm;approach;run;reading_mm\n100;+;1;0,000\n100;-;1;-0,012\n";

describe("importing readings", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(...AXIS_PROVIDERS);
  });
  afterEach(() => http.verify());

  async function open(text: string) {
    openAxis(http);
    const page = show(ImportReadings);
    answer(http.expectOne("/api/indicators"), [DIAL]);
    const field = page.page.getByLabelText<HTMLInputElement>("File");
    const file = { name: "old.csv", size: text.length, text: () => Promise.resolve(text) };
    Object.defineProperty(field, "files", { value: [file] });
    field.dispatchEvent(new Event("change"));
    await Promise.resolve();
    TestBed.tick();
    return page;
  }

  it("shows what it read, and keeps nothing before that is said", async () => {
    const page = await open(FILE);
    expect(page.text()).toContain("2 readings at 1 place, 1 run.");
    page.type("Tip angle, °", "30");
    page.press("Keep these readings");
    const { body } = http.expectOne("/api/axes/2/import").request;
    expect(body).toMatchObject({
      fileName: "old.csv",
      text: FILE,
      keepsZero: false,
      setup: { indicator: { name: "Dial" }, tipAngleDeg: 30, temperatureC: null, note: "from old.csv" },
    });
  });

  it("a tip that cannot be is said at its field, and nothing goes out", async () => {
    const page = await open(FILE);
    page.type("Tip angle, °", "-3");
    page.press("Keep these readings");
    expect(page.alerts()).toContain("“-3”");
    http.expectNone("/api/axes/2/import");
  });

  it("names each line that is wrong", async () => {
    const page = await open("place_mm;approach;run;reading_mm\n100;sideways;1;0,000\n");
    expect(page.alerts()).toContain("Line 2");
    expect(page.page.queryByRole("button", { name: "Keep these readings" })).toBeNull();
  });
});
