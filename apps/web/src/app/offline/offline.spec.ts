import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { Me } from "@iron/contract";
import { setUpBed } from "../../testing/place";
import { Door } from "../data/door";
import { Waiting } from "../data/waiting";
import { PHOTO_STORE } from "../job/photo-queue";
import { SOUND_KEEP } from "../sound/sound-queue";
import { Offline } from "./offline";

const none = { all: () => Promise.resolve([]), put: () => Promise.resolve(), remove: () => Promise.resolve() };
const me: Me = {
  ...{ door: "people", person: { id: 1, name: "Ilse", sign: "IB", role: "technician" }, chooses: false, names: [] },
  ...{ token: "t", seals: [], quietMinutes: 10 },
};

describe("what is done without a server", () => {
  let http: HttpTestingController;
  const registered = jest.fn();
  let worker: EventTarget;
  const begin = (): void => {
    http = setUpBed({ provide: PHOTO_STORE, useValue: none }, { provide: SOUND_KEEP, useValue: none });
  };
  beforeEach(() => {
    registered.mockReset();
    const more = { register: registered, ready: Promise.resolve(), controller: null };
    worker = Object.assign(new EventTarget(), more);
    Object.defineProperty(navigator, "serviceWorker", { value: worker, configurable: true });
    begin();
  });
  afterEach(() => {
    Reflect.deleteProperty(navigator, "serviceWorker");
    http.verify();
  });

  it("what earlier pages left goes out, of every kind, whatever page this is; the head band knows how much", () => {
    const act = { kind: "note", step: "X:tighten", words: "rust", key: "a" };
    localStorage.setItem("iron-job-7-waiting", JSON.stringify([{ act, at: "2026-03-03T09:00:00Z", by: "Ilse" }]));
    const visit = { key: "b" };
    localStorage.setItem("iron-visits-waiting", JSON.stringify([{ pointId: 4, place: "", visit, by: "Ilse" }]));
    TestBed.inject(Door).take(me);
    TestBed.inject(Offline).begin();
    expect(TestBed.inject(Waiting).count()).toBe(2);
    http.expectOne("/api/lube-points/4/visits").flush({ id: 4 });
    const refused = { title: "Conflict", status: 409, detail: "Rowan signed it meanwhile." };
    http.expectOne("/api/jobs/7/acts").flush(refused, { status: 409, statusText: "Conflict" });
    const { count, notTaken } = TestBed.inject(Waiting);
    const [one] = notTaken();
    expect([count(), notTaken().length, one.path, one.message]).toEqual([
      0,
      1,
      "/jobs/7",
      "Rowan signed it meanwhile.",
    ]);
    one.read();
    expect([notTaken(), localStorage.getItem("iron-job-7-refused")]).toEqual([[], null]);
  });

  it("a newer version that is ready before anything looks after versions is offered all the same", () => {
    const { newer } = TestBed.inject(Waiting);
    const says = (data: unknown): void => void worker.dispatchEvent(new MessageEvent("message", { data }));
    says(null);
    says({ type: "VERSION_DETECTED" });
    expect(newer()).toBe(false);
    says({ type: "VERSION_READY" });
    expect(newer()).toBe(true);
  });

  it("on the machine that the server runs on, no page is kept", () => {
    expect(location.hostname).toBe("localhost");
    TestBed.inject(Offline).begin();
    expect(registered).not.toHaveBeenCalled();
  });
});
