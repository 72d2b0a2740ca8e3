import { asksCase } from "./asks-case";
import { caseCauseText } from "./asks-case.text";
import type { PlaceFound } from "./places";
import type { FoundState } from "./types";

describe("a finding that asks for a case (common practice, no source)", () => {
  const told = { glitter: false, friction: false, outlets: [] };

  it("is metal, friction, a block, or dry twice running; the strongest is said", () => {
    expect(asksCase([], null)).toBeNull();
    expect(asksCase(["right", "dry"], told)).toBeNull();
    expect(asksCase(["dry", "right", "dry"], told)).toBeNull();
    expect(asksCase(["dry", "dry"], told)?.code).toBe("dry-twice");
    expect(asksCase(["blocked"], told)?.code).toBe("blocked");
    expect(asksCase(["blocked"], { ...told, friction: true })?.code).toBe("friction");
    expect(asksCase(["blocked"], { ...told, friction: true, glitter: true })?.code).toBe("metal");
  });

  it("is the same carriage dry twice, not two in turn; a blocked one is named", () => {
    const all = (...states: FoundState[]) => states.map((found, i) => ({ name: `carriage ${i + 1}`, found, dose: 1 }));
    const twice = (before: PlaceFound[], last: PlaceFound[]) =>
      asksCase(["dry", "dry"], { ...told, places: { before, last } });
    expect(twice(all("dry", "right"), all("right", "dry"))).toBeNull();
    expect(caseCauseText(twice(all("right", "dry"), all("right", "dry")))).toBe("Dry twice running at carriage 2.");
    // Nobody told them apart the time before.
    expect(caseCauseText(twice([], all("right", "dry")))).toBe("Dry twice running at carriage 2.");
    expect(caseCauseText(twice(all("right", "dry"), []))).toBe("Dry twice running.");
    // Blocked is worse than dry: a carriage dry twice beside one that is blocked now is not hidden by it.
    const blocked = asksCase(["dry", "blocked"], {
      ...told,
      places: { before: all("dry", "right"), last: all("dry", "blocked") },
    });
    expect(caseCauseText(blocked)).toBe("Blocked at carriage 2: nothing gets through.");
  });

  it("is a dry outlet among wet ones, with where to look; outlets nobody looked at are none", () => {
    const line = (...wet: (boolean | null)[]) => ({
      ...told,
      outlets: wet.map((w, i) => ({ name: `outlet ${i + 1}`, wet: w })),
    });
    const one = asksCase(["right"], line(true, false, true));
    expect(one?.code).toBe("line");
    expect(caseCauseText(one)).toMatch(/Look at: .*\.$/);
    expect(asksCase(["right"], line(null, null, null))).toBeNull();
    expect(asksCase(["right"], line(true, true, true))).toBeNull();
    expect(caseCauseText(null)).toBe("");
  });
});
