import { sumById } from "@iron/core";
import { STEP_SUMS, SUM_NAMES } from "./step-sums";

describe("the sums a step may want", () => {
  it.each(Object.entries(SUM_NAMES))("%s is a sum, and called what it is called there", (id, name) => {
    expect(sumById(id)?.name).toBe(name);
  });

  it("every one is wanted by some step", () => {
    expect([...new Set(Object.values(STEP_SUMS).flat())].sort()).toEqual(Object.keys(SUM_NAMES).sort());
  });
});
