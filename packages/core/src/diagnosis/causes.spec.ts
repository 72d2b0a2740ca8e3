import { defaultAxis, MACHINE_KINDS } from "../machine/axis";
import { FINDINGS, type FindingId } from "../measure";
import { CAUSES } from "./causes";
import { latentOf } from "./reports";
import { causeFits } from "./knowledge";
import { LOCATE_TESTS } from "./tests";

/** What whoever adds a row is told, before the inference is asked anything. */
describe("the catalogue", () => {
  const answered = new Set<string>(LOCATE_TESTS.flatMap((t) => t.findings));

  it("every cause shows as something, or loses motion that a test can measure", () => {
    const silent = CAUSES.filter((c) => Object.keys(c.shows).length === 0 && c.share === null);
    expect(silent.map((c) => c.id)).toEqual([]);
  });

  it("every cause has a finding of its axis that is asked for or looked for", () => {
    const asked = new Set(FINDINGS.filter((f) => f.asked).map((f) => f.id as string));
    const unseen = CAUSES.filter(
      (c) => c.share === null && !Object.keys(c.shows).some((f) => asked.has(f) || answered.has(f)),
    );
    expect(unseen.map((c) => c.id)).toEqual([]);
  });

  it("every finding is asked for at Ask, or looked for by a test, and shows some cause", () => {
    // What loses motion shows as lost motion, by its size.
    const shown = new Set(CAUSES.flatMap((c) => [...Object.keys(c.shows), ...(c.share ? ["lost-motion"] : [])]));
    const idle = FINDINGS.filter((f) => !f.asked && !answered.has(f.id));
    expect(idle.map((f) => f.id)).toEqual([]);
    // Where motor and scale part is worked out from how much each cause loses, of every one that loses.
    expect(FINDINGS.filter((f) => !shown.has(latentOf(f.id))).map((f) => f.id)).toEqual(["scale-gap"]);
  });

  it("no two causes of one axis are alike in all they show and lose", () => {
    const print = (c: (typeof CAUSES)[number]): string =>
      JSON.stringify([Object.entries(c.shows).sort(), c.share?.slack, c.share?.um]);
    for (const kind of MACHINE_KINDS)
      for (const letter of ["X", "Z"]) {
        const axis = defaultAxis(kind, letter);
        const prints = CAUSES.filter((c) => causeFits(axis, c)).map((c) => [print(c), c.id] as const);
        const twice = prints.filter(([p], i) => prints.findIndex(([q]) => q === p) !== i).map(([, id]) => id);
        expect([kind, twice]).toEqual([kind, []]);
      }
  });

  it("every finding of a test is one that exists, once", () => {
    const known = new Set<FindingId>(FINDINGS.map((f) => f.id));
    for (const test of LOCATE_TESTS) {
      expect([test.id, test.findings.filter((f) => !known.has(f))]).toEqual([test.id, []]);
      expect(new Set(test.findings).size).toBe(test.findings.length);
    }
  });
});
