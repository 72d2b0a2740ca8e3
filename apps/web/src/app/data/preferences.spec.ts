import { TestBed } from "@angular/core/testing";
import { Preferences } from "./preferences";

describe("day and night", () => {
  let change: (event: { matches: boolean }) => void = () => undefined;
  const set = (dark: boolean): Preferences => {
    globalThis.matchMedia = (() => ({
      matches: dark,
      addEventListener: (_: string, told: typeof change) => (change = told),
    })) as never;
    return TestBed.inject(Preferences);
  };
  const again = (dark: boolean): Preferences => {
    TestBed.tick();
    TestBed.resetTestingModule();
    return set(dark);
  };
  beforeEach(() => localStorage.clear());

  it("follows the device until one chooses, and what is chosen is kept", () => {
    const preferences = set(true);
    expect(preferences.shift()).toBe("night");
    change({ matches: false });
    expect(preferences.shift()).toBe("day");
    preferences.toggleShift();
    expect(preferences.shift()).toBe("night");
    expect(again(false).shift()).toBe("night");
    expect(again(true).shift()).toBe("night");
  });

  it("who comes back to what the device has, follows it again", () => {
    const preferences = set(false);
    preferences.toggleShift();
    preferences.toggleShift();
    change({ matches: true });
    expect(preferences.shift()).toBe("night");
    expect(again(false).shift()).toBe("day");
  });

  it("is the document’s before the first picture", () => {
    const preferences = set(true);
    TestBed.tick();
    expect(document.documentElement.dataset["shift"]).toBe(preferences.shift());
  });
});
