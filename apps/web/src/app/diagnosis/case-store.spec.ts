import type { HttpTestingController } from "@angular/common/http/testing";
import { createEnvironmentInjector, EnvironmentInjector } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import type { Case } from "@iron/contract";
import { AXIS_PROVIDERS, openAxis, openCase, takeUpCase, toldOf2 } from "../../testing/axis";
import { answer, cut, hearNotices, refuse, setUpBed } from "../../testing/place";
import { Waiting } from "../data/waiting";
import { AxisContext } from "../machine/axis/axis-context";
import { CaseStore } from "./case-store";

describe("the open case of an axis", () => {
  let http: HttpTestingController;
  let store: CaseStore;
  beforeEach(() => {
    jest.useFakeTimers();
    http = setUpBed(...AXIS_PROVIDERS);
    openAxis(http);
    takeUpCase(http, openCase());
    store = TestBed.inject(CaseStore);
  });
  afterEach(() => {
    around();
    http.verify();
    jest.useRealTimers();
  });
  /** What the store asks for beside: the assessment and the shares. */
  const around = (): void => {
    for (const one of http.match((r) => r.url.includes("/assessment")))
      if (!one.cancelled) one.flush({ tests: [], leading: [] });
    http.match("/api/axes/2/ledger").forEach((r) => r.flush({ axisId: 2, links: [] }));
  };
  const put = () => http.expectOne({ url: "/api/cases/5", method: "PUT" });
  const body = (request: ReturnType<typeof put>) => request.request.body as Case;
  const symptoms = () => store.told().answers;

  it("an answer is there at once and goes out at once; unknown takes it away", () => {
    store.answer("rumble", true);
    expect(symptoms()).toEqual({ rumble: true });
    const first = put();
    expect(body(first)).toMatchObject({ version: 1, told: toldOf2({ rumble: true }) });
    answer(first, openCase({ version: 2, told: toldOf2({ rumble: true }) }));
    store.answer("rumble", null);
    const second = put();
    expect(body(second)).toMatchObject({ version: 2, told: toldOf2({}) });
  });

  it("notes wait for a pause, and go out once", () => {
    for (const text of ["l", "lo", "loud"]) store.setNotes(text);
    http.expectNone("/api/cases/5");
    jest.advanceTimersByTime(400);
    expect(body(put()).notes).toBe("loud");
  });

  it("what is typed while an answer is on its way stays, and follows on the version just kept", () => {
    store.answer("rumble", true);
    const first = put();
    store.setNotes("worse when cold");
    jest.advanceTimersByTime(400);
    http.expectNone("/api/cases/5");
    answer(first, openCase({ version: 2, told: toldOf2({ rumble: true }) }));
    expect(store.current()?.notes).toBe("worse when cold");
    jest.advanceTimersByTime(400);
    expect(body(put())).toMatchObject({ version: 2, notes: "worse when cold", told: toldOf2({ rumble: true }) });
  });

  it("a result that arrives does not undo answers not yet sent", () => {
    store.setNotes("not sent yet");
    store.addResult("far-end", { "retainer-turns": false }, { note: "", data: null, then: () => undefined });
    answer(
      http.expectOne("/api/cases/5/results"),
      openCase({ version: 1, results: [{ id: 3 }] as unknown as Case["results"] }),
    );
    expect(store.current()?.notes).toBe("not sent yet");
    expect(store.current()?.results).toHaveLength(1);
    jest.advanceTimersByTime(400);
    expect(body(put()).notes).toBe("not sent yet");
  });

  const assessments = () => http.match((r) => r.url.includes("/assessment")).filter((r) => !r.cancelled);
  const weighed = (headline: string) => ({ tests: [], leading: [], headline });

  it("a verdict from before a result, or before a test that has ended since, does not stand while it is weighed", () => {
    let kept = false;
    store.addResult("far-end", { "retainer-turns": false }, { note: "", data: null, then: () => (kept = true) });
    answer(http.expectOne("/api/cases/5/results"), openCase({ version: 2 }));
    expect([kept, store.diagnosis()]).toEqual([true, null]);
    answer(assessments()[0], weighed("after the result"));
    expect(store.diagnosis()?.headline).toBe("after the result");

    TestBed.inject(AxisContext).reload();
    expect(store.diagnosis()).toBeNull();
    answer(assessments()[0], weighed("after the test"));
    expect(store.diagnosis()?.headline).toBe("after the test");
    http.match((r) => /machines|history/.test(r.url)).forEach((r) => r.flush({ axes: [], runs: [], typed: [] }));
  });

  it("of two assessments the one asked for last stands, whichever comes last", () => {
    store.diagnose();
    store.diagnose();
    const all = http.match((r) => r.url.includes("/assessment"));
    expect(all.map((r) => r.cancelled)).toEqual([true, false]);
    answer(all[1], weighed("the later"));
    expect(store.diagnosis()?.headline).toBe("the later");
  });

  it("without a server it says so, keeps the answer, and tries again by itself", () => {
    store.answer("rumble", true);
    cut(put());
    expect(store.error()).toContain("The server does not answer.");
    expect(symptoms()).toEqual({ rumble: true });
    jest.advanceTimersByTime(2500);
    answer(put(), openCase({ version: 2, told: toldOf2({ rumble: true }) }));
    expect(store.error()).toBe("");
  });

  describe("when two people wrote", () => {
    const theirs = openCase({ version: 7, notes: "theirs" });
    beforeEach(() => {
      store.setNotes("mine");
      jest.advanceTimersByTime(400);
      refuse(put(), 409, { detail: "Changed meanwhile.", more: { current: theirs } });
    });

    it("nothing more goes out till it is settled", () => {
      expect(store.theirs()?.notes).toBe("theirs");
      store.answer("rumble", true);
      http.expectNone("/api/cases/5");
    });

    it("mine goes over theirs on their version", () => {
      store.settle(true);
      const request = put();
      expect(body(request)).toMatchObject({ version: 7, notes: "mine" });
      answer(request, openCase({ version: 8, notes: "mine" }));
      expect(store.theirs()).toBeNull();
    });

    it("or theirs is taken, and nothing is sent", () => {
      store.settle(false);
      expect(store.current()?.notes).toBe("theirs");
      jest.advanceTimersByTime(1000);
      http.expectNone("/api/cases/5");
    });
  });

  it("what was answered in the last moment goes out as the page is left, under the name of who works", () => {
    const fetched = jest.fn(() => Promise.resolve({} as Response));
    const before = window.fetch;
    window.fetch = fetched as unknown as typeof fetch;
    store.setNotes("last words");
    window.dispatchEvent(new Event("pagehide"));
    window.fetch = before;
    const [url, init] = fetched.mock.calls[0] as unknown as [string, RequestInit];
    expect(url).toBe("/api/cases/5");
    expect(init).toMatchObject({ method: "PUT", keepalive: true });
    expect(JSON.parse(init.body as string)).toMatchObject({ version: 1, notes: "last words" });
    expect((init.headers as Record<string, string>)["x-working-as"]).toBe("Technician");
    jest.advanceTimersByTime(1000);
    http.expectNone("/api/cases/5");
  });

  it("and with what asks for it, where the page goes on to another place", () => {
    const frame = createEnvironmentInjector([CaseStore], TestBed.inject(EnvironmentInjector));
    const its = frame.get(CaseStore);
    its.load(2);
    answer(http.expectOne("/api/axes/2/cases"), [{ id: 5, state: "open" }]);
    answer(http.expectOne("/api/cases/5"), openCase());
    its.setNotes("last words");
    frame.destroy();
    expect(body(put())).toMatchObject({ version: 1, notes: "last words" });
  });

  it("a result set aside can be taken back in from the notice", () => {
    const said = hearNotices();
    store.withdraw(3);
    answer(http.expectOne("/api/results/3/withdraw"), openCase());
    expect(said).toEqual(["Result taken back."]);
  });

  it("closing is undone from its notice, and a refusal is told", () => {
    const said = hearNotices();
    store.close(["retainer-loose"], "two screws loose");
    const request = http.expectOne("/api/cases/5/close");
    expect(request.request.body).toEqual({ version: 1, found: ["retainer-loose"], words: "two screws loose" });
    refuse(request, 409, { detail: "A job of this case is still open." });
    expect(said).toEqual(["A job of this case is still open."]);
    expect(store.open()?.id).toBe(5);
  });

  describe("when one goes on to another axis", () => {
    const goOn = () => {
      store.load(3);
      return http.expectOne("/api/axes/3/cases");
    };
    const nowhere = () => {
      expect([store.current(), store.summaries(), store.diagnosis(), store.saving()]).toEqual([null, [], null, false]);
      expect(symptoms()).toEqual({});
    };

    it("what was kept of the first does not come to the second, whichever answer comes last", () => {
      store.answer("rumble", true);
      const first = put();
      answer(goOn(), []);
      answer(first, openCase({ version: 2, told: toldOf2({ rumble: true }) }));
      nowhere();
      // Nothing that is pressed now goes into the case of the first.
      store.setNotes("of the second");
      jest.advanceTimersByTime(400);
      http.expectNone("/api/cases/5");
    });

    it("a result, a photo, or a case that is opened for the first does not either", () => {
      let gone = false;
      store.addResult("far-end", { "retainer-turns": false }, { note: "", data: null, then: () => (gone = true) });
      store.addPhoto(new Blob(["x"]), "nut", null);
      const late = [
        http.expectOne("/api/cases/5/results"),
        http.expectOne((r) => r.url.includes("/api/cases/5/photos")),
      ];
      answer(goOn(), []);
      for (const one of late) answer(one, openCase({ version: 2 }));
      nowhere();
      expect(gone).toBe(false);
    });

    it("nor what was asked for on the way there and back", () => {
      const second = goOn();
      store.load(2);
      const first = http.expectOne("/api/axes/2/cases");
      store.load(3);
      const last = http.expectOne("/api/axes/3/cases");
      answer(last, []);
      for (const one of [first, second]) if (!one.cancelled) answer(one, [{ id: 5, state: "open" }]);
      http.match("/api/cases/5").forEach((r) => answer(r, openCase()));
      nowhere();
    });

    it("what was typed last goes out after what is on its way, on the version just kept", () => {
      store.answer("rumble", true);
      const first = put();
      store.setNotes("worse when cold");
      answer(goOn(), []);
      answer(first, openCase({ version: 2, told: toldOf2({ rumble: true }) }));
      const second = put();
      expect(body(second)).toMatchObject({ version: 2, notes: "worse when cold" });
      answer(second, openCase({ version: 3, notes: "worse when cold" }));
      nowhere();
    });

    it("what could not be kept by then is told, and stays on this device", () => {
      const said = hearNotices();
      store.setNotes("worse when cold");
      const asked = goOn();
      cut(put());
      answer(asked, []);
      expect(said).toEqual([expect.stringContaining("the server did not answer.")]);
      const [left] = TestBed.inject(Waiting).notTaken();
      expect(left.says).toContain("worse when cold");
      jest.advanceTimersByTime(5000);
      nowhere();
    });
  });

  it("of two answers before there is a case the second goes into the case that the first begins", () => {
    store.load(3);
    answer(http.expectOne("/api/axes/3/cases"), []);
    store.answer("rumble", true);
    const opens = http.expectOne("/api/machines/1/cases");
    store.answer("hot-end", false);
    http.expectNone("/api/machines/1/cases");
    const begun = { ...toldOf2({ rumble: true })[2] };
    answer(opens, openCase({ axisIds: [3], told: { 3: begun } }));
    expect(body(put()).told[3].answers).toEqual({ rumble: true, "hot-end": false });
    http.match("/api/axes/3/cases");
  });

  it("and does so too where one has gone on before it is there", () => {
    store.load(3);
    answer(http.expectOne("/api/axes/3/cases"), []);
    store.answer("rumble", true);
    store.answer("hot-end", false);
    const opens = http.expectOne("/api/machines/1/cases");
    store.load(4);
    answer(http.expectOne("/api/axes/4/cases"), []);
    answer(opens, openCase({ axisIds: [3], told: { 3: toldOf2({ rumble: true })[2] } }));
    expect(body(put()).told[3].answers).toEqual({ rumble: true, "hot-end": false });
    expect([store.current(), store.saving()]).toEqual([null, false]);
  });
});
