import { placesFound, placesText, worstFound } from "./places";

describe("several places of a point", () => {
  const names = ["left front", "left back", "right front", "right back"];

  it("are as good as the worst, whatever stands first", () => {
    // Each carriage carries for itself: one dry one ruins its rail while three are right (common practice, no source).
    expect(worstFound(["right", "flooded", "dry", "dirty"])).toBe("dry");
    expect(worstFound(["dry", "blocked"])).toBe("blocked");
    expect(worstFound(["flooded", "right"])).toBe("flooded");
    expect(worstFound([])).toBeNull();
  });

  it("of which nothing was said are as the key says, and get their share", () => {
    const all = placesFound(names, { said: [], others: "right", dose: 4 });
    expect(all).toMatchObject({ found: "right", dose: 4 });
    expect(all.places.map((p) => p.dose)).toEqual([1, 1, 1, 1]);
    expect(placesText(all.places)).toBe("");
  });

  it("get nothing where they are full or let nothing through, unless somebody says so", () => {
    const said = [
      undefined,
      { found: "dry", dose: 3 },
      { found: "flooded", dose: null },
      { found: "blocked", dose: null },
    ] as const;
    const all = placesFound(names, { said, others: "right", dose: 4 });
    expect(all.places.map((p) => p.dose)).toEqual([1, 3, 0, 0]);
    expect(all).toMatchObject({ found: "blocked", dose: 4 });
    expect(placesText(all.places)).toBe("left back dry, right front flooded, right back blocked");
  });
});
