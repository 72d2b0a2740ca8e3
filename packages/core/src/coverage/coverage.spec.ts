import { RATE_CASES } from "./cases";
import { rateOf } from "./rate-case";

// The quick form of `npm run bench -- coverage`.
describe("coverage of every ± and rate of every sentence", () => {
  it.each(RATE_CASES.map((c) => [`${c.kind}: ${c.what}, ${c.with}`, c] as const))(
    "%s",
    (_, one) => {
      const { rate, within } = rateOf(one, "quick");
      expect({ rate, within }).toEqual({ rate, within: true });
    },
  );

  it("names each case once", () => {
    const ids = RATE_CASES.map((c) => c.id);
    expect(new Set(ids).size).toBe(ids.length);
  });
});
