import { within } from "@testing-library/dom";
import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { Case } from "@iron/contract";
import type { FindingId } from "@iron/core";
import { AXIS_PROVIDERS, openAxis, openCase, takeUpCase, toldOf2 } from "../../testing/axis";
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
  const unfold = (page: ReturnType<typeof open>, title: RegExp): void => {
    const folded = page.page.getByText(title).closest("details");
    if (!folded) throw new Error("nothing folded is called so");
    folded.open = true;
    folded.dispatchEvent(new Event("toggle"));
    TestBed.tick();
  };
  const toggle = (page: ReturnType<typeof open>, label: string): void => page.press(label);

  it("what hurts leads to which of these, and then to the questions that tell most", () => {
    openAxis(http);
    takeUpCase(http, openCase(), {
      questions: [
        { finding: "knock", bits: 0.4 },
        { finding: "hot-end", bits: 0.2 },
      ],
    });
    const page = show(AskStation);
    expect(page.text()).not.toContain("These would tell most");
    toggle(page, "Noise");
    toggle(page, "Rumbles, worst in rapid");
    const first = sent();
    expect(body(first).told).toEqual(toldOf2({ rumble: true }));
    answer(first, openCase({ version: 2, told: body(first).told }));
    toggle(page, "Go on");
    http
      .match((r) => r.url.includes("/assessment"))
      .forEach((r) => r.flush({ tests: [], leading: [], questions: [{ finding: "knock", bits: 0.4 }] }));
    expect(page.text()).toContain("These would tell most now");
    const group = page.page.getByRole("group", { name: "Knocks at the reversal" });
    answerIn(group, "No");
    expect(body(sent()).told).toEqual(toldOf2({ rumble: true, knock: false }));
  });

  it("a question stays in its place while it is asked, and what was answered until what follows from it is known", () => {
    openAxis(http);
    const asks = (...ids: string[]): object => ({ questions: ids.map((finding) => ({ finding, bits: 0.3 })) });
    takeUpCase(http, openCase({ told: toldOf2({ rumble: true }) }), asks("knock", "hot-end", "dry", "home-varies"));
    const page = show(AskStation);
    const part = page.page.getByRole("heading", { name: "These would tell most now" })
      .nextElementSibling as HTMLElement;
    const asked = (): (string | undefined)[] =>
      within(part)
        .getAllByRole("listitem")
        .map((li) => li.querySelector(".words")?.textContent.trim().split(" ")[0]);
    expect(asked()).toEqual(["Knocks", "Bearing", "Ways"]);
    const bearing = page.page.getByRole("group", { name: /^Bearing/ });
    within(bearing).getByRole("button", { name: "Yes" }).focus();
    answerIn(bearing, "Yes");
    const put = sent();
    expect(asked()).toEqual(["Knocks", "Bearing", "Ways"]);
    // No field opens under it that would push the next one away.
    expect(within(part).queryByRole("textbox")).toBeNull();
    answer(put, openCase({ version: 2, told: body(put).told }));
    http
      .match((r) => r.url.includes("/assessment"))
      .forEach((r) => r.flush({ tests: [], leading: [], ...asks("home-varies", "dry", "knock", "rattle") }));
    TestBed.tick();
    expect(asked()).toEqual(["Knocks", "Home", "Ways"]);
    // Whoever works by keys stands where the answered one stood, before any answer of the new one.
    expect(document.activeElement).toBe(within(part).getAllByRole("listitem")[1]);
  });

  it("none of them denies what nobody has answered, and nothing else", () => {
    const page = open(openCase({ told: toldOf2({ "home-varies": true }) }));
    toggle(page, "Home position");
    toggle(page, "None of the others");
    expect(body(sent()).told[2].answers).toEqual({ "home-varies": true, "home-turn": false });
  });

  it("a part that nobody holds is not denied: it was not looked at", () => {
    const page = open(openCase({ told: toldOf2({ rumble: true }) }));
    toggle(page, "Something in my hand");
    expect(page.page.queryByRole("button", { name: /^None of/ })).toBeNull();
    toggle(page, "Nut runs gritty in the hand");
    expect(body(sent()).told[2].answers).toEqual({ rumble: true, "nut-gritty": true });
  });

  it("what was told can be taken back, and a yes asks where, when and how", () => {
    const page = open(openCase({ told: toldOf2({ rumble: true }) }));
    unfold(page, /^What was told/);
    page.type("Note on: Rumbles, worst in rapid", "only when warm");
    expect(TestBed.inject(CaseStore).told().evidence["rumble" as FindingId]).toMatchObject({ note: "only when warm" });
    answerIn(page.page.getAllByRole("group", { name: "Rumbles, worst in rapid" })[0], "?");
    expect(body(sent()).told[2].answers).toEqual({});
    expect(page.page.queryByLabelText("Note on: Rumbles, worst in rapid")).toBeNull();
  });

  it("that is all that was noticed is said once, and where it is noticed", () => {
    const page = open(openCase({ told: toldOf2({ rumble: true }) }));
    page.page.getByLabelText("That is all that was noticed").click();
    const first = sent();
    expect(body(first).told[2].allTold).toBe(true);
    answer(first, openCase({ version: 2, told: body(first).told }));
    toggle(page, "in the middle");
    expect(body(sent()).told[2].place).toEqual({ kind: "middle", atMm: null });
  });

  it("it began after what is pressed, and then not after the others", () => {
    const page = open(openCase({ told: toldOf2({ rumble: true }) }));
    toggle(page, "a crash");
    expect(body(sent()).context).toMatchObject({ crash: true, moved: false, longStop: false });
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
    expect(body(sent()).told[2].answers).toMatchObject({ rumble: true });
  });

  it("without an open case the first answer opens one, and it can be undone", () => {
    const said = hearNotices();
    openAxis(http);
    TestBed.inject(CaseStore).load(2);
    const page = show(AskStation);
    answer(http.expectOne("/api/axes/2/cases"), [
      { id: 3, state: "closed", openedAt: "2026-01-02T08:00:00Z", says: "lost motion", found: "loose retainer" },
    ]);
    expect(page.text()).toContain("Case 3");
    expect(page.text()).toContain("Found: loose retainer.");
    toggle(page, "Heat or load");
    toggle(page, "Bearing end gets hot");
    const made = http.expectOne("/api/machines/1/cases");
    expect(made.request.body).toEqual({ axisIds: [2], answers: { "hot-end": true } });
    answer(made, openCase({ told: toldOf2({ "hot-end": true }) }));
    answer(http.expectOne("/api/axes/2/cases"), [{ id: 5, state: "open" }]);
    expect(said).toEqual(["Case 5 opened."]);
  });
});
