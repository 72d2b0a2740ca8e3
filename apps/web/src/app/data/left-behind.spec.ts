import { HttpClient, provideHttpClient, withInterceptors } from "@angular/common/http";
import { HttpTestingController, provideHttpClientTesting } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { provideRouter, Router } from "@angular/router";
import { MessageService } from "primeng/api";
import { answer, cut, hearNotices, refuse } from "../../testing/place";
import { Api } from "./api";
import { LeftBehind, leftBehind } from "./left-behind";
import { Notices } from "./notices";
import { Preferences } from "./preferences";
import { Waiting } from "./waiting";
import { workingAs } from "./working-as";

describe("what is sent from a page that is left before it fails", () => {
  let http: HttpTestingController;
  let router: Router;
  let said: string[];
  const start = (): void => {
    TestBed.configureTestingModule({
      providers: [
        provideRouter([{ path: "**", children: [] }]),
        provideHttpClient(withInterceptors([leftBehind, workingAs])),
        provideHttpClientTesting(),
        MessageService,
      ],
    });
    http = TestBed.inject(HttpTestingController);
    router = TestBed.inject(Router);
    said = hearNotices();
  };
  beforeEach(async () => {
    localStorage.clear();
    start();
    document.title = "Heron X · Iron Patience";
    await router.navigateByUrl("/machines/1/axes/2/history");
  });
  afterEach(() => http.verify());
  const plan = { at: "2026-03-02", words: "nut replaced" };
  const note = (): { failed: unknown } => {
    const heard: { failed: unknown } = { failed: null };
    TestBed.inject(Api)
      .call("createEvent", { params: { id: 2 }, body: plan as never })
      .subscribe({ error: (failure: unknown) => (heard.failed = failure) });
    return heard;
  };
  const sent = () => http.expectOne({ url: "/api/axes/2/events", method: "POST" });
  const kept = () => TestBed.inject(Waiting).notTaken();

  it("is told, with the page it came from, and stays on this device over a reload until it is let go", async () => {
    note();
    await router.navigateByUrl("/floor");
    refuse(sent(), 422, { detail: "At 2026-03-02 the axis was not there." });
    expect(said).toEqual(["From “Heron X”, not kept: At 2026-03-02 the axis was not there."]);
    TestBed.resetTestingModule();
    start();
    TestBed.inject(LeftBehind);
    const [one] = kept();
    expect(one).toMatchObject({
      what: "Heron X, Technician",
      message: "At 2026-03-02 the axis was not there.",
      path: "/machines/1/axes/2/history",
      says: JSON.stringify(plan),
    });
    one.read();
    expect(kept()).toEqual([]);
    expect(localStorage.getItem("iron-patience.behind")).toBeNull();
  });

  it("can be sent once more by who made it, and by nobody else; what nobody answered may be done already", async () => {
    note();
    await router.navigateByUrl("/floor");
    cut(sent());
    expect(kept()[0].message).toContain("It may be done all the same: look there first.");
    kept()[0].again?.();
    cut(sent());
    expect(kept()).toHaveLength(1);
    // Pressed twice it goes once.
    kept()[0].again?.();
    kept()[0].again?.();
    const again = sent();
    expect(again.request.body).toEqual(plan);
    answer(again, {});
    expect(kept()).toEqual([]);
    expect(said.at(-1)).toBe("Sent again, and kept now.");
    note();
    await router.navigateByUrl("/jobs");
    cut(sent());
    TestBed.inject(Preferences).who.set("Ilse");
    expect(kept()[0].again).toBeUndefined();
  });

  it("a page that is still there says it itself; what it says in a notice is said once", async () => {
    const heard = note();
    refuse(sent(), 422, { detail: "No." });
    expect([said, kept()]).toEqual([[], []]);
    expect(heard.failed).not.toBeNull();
    const later = note();
    await router.navigateByUrl("/floor");
    refuse(sent(), 422, { detail: "No." });
    TestBed.inject(Notices).error(later.failed);
    expect(said).toEqual(["From “Heron X”, not kept: No."]);
  });

  it("what is done now or not at all, or is secret, is told and no word of it kept; what only asks is missed by nobody", async () => {
    const client = TestBed.inject(HttpClient);
    for (const url of ["/api/axes/2/device/jog", "/api/people", "/api/axes/2/load-trace", "/api/sign-in"])
      client.post(url, { secret: "714902" }).subscribe({ error: () => undefined });
    client.post("/api/cases/5/photos", new Blob(["x"])).subscribe({ error: () => undefined });
    client.get("/api/floor").subscribe({ error: () => undefined });
    await router.navigateByUrl("/floor");
    http.match(() => true).forEach((one) => refuse(one, 422, { detail: one.request.url }));
    expect(said).toEqual(["/api/axes/2/device/jog", "/api/people", "/api/cases/5/photos"]);
    expect(kept()).toEqual([]);
    expect(JSON.stringify(localStorage)).not.toContain("714902");
  });

  it("what waits in a queue, or is looked after by who outlives the page, is theirs to tell", async () => {
    const api = TestBed.inject(Api);
    const params = { id: 5 };
    api.call("updateCase", { params, body: {} as never, lookedAfter: true }).subscribe({ error: () => undefined });
    api.call("actOnJob", { params, body: {} as never, by: "Ilse" }).subscribe({ error: () => undefined });
    await router.navigateByUrl("/floor");
    http.match(() => true).forEach((one) => cut(one));
    expect([said, kept()]).toEqual([[], []]);
  });
});
