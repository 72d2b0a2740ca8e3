import { provideHttpClient } from "@angular/common/http";
import { HttpTestingController, provideHttpClientTesting } from "@angular/common/http/testing";
import type { EnvironmentProviders, Provider } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import type { Job } from "@iron/contract";
import { Waiting } from "../data/waiting";
import { PHOTO_STORE, PhotoQueue, type WaitingPhoto } from "./photo-queue";

const photo = (key: string): WaitingPhoto => ({
  key,
  of: "job",
  id: 3,
  step: "X:motor-off",
  caption: "shims",
  by: "Ama",
  file: new Blob(["x"], { type: "image/png" }),
});
const job = { id: 3, photos: [{}] } as unknown as Job;

describe("photos of a job on their way to the server", () => {
  let kept: Map<string, WaitingPhoto>;
  let queue: PhotoQueue;
  let http: HttpTestingController;
  let providers: (EnvironmentProviders | Provider)[];

  beforeEach(() => {
    kept = new Map();
    const store = {
      all: () => Promise.resolve([...kept.values()]),
      put: (p: WaitingPhoto) => Promise.resolve(void kept.set(p.key, p)),
      remove: (key: string) => Promise.resolve(void kept.delete(key)),
    };
    providers = [provideHttpClient(), provideHttpClientTesting(), { provide: PHOTO_STORE, useValue: store }];
    TestBed.configureTestingModule({ providers });
    queue = TestBed.inject(PhotoQueue);
    http = TestBed.inject(HttpTestingController);
  });
  afterEach(() => http.verify());
  const sent = (key: string) => http.expectOne((r) => r.url.startsWith("/api/jobs/3/photos") && r.url.includes(key));

  it("go out in order, under the name of who took them, and are gone when taken", () => {
    queue.add(photo("k1"));
    queue.add(photo("k2"));
    const first = sent("k1");
    expect(first.request.headers.get("x-working-as")).toBe("Ama");
    first.flush(job);
    sent("k2").flush(job);
    expect(queue.waiting()).toEqual([]);
    expect(kept.size).toBe(0);
    expect(queue.taken()).toEqual(job);
  });

  it("wait while nothing answers, outlive the page, and then go", async () => {
    queue.add(photo("k1"));
    sent("k1").error(new ProgressEvent("error"));
    expect(queue.waiting()).toHaveLength(1);
    expect(kept.has("k1")).toBe(true);
    // The next page finds it and sends it.
    TestBed.resetTestingModule();
    TestBed.configureTestingModule({ providers });
    http.verify();
    queue = TestBed.inject(PhotoQueue);
    http = TestBed.inject(HttpTestingController);
    await queue.recall();
    sent("k1").flush(job);
    expect(kept.size).toBe(0);
  });

  it("one that the server will not have is told and does not hold up the next", () => {
    queue.add(photo("k1"));
    queue.add(photo("k2"));
    sent("k1").flush(
      { title: "Not valid", status: 422, detail: "That is no picture." },
      { status: 422, statusText: "no" },
    );
    expect(queue.refused()?.message).toBe("That is no picture.");
    sent("k2").flush(job);
    expect(queue.waiting()).toEqual([]);
  });

  it("one that the server will not have outlives the page with its words, till that is read", async () => {
    queue.add(photo("k1"));
    sent("k1").flush(
      { title: "Conflict", status: 409, detail: "The job is closed." },
      { status: 409, statusText: "no" },
    );
    TestBed.resetTestingModule();
    TestBed.configureTestingModule({ providers });
    queue = TestBed.inject(PhotoQueue);
    http = TestBed.inject(HttpTestingController);
    await queue.recall();
    expect(queue.notTaken().map((p) => [p.key, p.refusal])).toEqual([["k1", "The job is closed."]]);
    const { notTaken } = TestBed.inject(Waiting);
    expect(notTaken().map((n) => [n.what, n.message, n.path])).toEqual([
      ["Photo: shims, Ama", "The job is closed.", "/jobs/3"],
    ]);
    queue.read("k1");
    expect([queue.notTaken(), notTaken(), kept.size]).toEqual([[], [], 0]);
  });

  it("one of a lubrication point goes to that point", () => {
    queue.add({ ...photo("k9"), of: "point", id: 7, step: "" });
    http.expectOne((r) => r.url.startsWith("/api/lube-points/7/photos?") && !r.url.includes("step")).flush({ id: 7 });
    expect(queue.taken()).toEqual({ id: 7 });
  });
});
