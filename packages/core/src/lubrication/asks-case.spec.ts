import { asksCase } from "./asks-case";
import { caseCauseText } from "./asks-case.text";

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
