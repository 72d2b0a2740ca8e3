import type { HttpTestingController, TestRequest } from "@angular/common/http/testing";
import type { EnvironmentProviders, Provider } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import { LARGEST_SOUND_PART, type Sound } from "@iron/contract";
import { refuse, setUpBed, show } from "../../testing/place";
import { SOUND_KEEP, SoundQueue, type WaitingSound } from "./sound-queue";
import { SoundWaiting } from "./sound-waiting";

const plan = { stillS: 4, feedMmMin: 8000, fromMm: 0, strokeMm: 300, passes: 2, dwellS: 0.5 };
const what = { plan, source: "microphone", place: "on the column", ownGain: false } as const;
/** A part and a half. */
const SIZE = 1.5 * LARGEST_SOUND_PART;
const file = new Blob([new Uint8Array(SIZE)]);
const sound = (received: number, state = "arriving"): Sound =>
  ({ id: 5, axisId: 2, received, bytes: SIZE, state }) as unknown as Sound;

describe("recordings on their way to the server", () => {
  let kept: Map<string, WaitingSound>;
  let http: HttpTestingController;
  let queue: SoundQueue;
  let providers: (Provider | EnvironmentProviders)[];
  beforeEach(() => {
    kept = new Map();
    const keep = {
      all: () => Promise.resolve([...kept.values()]),
      put: (s: WaitingSound) => Promise.resolve(void kept.set(s.what.key, s)),
      remove: (key: string) => Promise.resolve(void kept.delete(key)),
    };
    providers = [{ provide: SOUND_KEEP, useValue: keep }];
    http = setUpBed(...providers);
    queue = TestBed.inject(SoundQueue);
  });
  afterEach(() => http.verify());
  const begins = (): TestRequest => http.expectOne({ method: "POST", url: "/api/axes/2/sounds" });
  const part = (from: number): TestRequest => http.expectOne({ method: "PUT", url: `/api/sounds/5/parts/${from}` });

  it("go part by part, under the name and at the time of whoever made them, and are gone once worked out", () => {
    queue.take(2, what, file);
    const begun = begins();
    const body = begun.request.body as { key: string; bytes: number; at: string };
    expect(body).toMatchObject({ ...what, bytes: SIZE });
    expect(Date.now() - Date.parse(body.at)).toBeLessThan(60_000);
    expect(begun.request.headers.get("x-working-as")).not.toBeNull();
    expect(kept.has(body.key)).toBe(true);
    begun.flush(sound(0));
    part(0).flush(sound(LARGEST_SOUND_PART));
    const second = part(LARGEST_SOUND_PART);
    expect((second.request.body as Blob).size).toBe(LARGEST_SOUND_PART / 2);
    expect(queue.sent()).toBeCloseTo(2 / 3, 9);
    second.flush(sound(SIZE));
    http.expectOne("/api/sounds/5/finish").flush(sound(SIZE, "kept"));
    expect([queue.taken()?.state, queue.waiting().length, kept.size]).toEqual(["kept", 0, 0]);
  });

  it("wait while nothing answers, outlive the page, and go on where they were", async () => {
    queue.take(2, what, file);
    const { key } = begins().request.body as { key: string };
    // The page goes before anything answered; the next one finds it, and half of it is there already.
    TestBed.resetTestingModule();
    http = setUpBed(...providers);
    queue = TestBed.inject(SoundQueue);
    const page = show(SoundWaiting);
    await queue.recall();
    await queue.recall();
    begins().error(new ProgressEvent("error"));
    TestBed.tick();
    expect(page.text()).toContain("No connection. 1 recording waits on this device, and will be sent by itself.");
    window.dispatchEvent(new Event("online"));
    const again = begins();
    expect((again.request.body as { key: string }).key).toBe(key);
    again.flush(sound(LARGEST_SOUND_PART));
    part(LARGEST_SOUND_PART).flush(sound(SIZE));
    http.expectOne("/api/sounds/5/finish").flush(sound(SIZE, "kept"));
    TestBed.tick();
    expect(page.text().trim()).toBe("");
    expect(kept.size).toBe(0);
  });

  it("that the server will not have are said, can be saved, and hold up no other", async () => {
    let page = show(SoundWaiting);
    queue.take(2, what, file);
    queue.take(2, { ...what, place: "elsewhere" }, file);
    refuse(begins(), 422, { detail: "Feed is 90000 mm/min: it must be at most 24000." });
    TestBed.tick();
    expect(page.alerts()).toBe(
      "Feed is 90000 mm/min: it must be at most 24000. The recording is still here; it can be let go once it lies in a file.",
    );
    expect((begins().request.body as { place: string }).place).toBe("elsewhere");
    // It outlives the page, and is not sent again.
    TestBed.resetTestingModule();
    http = setUpBed(...providers);
    queue = TestBed.inject(SoundQueue);
    page = show(SoundWaiting);
    await queue.recall();
    await queue.recall();
    expect((begins().request.body as { place: string }).place).toBe("elsewhere");
    TestBed.tick();
    expect(page.alerts()).toBe(
      "Feed is 90000 mm/min: it must be at most 24000. The recording is still here; it can be let go once it lies in a file.",
    );
    const saved = jest.fn();
    URL.createObjectURL = (blob) => (saved(blob), "blob:one");
    URL.revokeObjectURL = jest.fn();
    jest.spyOn(HTMLAnchorElement.prototype, "click").mockImplementation(() => undefined);
    const go = page.page.getByRole<HTMLButtonElement>("button", { name: "Let it go" });
    expect(go.disabled).toBe(true);
    page.press("Save it as a file");
    expect(saved).toHaveBeenCalledWith(file);
    page.press("Let it go");
    expect(page.alerts()).toBe("");
    expect([...kept.values()].map((s) => s.what.place)).toEqual(["elsewhere"]);
  });
});
