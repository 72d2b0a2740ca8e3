import { TestBed } from "@angular/core/testing";
import type { HttpTestingController } from "@angular/common/http/testing";
import type { Me } from "@iron/contract";
import { setUpBed } from "../../testing/place";
import { Changes } from "./changes";
import { Door } from "./door";
import { FirstAnswer, PAGE } from "./working-as";

const ME: Me = {
  ...{ door: "people", person: { id: 1, name: "Rowan", sign: "RK", role: "keeper" }, chooses: false, names: [] },
  ...{ token: "t1", seals: [], quietMinutes: 10 },
};

/** A stream whose events the test sends. */
class Stream {
  static readonly CLOSED = 2;
  static readonly open: Stream[] = [];
  readyState = 1;
  onmessage: ((event: { data: string }) => void) | null = null;
  onopen: (() => void) | null = null;
  onerror: (() => void) | null = null;
  constructor(readonly url: string) {
    Stream.open.push(this);
  }
  close(): void {
    this.readyState = Stream.CLOSED;
    Stream.open.splice(Stream.open.indexOf(this), 1);
  }
  says(path: string, page = "another"): void {
    this.onmessage?.({ data: JSON.stringify({ path, page }) });
  }
}

describe("what others change", () => {
  let http: HttpTestingController;
  let door: Door;
  let heard: string[];
  const listen = (name: string, ...words: string[]): void => {
    TestBed.inject(Changes)
      .of(...words)
      .subscribe(() => heard.push(name));
  };
  beforeEach(() => {
    jest.useFakeTimers();
    Object.assign(globalThis, { EventSource: Stream });
    Stream.open.length = 0;
    http = setUpBed();
    door = TestBed.inject(Door);
    heard = [];
  });
  afterEach(() => {
    http.verify();
    jest.useRealTimers();
    Reflect.deleteProperty(globalThis, "EventSource");
  });
  const passes = (): void => {
    TestBed.tick();
    jest.advanceTimersByTime(250);
  };

  it("is asked for from a page’s first answer on: one’s own early changes are among it, and not heard", () => {
    TestBed.inject(FirstAnswer).at = "a.4";
    listen("jobs", "jobs");
    door.take(ME);
    passes();
    expect(Stream.open.map((s) => s.url)).toEqual(["/api/changes?ngsw-bypass&after=a.4"]);
    Stream.open[0].onopen?.();
    Stream.open[0].says("/api/jobs/4", PAGE);
    passes();
    expect(heard).toEqual([]);
    Stream.open[0].says("/api/jobs/4");
    passes();
    expect(heard).toEqual(["jobs"]);
  });

  it("is heard by the pages that show it, several at once once, and one’s own not at all", () => {
    listen("jobs", "jobs");
    listen("all");
    door.take(ME);
    passes();
    expect(Stream.open.map((s) => s.url)).toEqual(["/api/changes?ngsw-bypass"]);
    const [stream] = Stream.open;
    stream.says("/api/jobs/3/acts");
    stream.says("/api/jobs/3/acts");
    stream.says("/api/jobs/4", PAGE);
    passes();
    expect(heard.sort()).toEqual(["all", "jobs"]);
    stream.says("/api/part-orders/2/state");
    passes();
    expect(heard.sort()).toEqual(["all", "all", "jobs"]);
    stream.says("/api/jobs/4", PAGE);
    passes();
    expect(heard).toHaveLength(3);
  });

  it("is not asked for by nobody; after a gap everything is looked at", () => {
    listen("jobs", "jobs");
    passes();
    expect(Stream.open).toEqual([]);
    door.take({ ...ME, person: null });
    passes();
    expect(Stream.open).toEqual([]);
    door.take(ME);
    passes();
    Stream.open[0].onopen?.();
    passes();
    expect(heard).toEqual([]);
    // Whoever left sees nothing more.
    door.take({ ...ME, person: null });
    passes();
    expect(Stream.open).toEqual([]);
    door.take(ME);
    passes();
    Stream.open[0].onopen?.();
    passes();
    expect(heard).toEqual(["jobs"]);
  });

  it("a stream that was refused is asked for again, later", () => {
    listen("all");
    door.take(ME);
    passes();
    const [stream] = Stream.open;
    stream.readyState = Stream.CLOSED;
    stream.onerror?.();
    expect(Stream.open).toHaveLength(1);
    expect(TestBed.inject(Changes).cut()).toBe(true);
    jest.advanceTimersByTime(30_000);
    expect(Stream.open).toHaveLength(2);
    Stream.open[1].onopen?.();
    expect(TestBed.inject(Changes).cut()).toBe(false);
    passes();
    expect(heard).toEqual(["all"]);
  });

  it("a page nobody sees looks once it is seen", () => {
    const hidden = jest.spyOn(document, "hidden", "get").mockReturnValue(true);
    listen("all");
    door.take(ME);
    passes();
    Stream.open[0].says("/api/jobs/3");
    passes();
    expect(heard).toEqual([]);
    hidden.mockReturnValue(false);
    document.dispatchEvent(new Event("visibilitychange"));
    expect(heard).toEqual(["all"]);
  });
});
