import { provideHttpClient } from "@angular/common/http";
import { HttpTestingController, provideHttpClientTesting } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { VisitQueue, type WaitingVisit } from "./visit-queue";

const visit = (key: string, pointId = 7): WaitingVisit => ({
  pointId,
  place: "X ball nut",
  by: "Ama",
  visit: { key, found: "dry", dose: 2, glitter: false, words: "" },
});

describe("visits on their way to the server", () => {
  let http: HttpTestingController;
  const make = (): VisitQueue => TestBed.inject(VisitQueue);
  beforeEach(() => {
    localStorage.clear();
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
    http = TestBed.inject(HttpTestingController);
  });
  afterEach(() => {
    http.verify();
    jest.useRealTimers();
  });

  it("go out in order under the name of who made them", () => {
    const queue = make();
    queue.add(visit("a"));
    queue.add(visit("b", 8));
    const first = http.expectOne("/api/lube-points/7/visits");
    expect(first.request.headers.get("x-working-as")).toBe("Ama");
    first.flush({ id: 7 });
    http.expectOne("/api/lube-points/8/visits").flush({ id: 8 });
    expect(queue.waiting()).toEqual([]);
    expect(queue.taken()?.id).toBe(8);
  });

  it("wait without a connection, outlive the page, and go by themselves", () => {
    jest.useFakeTimers();
    const queue = make();
    queue.add(visit("a"));
    http.expectOne("/api/lube-points/7/visits").error(new ProgressEvent("error"));
    expect(queue.offline()).toBe(true);
    expect(localStorage.getItem("iron-visits-waiting")).toContain('"key":"a"');
    jest.advanceTimersByTime(3500);
    http.expectOne("/api/lube-points/7/visits").flush({ id: 7 });
    expect(queue.offline()).toBe(false);
    expect(localStorage.getItem("iron-visits-waiting")).toBeNull();
  });

  it("are picked up by the next page", () => {
    localStorage.setItem("iron-visits-waiting", JSON.stringify([visit("left")]));
    const queue = make();
    http.expectOne("/api/lube-points/7/visits").flush({ id: 7 });
    expect(queue.waiting()).toEqual([]);
  });

  it("what the server would not have is told by the next page too, until it is read", () => {
    make().add(visit("a"));
    const late = { status: 409, statusText: "Conflict" };
    http.expectOne("/api/lube-points/7/visits").flush({ detail: "Done already.", current: { id: 7 } }, late);
    TestBed.resetTestingModule();
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
    http = TestBed.inject(HttpTestingController);
    const queue = make();
    expect(queue.refused()).toEqual([{ ...visit("a"), message: "Done already.", besides: true }]);
    expect(queue.waiting()).toEqual([]);
    queue.read("a");
    expect(queue.refused()).toEqual([]);
    expect(localStorage.getItem("iron-visits-refused")).toBeNull();
  });

  it("one that somebody else has done is told with the server’s words, and the rest goes on", () => {
    const queue = make();
    queue.add(visit("a"));
    queue.add(visit("b"));
    http
      .expectOne("/api/lube-points/7/visits")
      .flush(
        { title: "Conflict", status: 409, detail: "Rowan has done this point already." },
        { status: 409, statusText: "Conflict" },
      );
    expect(queue.refused().map((r) => r.message)).toEqual(["Rowan has done this point already."]);
    http.expectOne("/api/lube-points/7/visits").flush({ id: 7 });
    expect(queue.refused()[0].besides).toBe(false);
    queue.read("a");
    expect(queue.refused()).toEqual([]);
  });

  it("what was told is not lost where somebody was faster: it can be kept beside theirs, under a key of its own", () => {
    const queue = make();
    queue.add(visit("a"));
    const body = { status: 409, detail: "Rowan has done this point already.", current: { id: 7 } };
    http.expectOne("/api/lube-points/7/visits").flush(body, { status: 409, statusText: "Conflict" });
    const [refused] = queue.refused();
    expect(refused.besides).toBe(true);
    queue.keepBesides(refused);
    expect(queue.refused()).toEqual([]);
    const request = http.expectOne("/api/lube-points/7/visits");
    expect(request.request.body).toMatchObject({ found: "dry", dose: 2, again: true });
    expect((request.request.body as { key: string }).key).not.toBe("a");
    request.flush({ id: 7 });
    expect(queue.waiting()).toEqual([]);
  });
});
