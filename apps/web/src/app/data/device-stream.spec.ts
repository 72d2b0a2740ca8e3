import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import type { Me } from "@iron/contract";
import { refuse, setUpBed } from "../../testing/place";
import { DeviceStream } from "./device-stream";
import { Door } from "./door";

const me = (person: Me["person"]): Me => ({
  ...{ door: "people", person, chooses: false, names: [], token: person && "t", seals: [], quietMinutes: 10 },
});
const ROWAN = { id: 1, name: "Rowan", sign: "RK", role: "keeper" } as const;

/** A stream whose end the test says. */
class Stream {
  static readonly CLOSED = 2;
  static readonly opened: Stream[] = [];
  readyState = 1;
  onmessage: ((event: { data: string }) => void) | null = null;
  onerror: (() => void) | null = null;
  constructor() {
    Stream.opened.push(this);
  }
  close(): void {
    this.readyState = Stream.CLOSED;
  }
  isRefused(): void {
    this.readyState = Stream.CLOSED;
    this.onerror?.();
  }
}

describe("the stream of an indicator", () => {
  let http: HttpTestingController;
  let heard: string[];
  const watch = (first: Me | null): Door => {
    http = setUpBed();
    const door = TestBed.inject(Door);
    if (first) door.take(first);
    TestBed.inject(DeviceStream)
      .of(3)
      .subscribe(({ kind }) => heard.push(kind));
    return door;
  };
  beforeEach(() => {
    Object.assign(globalThis, { EventSource: Stream });
    Stream.opened.length = 0;
    heard = [];
  });
  afterEach(() => {
    http.verify();
    Reflect.deleteProperty(globalThis, "EventSource");
  });

  it("of an axis without one says so", () => {
    watch(me(ROWAN));
    Stream.opened[0].isRefused();
    refuse(http.expectOne("/api/axes/3/device"), 404, { detail: "No indicator." });
    expect(heard).toEqual(["waiting", "none"]);
  });

  it("where nobody signs in it is as it was refused", () => {
    watch({ ...me(null), door: "open" });
    Stream.opened[0].isRefused();
    expect(heard).toEqual(["none"]);
  });

  it("goes on with whoever comes in, where it ended with a session", () => {
    const door = watch(me(ROWAN));
    door.take(me(null));
    Stream.opened[0].isRefused();
    expect([heard, Stream.opened.length]).toEqual([["waiting"], 1]);
    door.take(me({ ...ROWAN, name: "Ilse" }));
    Stream.opened[1].onmessage?.({ data: "{}" });
    expect(heard).toEqual(["waiting", "snapshot"]);
  });

  it("refused though its device answers, it is asked for again at leisure, not over and over", () => {
    jest.useFakeTimers();
    watch(me(ROWAN));
    Stream.opened[0].onmessage?.({ data: "{}" });
    const refusedAgain = (): void => {
      Stream.opened.at(-1)?.isRefused();
      http.expectOne("/api/axes/3/device").flush({});
    };
    // Once at once: it had worked, and may have been renewed.
    refusedAgain();
    jest.advanceTimersByTime(0);
    expect(Stream.opened).toHaveLength(2);
    refusedAgain();
    expect(Stream.opened).toHaveLength(2);
    jest.advanceTimersByTime(3000);
    expect(Stream.opened).toHaveLength(3);
    jest.useRealTimers();
  });
});
