import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { Case } from "@iron/contract";
import type { FindingId } from "@iron/core";
import { AXIS_PROVIDERS, openAxis, openCase, takeUpCase } from "../../testing/axis";
import { answerIn, answer, cut, hearNotices, setUpBed, show } from "../../testing/place";
import { AskStation } from "./ask";
import { CaseStore } from "./case-store";

describe("station Ask", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(...AXIS_PROVIDERS);
  });
  afterEach(() => {
    http.match((r) => r.url.includes("/assessment")).forEach((r) => r.flush({ tests: [], leading: [] }));
    http.match("/api/axes/2/ledger");
    http.verify();
  });
  const open = (file = openCase({ context: { ageYears: 12, weeksSinceWork: null } as Case["context"] })) => {
    openAxis(http);
    takeUpCase(http, file);
    return show(AskStation);
  };
  const sent = () => http.expectOne({ url: "/api/cases/5", method: "PUT" });
  const body = (request: ReturnType<typeof sent>) => request.request.body as Case;
  const say = (page: ReturnType<typeof open>, key: string): string => {
    const group = page.page.getAllByRole("group")[0];
    answerIn(group, key);
    return document.getElementById(group.getAttribute("aria-labelledby") ?? "")?.textContent ?? "";
  };

  it("every symptom takes yes, no and unknown; a yes asks where, when and how", () => {
    const page = open();
    const label = say(page, "Yes");
    const first = sent();
    const [[id, present]] = Object.entries(body(first).symptoms);
    expect(present).toBe(true);
    answer(first, openCase({ version: 2, symptoms: body(first).symptoms }));
    page.type(`Note on: ${label}`, "only when warm");
    expect(TestBed.inject(CaseStore).current()?.evidence[id as FindingId]).toMatchObject({ note: "only when warm" });
    say(page, "?");
    expect(body(sent()).symptoms).toEqual({});
    expect(page.page.queryByLabelText(`Note on: ${label}`)).toBeNull();
  });

  it("age and weeks are refused outside their bounds, and may be left empty", () => {
    const page = open();
    expect(page.value("Age of the axis, years")).toBe("12");
    page.type("Age of the axis, years", "200");
    expect(page.alerts()).toBe("“200” cannot be: it must be from 0 to 80.");
    page.type("Weeks since somebody worked on it", "3");
    const first = sent();
    expect(body(first).context).toMatchObject({ ageYears: 12, weeksSinceWork: 3 });
    answer(first, openCase({ version: 2, context: body(first).context }));
    expect(page.value("Age of the axis, years")).toBe("200");
    page.type("Age of the axis, years", "");
    expect(body(sent()).context).toMatchObject({ ageYears: null });
    expect(page.alerts()).toBe("");
  });

  it("a photo that is no photo, or too large, is not sent", async () => {
    const said = hearNotices();
    const page = open();
    const pick = (name: string, type: string, size: number): void => {
      const file = new File(["x"], name, { type });
      Object.defineProperty(file, "size", { value: size });
      const field = page.page.getByLabelText<HTMLInputElement>(/^Photo/);
      Object.defineProperty(field, "files", { value: [file], configurable: true });
      field.dispatchEvent(new Event("change"));
    };
    pick("notes.pdf", "application/pdf", 10);
    pick("huge.png", "image/png", 25_000_001);
    expect(said).toEqual(
      ["notes.pdf", "huge.png"].map((n) => `${n} cannot be used: a photo is a JPEG or PNG of at most 25 MB.`),
    );
    pick("good.png", "image/png", 500);
    await Promise.resolve();
    expect(http.expectOne((r) => r.url.startsWith("/api/cases/5/photos")).request.headers.get("content-type")).toBe(
      "image/png",
    );
  });

  it("what the simulated machine shows is noted, unless it cannot be asked", () => {
    const said = hearNotices();
    const page = open();
    page.press("Run the simulated axis and note what shows");
    cut(http.expectOne("/api/axes/2/device/observe"));
    expect(said).toHaveLength(1);
    page.press("Run the simulated axis and note what shows");
    answer(http.expectOne("/api/axes/2/device/observe"), {
      answers: { rumble: true },
      shown: ["loses motion when it turns round"],
    });
    expect(page.text()).toContain("Simulated: loses motion when it turns round.");
    expect(body(sent()).symptoms).toMatchObject({ rumble: true });
  });

  it("without an open case it offers to open one, also for other axes of the machine", () => {
    openAxis(http);
    TestBed.inject(CaseStore).load(2);
    const page = show(AskStation);
    answer(http.expectOne("/api/axes/2/cases"), [
      { id: 3, state: "closed", openedAt: "2026-01-02T08:00:00Z", says: "lost motion", found: "loose retainer" },
    ]);
    expect(page.text()).toContain("Case 3");
    expect(page.text()).toContain("Found: loose retainer.");
    page.press(/^Open a case/);
    expect(http.expectOne("/api/machines/1/cases").request.body).toEqual({ axisIds: [2] });
  });
});
