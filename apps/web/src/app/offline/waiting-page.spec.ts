import { signal } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import { provideRouter } from "@angular/router";
import type { Me } from "@iron/contract";
import { setUpBed, show } from "../../testing/place";
import { Door } from "../data/door";
import { Waiting, type Held } from "../data/waiting";
import { PHOTO_STORE, PhotoQueue, type WaitingPhoto } from "../job/photo-queue";
import { SOUND_KEEP } from "../sound/sound-queue";
import { WaitingPage } from "./waiting-page";
import { belongs, filesOf, saysOf } from "./waiting.view";

const held = (key: string, by: string, over: Partial<Held> = {}): Held => ({
  ...{ key, by, after: null, file: null, address: "/api/jobs/3/acts", body: '{"kind":"note","words":"shims dry"}' },
  ...over,
});
const nothingKept = { all: () => Promise.resolve([]), put: () => Promise.resolve(), remove: () => Promise.resolve() };
const ME: Me = {
  ...{ door: "people", person: { id: 1, name: "Rowan", sign: "RK", role: "keeper" }, chooses: false, token: "t" },
  names: [
    { id: 1, name: "Rowan", sign: "RK" },
    { id: 2, name: "Teal", sign: "T" },
  ],
  ...{ seals: [], quietMinutes: 10 },
};

describe("what waits on this device", () => {
  let files: { readonly blob: Blob; readonly name: string }[];
  const box = { items: signal<readonly Held[]>([]), waitsFor: signal<readonly string[]>([]) };
  const open = (photos: readonly WaitingPhoto[] = []) => {
    setUpBed(
      provideRouter([]),
      { provide: PHOTO_STORE, useValue: { ...nothingKept, all: () => Promise.resolve(photos) } },
      { provide: SOUND_KEEP, useValue: nothingKept },
    );
    TestBed.inject(Door).take(ME);
    TestBed.inject(Waiting).add({
      ...{ waiting: box.items, offline: signal(false), waitsFor: box.waitsFor, held: box.items },
      letGo: (key) => box.items.update((all) => all.filter((one) => one.key !== key)),
    });
    return show(WaitingPage);
  };
  beforeEach(() => {
    files = [];
    box.items.set([]);
    box.waitsFor.set([]);
    let blob = new Blob();
    URL.createObjectURL = (given) => ((blob = given as Blob), "blob:one");
    URL.revokeObjectURL = jest.fn();
    jest.spyOn(HTMLAnchorElement.prototype, "click").mockImplementation(function (this: HTMLAnchorElement) {
      files.push({ blob, name: this.download });
    });
  });

  it("is said by whose it is and what it waits for", () => {
    box.items.set([
      held("a1", "Ilse"),
      held("b2", "Rowan", { after: "Ilse" }),
      held("c3", "Teal", { address: "/api/lube-points/7/visits", body: '{"outcome":"done","key":"x"}' }),
    ]);
    box.waitsFor.set(["Ilse", "Teal"]);
    const page = open();
    const of = (name: string): string =>
      page.page.getByRole("region", { name }).textContent.replace(/\s+/g, " ").trim();
    expect(of("Ilse")).toContain("Ilse no longer signs in here");
    // It is not the end: a keeper can call somebody back.
    expect(of("Ilse")).toContain("It goes only if the keeper calls Ilse back and Ilse signs in.");
    expect(of("Ilse")).toContain("Job 3 kind: note; words: shims dry");
    expect(of("Rowan")).toContain("It stands on what Ilse did before it");
    expect(of("Teal")).toContain("It goes when Teal signs in on this device.");
    expect(of("Teal")).toContain("Visit to point 7 outcome: done");
    // Whoever can still come keeps what is theirs.
    expect(page.page.getAllByRole("button", { name: "Let it go" })).toHaveLength(1);
  });

  it("what nobody can send any more is let go only once it lies in a file", async () => {
    box.items.set([held("a1b2c3d4-e5", "Ilse", { seal: undefined, file: new Blob(["w"], { type: "audio/wav" }) })]);
    box.waitsFor.set(["Ilse"]);
    const page = open();
    const go = page.page.getByRole("button", { name: "Let it go" });
    expect((go as HTMLButtonElement).disabled).toBe(true);
    page.press("Save it as a file");
    expect(files.map((f) => f.name)).toEqual(["waiting-a1b2c3d4.json", "waiting-a1b2c3d4.wav"]);
    const text = await new Promise((done) => {
      const reader = new FileReader();
      reader.onload = () => done(reader.result);
      reader.readAsText(files[0].blob);
    });
    expect(JSON.parse(text as string)).toEqual({
      by: "Ilse",
      address: "/api/jobs/3/acts",
      body: { kind: "note", words: "shims dry" },
    });
    page.press("Let it go");
    expect(page.text()).toContain("Nothing waits: all that was noted here is with the server.");
  });

  it("while nobody is known to be away, nothing can be let go", () => {
    box.items.set([held("a1", "Ilse")]);
    const page = open();
    expect(page.text()).toContain("It goes by itself as soon as the server answers.");
    expect(page.page.queryByRole("button", { name: "Let it go" })).toBeNull();
  });

  it("a photo that the server would not have is here with its words, can be saved and let go", async () => {
    const file = new Blob(["x"], { type: "image/png" });
    const photo: WaitingPhoto = {
      ...{ key: "k1k1k1k1-2", of: "job", id: 3, step: "X:off", caption: "shims", by: "Ilse", file },
      refusal: "The job is closed.",
    };
    const page = open([photo]);
    await TestBed.inject(PhotoQueue).recall();
    TestBed.tick();
    expect(page.text()).toContain("Photo: shims, Ilse");
    expect(page.text()).toContain("The job is closed.");
    expect(page.page.getByRole<HTMLButtonElement>("button", { name: "Let it go" }).disabled).toBe(true);
    page.press("Save it as a file");
    expect(files.map((f) => [f.blob, f.name])).toEqual([[file, "not-taken-k1k1k1k1.png"]]);
    page.press("Let it go");
    expect(page.text()).toContain("Nothing waits");
  });

  it("says where each belongs, and of a picture its caption", () => {
    expect(belongs("/api/axes/4/sounds")).toEqual({ to: "Recording of axis 4", path: "" });
    expect(belongs("/api/lube-points/9/photos?caption=x")).toEqual({ to: "Photo of point 9", path: "/points/9" });
    expect(belongs("/api/jobs/3/photos?x")).toEqual({ to: "Photo for job 3", path: "/jobs/3" });
    expect(belongs("/api/else")).toEqual({ to: "/api/else", path: "" });
    const picture = new Blob(["p"], { type: "image/jpeg" });
    const one = held("q", "Ilse", { address: "/api/jobs/3/photos?caption=bearing+seat&key=q", body: picture });
    expect(saysOf(one)).toBe("bearing seat");
    expect(filesOf(one).map(([file, name]) => [file.type, name])).toEqual([
      ["application/json", "waiting-q.json"],
      ["image/jpeg", "waiting-q.jpg"],
    ]);
  });
});
