import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { BarBatch, CircleSession } from "@iron/contract";
import { Subject } from "rxjs";
import { AXES, circlePlane, circleSession, drawnOf, leaning } from "../../testing/circle";
import { answer, cut, refuse, setUpBed, show } from "../../testing/place";
import { BarStream, type BarNews } from "./bar-stream";
import { CirclePage } from "./circle-page";

const traces = [leaning(1, 0.006), leaning(-1, 0.006)];
const empty = circlePlane([]);
const read = circlePlane(traces);

describe("a session of circles", () => {
  let http: HttpTestingController;
  const bar = new Subject<BarNews>();
  beforeEach(() => {
    http = setUpBed({ provide: BarStream, useValue: { of: () => bar } });
  });
  afterEach(() => http.verify());

  const around = (): void => {
    http.match((r) => r.url.endsWith("/drawn")).forEach((r) => answer(r, drawnOf(traces)));
    http.match("/api/machines/1/circles").forEach((r) => answer(r, { sessions: [], limits: circleSession([]).limits }));
    http.match("/api/machines/1").forEach((r) => answer(r, { id: 1, nickname: "Snipe", axes: AXES }));
  };
  const open = (session: CircleSession) => {
    const page = show(CirclePage, { sessionId: "5" });
    answer(http.expectOne("/api/circles/5"), session);
    around();
    return page;
  };
  const batch = (from: number, over: Partial<BarBatch> = {}): void => {
    bar.next({
      kind: "batch",
      batch: { planeId: 11, direction: 1, rateHz: 200, from, values: [1.5, 2.5], of: 8, ended: false, ...over },
    });
    TestBed.tick();
  };

  it("says first what is to be seen to, then reads one way, then the other, and says what the numbers say", () => {
    const page = open(circleSession([empty]));
    expect(page.text()).toContain("Snipe");
    expect(page.text()).toContain("a hand on the stop");
    expect(page.text()).toContain("Nothing yet.");
    page.press("Read it counterclockwise");
    // Nobody reads before somebody listens.
    http.expectNone("/api/circle-planes/11/read");
    bar.next({ kind: "open" });
    const reading = http.expectOne("/api/circle-planes/11/read");
    expect(reading.request.body).toEqual({ direction: 1 });
    answer(reading, { samples: 8, seconds: 1 });
    batch(0);
    expect(page.text()).toContain("+2.5");
    expect(page.text()).toContain("25 % of the way");
    batch(4);
    expect(page.text()).toContain("1 gap: nothing was received there.");
    bar.next({ kind: "waiting" });
    TestBed.tick();
    expect(page.text()).toContain("The connection is lost; the bar reads on.");
    batch(8, { values: [], ended: true });
    answer(http.expectOne("/api/circles/5"), circleSession([{ ...read, passes: read.passes.slice(0, 1) }]));
    around();
    expect(page.text()).toContain("Then the other way round");
    expect(page.page.queryByRole("button", { name: "Read it clockwise" })).not.toBeNull();
    expect(page.text()).toContain("X and Y are out of square");
  });

  it("a refusal is said and nothing seems to be read", () => {
    const page = open(circleSession([empty]));
    page.press("Read it counterclockwise");
    bar.next({ kind: "open" });
    refuse(http.expectOne("/api/circle-planes/11/read"), 409, { detail: "The bar is reading this plane already." });
    expect(page.alerts()).toContain("The bar is reading this plane already.");
    expect(page.page.queryByRole("button", { name: "Stop the machine" })).toBeNull();
  });

  it("who comes while it reads joins in, and can stop it", () => {
    const page = open(circleSession([empty], { reading: 11 }));
    batch(4);
    expect(page.text()).not.toContain("gap");
    page.press("Stop the machine");
    answer(http.expectOne("/api/circle-planes/11/stop"), { stopped: true });
    batch(4, { values: [], ended: true });
    answer(http.expectOne("/api/circles/5"), circleSession([empty]));
    around();
    expect(page.text()).toContain("Before the bar is set on");
  });

  it("typed readings stay till they are kept, and a wrong one is named", () => {
    const page = open(circleSession([empty], { connected: false }));
    expect(page.page.queryByRole("button", { name: /^Read it/ })).toBeNull();
    page.press("Type an indicator’s readings…");
    page.type(/^Every 10° from 0°/, "1 2 x");
    page.press("Keep these readings");
    expect(page.alerts()).toContain("“x” is not a number.");
    page.type(/^Every 10° from 0°/, "1 2 3");
    page.press("Keep these readings");
    expect(page.alerts()).toContain("3 readings: at least 24 are needed, every 10° is usual.");
    page.type(/^Every 10° from 0°/, Array.from({ length: 36 }, (_, i) => i / 10).join(" "));
    page.press("Keep these readings");
    const sent = http.expectOne("/api/circle-planes/11/typed");
    expect(sent.request.body).toMatchObject({ direction: 1, readings: expect.any(Array) as unknown[] });
    expect((sent.request.body as { readings: object[] }).readings[3]).toEqual({
      deg: 30,
      mm: expect.closeTo(0.0003, 9) as number,
    });
    cut(sent);
    expect(page.text()).toContain("The server does not answer.");
    expect(page.value(/^Every 10° from 0°/)).toContain("0.1 0.2");
    jest.useFakeTimers();
    page.press("Keep these readings");
    expect(page.text()).toContain("The readings are kept and taken apart");
    jest.advanceTimersByTime(1000);
    answer(http.expectOne("/api/circle-planes/11/work"), { share: 0.4 });
    expect(page.page.getByRole("progressbar").getAttribute("aria-valuenow")).toBe("40");
    jest.advanceTimersByTime(1000);
    cut(http.expectOne("/api/circle-planes/11/work"));
    jest.useRealTimers();
    answer(http.expectOne("/api/circle-planes/11/typed"), circleSession([read]));
    expect(page.text()).not.toContain("taken apart;");
    around();
    expect(page.page.queryByLabelText(/^Every 10° from 0°/)).toBeNull();
  });

  it("a part is taken out of the drawing as if it were mended, a way round set aside, the session ended", () => {
    const page = open(circleSession([read]));
    page.tick("X and Y are out of square");
    expect(page.page.getByLabelText<HTMLInputElement>("X and Y are out of square").checked).toBe(true);
    page.page.getAllByRole("button", { name: "Set aside" })[0].click();
    const aside = http.expectOne("/api/circle-passes/1/aside");
    answer(aside, circleSession([read]));
    around();
    page.press("End with what is read");
    answer(http.expectOne("/api/circles/5/finish"), circleSession([read], { state: "finished" }));
    around();
    expect(page.page.queryByRole("button", { name: "End with what is read" })).toBeNull();
  });

  it("giving up asks why", () => {
    const page = open(circleSession([empty]));
    page.press("Give up…");
    page.type(/^Why it is given up/, "no bar today");
    page.press("Give the test up");
    const sent = http.expectOne("/api/circles/5/abandon");
    expect(sent.request.body).toEqual({ reason: "no bar today" });
    answer(sent, circleSession([empty], { state: "abandoned", reason: "no bar today" }));
    around();
    expect(page.text()).toContain("This session was given up: no bar today.");
  });

  it("one that cannot be had says so and is asked for again", () => {
    const page = show(CirclePage, { sessionId: "5" });
    cut(http.expectOne("/api/circles/5"));
    expect(page.alerts()).toContain("The server does not answer.");
    page.press("Try again");
    answer(http.expectOne("/api/circles/5"), circleSession([read]));
    around();
    expect(page.text()).toContain("What the numbers say");
  });
});
