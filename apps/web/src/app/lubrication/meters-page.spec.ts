import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { MachineMeter, MeterCreate } from "@iron/contract";
import { dayOf } from "@iron/core";
import { answer, cut, hearNotices, refuse, setUpBed, show } from "../../testing/place";
import { MetersPage } from "./meters-page";

const meter = (over: Partial<MachineMeter> = {}): MachineMeter =>
  ({
    machineId: 4,
    nickname: "Wren",
    bay: "11",
    hoursPerDay: 11.4,
    expanded: 1.2,
    from: "meter",
    notes: [],
    readings: [{ id: 9, date: "2026-03-02", hours: 2500, reset: false }],
    ...over,
  }) as MachineMeter;

describe("hour meters", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());
  const open = (list = [meter()], demo = true) => {
    const page = show(MetersPage);
    answer(http.expectOne("/api/meters"), list);
    answer(http.expectOne("/api/shop"), { demo });
    return page;
  };
  const sent = () => http.expectOne("/api/machines/4/meter");

  it("say the hours a day with their spread, what was odd, and where a machine has no reading yet", () => {
    const page = open([
      meter({ notes: ["The reading of 2026-02-01 is lower than the one before."] }),
      meter({ machineId: 5, nickname: "Heron", from: "working week", readings: [] }),
    ]);
    expect(page.text()).toContain("11.4 ± 1.2 hours a day, from its meter.");
    expect(page.text()).toContain("is lower than the one before");
    expect(page.page.getByRole("region", { name: "Heron" }).textContent).toMatch(
      /read the meter twice[\s\S]*No reading yet\./,
    );
  });

  it("a reading goes out with the shop’s day; a lower one is refused with its bound and stays typed", () => {
    const page = open();
    page.type("Hours now", "2400");
    page.press("Keep the reading");
    const request = sent();
    const body = request.request.body as MeterCreate;
    expect(body).toMatchObject({ hours: 2400, reset: false, date: dayOf(new Date()) });
    refuse(request, 422, { detail: "hours is 2400: it must be at least 2500, as read before." });
    expect(page.alerts()).toContain("at least 2500");
    expect(page.value("Hours now")).toBe("2400");
    page.tick("replaced or set back before");
    page.press("Keep the reading");
    const second = sent();
    expect(second.request.body).toMatchObject({ hours: 2400, reset: true });
    answer(second, [
      meter({
        readings: [{ id: 10, date: "2026-03-03", hours: 2400, reset: true }] as unknown as MachineMeter["readings"],
      }),
    ]);
    expect(page.alerts()).toBe("");
    expect(page.text()).toContain("2400 h (after a reset)");
  });

  it.each(["", "many", "12h"])("“%s” is no number of hours", (text) => {
    const page = open();
    page.type("Hours now", text);
    page.press("Keep the reading");
    expect(page.alerts()).toBe(`“${text}” is not a number of hours.`);
  });

  it("the simulated machine is read only where there is one", () => {
    const page = open();
    page.press("Read the simulated machine");
    answer(http.expectOne("/api/machines/4/meter/device"), [meter()]);
    expect(open([meter()], false).page.queryByRole("button", { name: "Read the simulated machine" })).toBeNull();
  });

  it("the last reading can be taken back", () => {
    const page = open();
    page.press("Take back the last reading of Wren");
    answer(http.expectOne("/api/meter-readings/9/back"), [meter({ readings: [] })]);
    expect(page.text()).toContain("No reading yet.");
  });

  describe("from a file", () => {
    const pick = async (page: ReturnType<typeof open>, text: string, size?: number) => {
      const field = page.page.getByLabelText<HTMLInputElement>("Meter readings, a CSV file");
      const file = new File([text], "meters.csv");
      Object.defineProperty(file, "text", { value: () => Promise.resolve(text) });
      if (size) Object.defineProperty(file, "size", { value: size });
      Object.defineProperty(field, "files", { value: [file], configurable: true });
      field.dispatchEvent(new Event("change"));
      await Promise.resolve();
      TestBed.tick();
    };
    const sentFile = () => http.expectOne("/api/meters/import");

    it("wrong lines are named and nothing is kept till that is said", async () => {
      const page = open();
      await pick(page, "machine,date,hours\nWren,soon,1\nWren,2026-03-03,2510");
      answer(sentFile(), {
        kept: 0,
        known: 0,
        good: 1,
        errorLines: 1,
        errors: [{ line: 2, column: "date", message: "“soon” is no date: write 2026-03-31." }],
      });
      expect(page.alerts()).toContain("1 line is wrong; nothing was kept.");
      expect(page.alerts()).toContain("Line 2, date: “soon” is no date");
      page.press("Keep the 1 good line all the same");
      const request = sentFile();
      expect(request.request.body).toMatchObject({ anyway: true });
      answer(request, {
        kept: 1,
        known: 0,
        good: 1,
        errorLines: 1,
        errors: [{ line: 2, column: "date", message: "x" }],
      });
      answer(http.expectOne("/api/meters"), [meter()]);
      expect(page.alerts()).toContain("1 line is wrong; 1 kept.");
    });

    it("a long file says how far it is, and can be called off", async () => {
      jest.useFakeTimers();
      try {
        const page = open();
        await pick(page, "machine,date,hours\nWren,2026-03-03,2510");
        const request = sentFile();
        const { key } = request.request.body as { key: string };
        jest.advanceTimersByTime(300);
        // Asked about before the server has it: nothing to say yet, and no error.
        answer(http.expectOne(`/api/imports/${key}`), { phase: "none", rows: 0, of: 0 });
        expect(page.page.queryByRole("button", { name: "Call it off" })).toBeNull();
        jest.advanceTimersByTime(300);
        answer(http.expectOne(`/api/imports/${key}`), {
          phase: "reading",
          rows: 40,
          of: 900,
        });
        expect(page.text()).toContain("Line 40 of 900 gone through.");
        page.press("Call it off");
        answer(http.expectOne(`/api/imports/${key}/off`), {
          phase: "reading",
          rows: 60,
          of: 900,
        });
        const said = hearNotices();
        refuse(request, 409, { detail: "The file was called off. Nothing was kept." });
        expect(said.join()).toContain("called off");
        expect(page.page.queryByText(/gone through/)).toBeNull();
        jest.advanceTimersByTime(1000);
        http.expectNone(`/api/imports/${key}`);
      } finally {
        jest.useRealTimers();
      }
    });

    it("sent twice it keeps nothing twice, and a file too large is not sent", async () => {
      const page = open();
      await pick(page, "machine,date,hours");
      answer(sentFile(), { kept: 1, known: 4, good: 5, errorLines: 0, errors: [] });
      answer(http.expectOne("/api/meters"), [meter()]);
      expect(page.text()).toContain("1 kept, 4 were there already.");
      await pick(page, "x", 5_000_001);
      expect(page.alerts()).toBe("meters.csv is larger than 5 MB.");
    });
  });

  it("no server is said, with a way to try again; no machine is said too", () => {
    const page = show(MetersPage);
    cut(http.expectOne("/api/meters"));
    cut(http.expectOne("/api/shop"));
    page.press("Try again");
    answer(http.expectOne("/api/meters"), []);
    expect(page.text()).toContain("There is no machine yet.");
  });
});
