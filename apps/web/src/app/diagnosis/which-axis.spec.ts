import type { HttpTestingController } from "@angular/common/http/testing";
import type { Case } from "@iron/contract";
import { AXIS_PROVIDERS, CONFIG, openAxis, openCase, takeUpCase, toldOf2 } from "../../testing/axis";
import { answer, answerIn, setUpBed, show } from "../../testing/place";
import { WhichAxis } from "./which-axis";

describe("which axis is it", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed(...AXIS_PROVIDERS);
  });
  afterEach(() => {
    http.match((r) => r.url.includes("/assessment") || r.url.includes("/ledger"));
    http.verify();
  });
  const sent = () => http.expectOne({ url: "/api/cases/5", method: "PUT" });

  it("another axis is taken in, and what each does alone is its own", () => {
    const y = { id: 3, machineId: 1, version: 1, config: { ...CONFIG, letter: "Y" }, retiredAt: null };
    openAxis(http, { others: [y] });
    takeUpCase(http, openCase({ told: toldOf2({ rumble: true }) }));
    const page = show(WhichAxis);
    expect(page.text()).not.toContain("Run one axis at a time");
    page.page.getByLabelText("It may be Y").click();
    const first = sent();
    expect((first.request.body as Case).axisIds).toEqual([2, 3]);
    answer(first, openCase({ version: 2, axisIds: [2, 3], told: toldOf2({ rumble: true }) }));
    expect(page.text()).toContain("Run one axis at a time");
    answerIn(page.page.getByRole("group", { name: "Y: Rumbles, worst in rapid" }), "No");
    const second = sent();
    const { told } = second.request.body as Case;
    expect(told[2].answers).toEqual({ rumble: true });
    expect(told[3].answers).toEqual({ rumble: false });
    answer(second, openCase({ version: 3, axisIds: [2, 3], told }));
    // The axis it was said of first may turn out not to be it: the question stays.
    answerIn(page.page.getByRole("group", { name: "X: Rumbles, worst in rapid" }), "No");
    expect((sent().request.body as Case).told[2].answers).toEqual({ rumble: false });
    expect(page.page.getByRole("group", { name: "Y: Rumbles, worst in rapid" })).toBeTruthy();
  });
});
