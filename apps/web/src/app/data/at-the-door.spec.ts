import { HttpClient, provideHttpClient, withInterceptors } from "@angular/common/http";
import { HttpTestingController, provideHttpClientTesting } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { Me } from "@iron/contract";
import { answer, refuse } from "../../testing/place";
import { atTheDoor } from "./at-the-door";
import { Door } from "./door";
import { Preferences } from "./preferences";
import { FirstAnswer, workingAs } from "./working-as";

const ROWAN = { id: 1, name: "Rowan", sign: "RK" };
const ILSE = { id: 2, name: "Ilse", sign: "IB" };
const me = (over: Partial<Me> = {}): Me => ({
  ...{ door: "people", person: { ...ROWAN, role: "technician" }, chooses: false, names: [ROWAN, ILSE] },
  ...{ token: "t1", seals: [], quietMinutes: 10 },
  ...over,
});

describe("at the door", () => {
  let http: HttpTestingController;
  let door: Door;
  let said: unknown[];
  beforeEach(() => {
    localStorage.clear();
    TestBed.configureTestingModule({
      providers: [provideHttpClient(withInterceptors([atTheDoor, workingAs])), provideHttpClientTesting()],
    });
    http = TestBed.inject(HttpTestingController);
    door = TestBed.inject(Door);
    said = [];
  });
  afterEach(() => http.verify());
  const hear = {
    next: (v: unknown) => said.push(v),
    error: (e: { error: { detail: string } }) => said.push(e.error.detail),
  };
  const keep = (by?: string) =>
    TestBed.inject(HttpClient)
      .put("/api/shop", {}, by === undefined ? {} : { headers: { "x-working-as": encodeURIComponent(by) } })
      .subscribe(hear);
  const sent = () => http.expectOne("/api/shop");
  const signInFirst = () => refuse(sent(), 401, { detail: "Sign in first.", more: { title: "Sign in" } });

  it("nothing is asked before it is known who it is; then once, with the page’s token", () => {
    door.load();
    keep();
    http.expectNone("/api/shop");
    answer(http.expectOne("/api/me"), me({ person: null, token: null }));
    http.expectNone("/api/shop");
    door.take(me());
    const { request } = sent();
    expect([request.headers.get("x-token"), request.headers.get("x-working-as")]).toEqual(["t1", "Rowan"]);
  });

  it("how far the changes were at the first answer is kept, and at no later one", () => {
    door.load();
    answer(http.expectOne("/api/me"), me());
    for (const at of ["a.4", "a.6"]) {
      TestBed.inject(HttpClient).get("/api/floor").subscribe(hear);
      http.expectOne("/api/floor").flush({}, { headers: { "x-changes": at } });
    }
    expect(TestBed.inject(FirstAnswer).at).toBe("a.4");
  });

  it("a server that does not answer holds nothing up", () => {
    door.load();
    keep();
    http.expectOne("/api/me").error(new ProgressEvent("error"));
    expect(sent().request.headers.has("x-token")).toBe(false);
  });

  it("where nobody has to sign in everything goes at once", () => {
    door.take(me({ door: "open", person: null, token: null }));
    keep();
    sent();
    expect([door.shut(), door.may("updateShop")]).toEqual([false, true]);
  });

  it("a session that has ended: what was pressed waits, and goes once more under its own name", () => {
    door.take(me());
    keep();
    signInFirst();
    expect(door.shut()).toBe(true);
    answer(http.expectOne("/api/me"), me({ person: null, token: null }));
    http.expectNone("/api/shop");
    door.take(me({ token: "t2" }));
    const again = sent();
    expect(again.request.headers.get("x-token")).toBe("t2");
    answer(again, { ok: true });
    expect(said).toEqual([{ ok: true }]);
  });

  it("where another signs in then, it is not sent under their name; it says so", () => {
    door.take(me());
    keep();
    signInFirst();
    answer(http.expectOne("/api/me"), me({ person: null, token: null }));
    door.take(me({ person: { ...ILSE, role: "technician" } }));
    expect(said).toEqual(["Rowan sent this, and Ilse is here now: send it again if it is to be yours."]);
    expect(TestBed.inject(Preferences).who()).toBe("Ilse");
  });

  it("what is kept where it waits is not held here: it is told why it cannot go, and goes by itself later", () => {
    door.take(me({ person: { ...ILSE, role: "technician" } }));
    keep("Rowan");
    refuse(sent(), 403, { detail: "Rowan did this", more: { title: "Another’s work" } });
    keep("Rowan");
    signInFirst();
    http.expectOne("/api/me");
    door.take(me());
    http.expectNone("/api/shop");
    // Whoever brings it is not asked for another’s PIN.
    door.take(me({ person: { ...ILSE, role: "technician" } }));
    keep("Rowan");
    const errors = [{ path: "again", message: "Rowan" }];
    refuse(sent(), 403, { detail: "Rowan, your PIN again.", more: { title: "PIN again", errors } });
    expect(door.asked()).toBeNull();
    expect(said).toEqual(["Rowan did this", "Sign in first.", "Rowan, your PIN again."]);
  });

  it("opened without a server it knows who was here last; what changes something asks first who is here now", () => {
    door.take(me());
    const gone = (url: string) => http.expectOne(url).error(new ProgressEvent("error"));
    const again = () => {
      TestBed.resetTestingModule();
      TestBed.configureTestingModule({
        providers: [provideHttpClient(withInterceptors([atTheDoor, workingAs])), provideHttpClientTesting()],
      });
      [http, door] = [TestBed.inject(HttpTestingController), TestBed.inject(Door)];
      door.load();
      gone("/api/me");
    };
    again();
    expect([door.shut(), door.stale(), door.me()?.person?.name, door.me()?.token]).toEqual([
      false,
      true,
      "Rowan",
      null,
    ]);
    keep();
    gone("/api/me");
    // As any other that met no server.
    expect(said).toEqual([undefined]);
    keep();
    answer(http.expectOne("/api/me"), me({ token: "t9" }));
    expect(sent().request.headers.get("x-token")).toBe("t9");
    expect(door.stale()).toBe(false);
    // Who left is not here, though no server heard of it; somebody can go on, by name.
    door.leave();
    gone("/api/sign-out");
    again();
    expect([door.shut(), door.me()?.names.length]).toEqual([true, 2]);
    door.goOnAs(ILSE);
    expect([door.shut(), TestBed.inject(Preferences).who(), door.may("actOnJob")]).toEqual([false, "Ilse", true]);
    expect(door.may("createMachine")).toBe(false);
    // The server is back, and still takes her for the one who left: she is signed out before anything goes.
    keep("Ilse");
    answer(http.expectOne("/api/me"), me({ token: "t10" }));
    answer(http.expectOne("/api/sign-out"), me({ person: null, token: null }));
    http.expectNone("/api/shop");
    expect(door.shut()).toBe(true);
    door.take(me({ person: { ...ILSE, role: "technician" }, token: "t11" }));
    expect(sent().request.headers.get("x-token")).toBe("t11");
  });

  it("a signature that wants the PIN again waits for it; not given, the refusal is said", () => {
    door.take(me());
    const asks = () =>
      refuse(sent(), 403, {
        detail: "Ilse, your PIN again.",
        more: { title: "PIN again", errors: [{ path: "again", message: "Ilse" }] },
      });
    keep();
    asks();
    expect(door.asked()?.name).toBe("Ilse");
    door.prove("730164").subscribe();
    const proof = http.expectOne("/api/me/again");
    expect(proof.request.body).toEqual({ secret: "730164", personId: 2 });
    answer(proof, me());
    answer(sent(), { ok: true });
    expect(door.asked()).toBeNull();
    keep();
    asks();
    door.asked()?.answered.next(false);
    expect(said).toEqual([{ ok: true }, "Ilse, your PIN again."]);
    expect(door.asked()).toBeNull();
  });

  it("whoever leaves is gone at once, though no server answers", () => {
    door.take(me());
    door.leave();
    http.expectOne("/api/sign-out").error(new ProgressEvent("error"));
    expect([door.shut(), door.me()?.person]).toEqual([true, null]);
  });

  it("who left without a connection is signed out by the next page, before anything is shown", () => {
    door.take(me());
    door.leave();
    http.expectOne("/api/sign-out").error(new ProgressEvent("error"));
    door.load();
    keep();
    answer(http.expectOne("/api/me"), me());
    expect(door.shut()).toBe(true);
    const out = http.expectOne("/api/sign-out");
    expect(out.request.headers.get("x-token")).toBe("t1");
    answer(out, me({ person: null, token: null }));
    expect(door.shut()).toBe(true);
    http.expectNone("/api/shop");
    door.take(me());
    sent();
    door.load();
    answer(http.expectOne("/api/me"), me());
    expect(door.shut()).toBe(false);
  });

  it("an answer to what was asked before somebody came in does not put them out again", () => {
    door.take(me());
    door.leave();
    const out = http.expectOne("/api/sign-out");
    door.load();
    const asked = http.expectOne("/api/me");
    door.take(me({ person: { ...ILSE, role: "technician" } }));
    answer(out, me({ person: null, token: null }));
    answer(asked, me({ person: null, token: null }));
    expect([door.shut(), door.me()?.person?.name]).toEqual([false, "Ilse"]);
  });

  it("several that wait ask once who is here; what they are told of before somebody came in puts nobody out", () => {
    door.take(me());
    door.leave();
    http.expectOne("/api/sign-out").error(new ProgressEvent("error"));
    door.goOnAs(ILSE);
    for (let i = 0; i < 3; i += 1) keep("Ilse");
    answer(http.expectOne("/api/me"), me({ token: "t10" }));
    const out = http.expectOne("/api/sign-out");
    expect(door.shut()).toBe(true);
    // She was let in before the answer to that came.
    door.take(me({ person: { ...ILSE, role: "technician" }, token: "t11" }));
    answer(out, me({ person: null, token: null }));
    expect([door.shut(), door.me()?.person?.name]).toEqual([false, "Ilse"]);
    expect(http.match("/api/shop").map((r) => r.request.headers.get("x-token"))).toEqual(["t11", "t11", "t11"]);
    // Who is asked for after that is asked anew.
    door.load();
    answer(http.expectOne("/api/me"), me({ person: null, token: null }));
    expect(door.shut()).toBe(true);
  });

  it("a stop waits for nobody", () => {
    door.take(me({ person: null, token: null }));
    for (const url of ["/api/axes/3/device/stop", "/api/circle-planes/11/stop"]) {
      TestBed.inject(HttpClient).post(url, {}).subscribe(hear);
      answer(http.expectOne(url), { stopped: true });
    }
    expect(said).toEqual([{ stopped: true }, { stopped: true }]);
  });

  it("what moves a machine is done now or not at all: no axis starts because somebody signs in", () => {
    const urls = ["/api/axes/3/device/jog", "/api/runs/7/readings"];
    for (const url of urls) {
      const press = () => TestBed.inject(HttpClient).post(url, {}).subscribe(hear);
      door.take(me());
      press();
      refuse(http.expectOne(url), 401, { detail: "Sign in first.", more: { title: "Sign in" } });
      answer(http.expectOne("/api/me"), me({ person: null, token: null }));
      press();
      door.take(me());
      http.expectNone(url);
    }
    expect(said).toHaveLength(4);
    // Nor does it wait while the page asks once more who is here: it goes, and the server says no.
    door.load();
    TestBed.inject(HttpClient).post(urls[0], {}).subscribe(hear);
    refuse(http.expectOne(urls[0]), 401, { detail: "Sign in first.", more: { title: "Sign in" } });
    for (const asked of http.match("/api/me")) if (!asked.cancelled) answer(asked, me({ person: null, token: null }));
    door.take(me());
    http.expectNone(urls[0]);
    expect(said).toHaveLength(5);
    for (const one of said) expect(one).toContain("this was not done");
  });

  it("a role may what the table says", () => {
    door.take(me({ person: { ...ROWAN, role: "look" } }));
    expect([door.may("floor"), door.may("takeReading"), door.may("createMachine")]).toEqual([true, false, false]);
    door.take(me({ person: { ...ROWAN, role: "planner" } }));
    expect([door.may("createMachine"), door.may("people")]).toEqual([true, false]);
  });
});
