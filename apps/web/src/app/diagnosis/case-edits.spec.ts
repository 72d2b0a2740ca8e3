import { NOTHING_TOLD } from "@iron/contract";
import { openCase } from "../../testing/axis";
import { answered, editOf, withAxes, withEvidence, withTold, withUnsent } from "./case-edits";

describe("edits of a case", () => {
  it("each axis has its own answers; null takes one away", () => {
    const z = withTold(openCase(), 2, (t) => ({ ...t, answers: answered(t.answers, { rumble: true, knock: false }) }));
    const both = withTold(z, 3, (t) => ({ ...t, answers: answered(t.answers, { rumble: false }) }));
    expect(both.told[2].answers).toEqual({ rumble: true, knock: false });
    expect(both.told[3].answers).toEqual({ rumble: false });
    expect(answered(both.told[2].answers, { knock: null })).toEqual({ rumble: true });
  });

  it("a note leaves the measurement behind a symptom where it is", () => {
    const shown = withEvidence(NOTHING_TOLD, "rumble", { ref: "run 7" });
    expect(withEvidence(shown, "rumble", { note: "warm" }).evidence.rumble).toEqual({ note: "warm", ref: "run 7" });
  });

  it("an axis that is left out takes what was told of it along", () => {
    const both = withTold(openCase({ axisIds: [2, 3] }), 3, () => NOTHING_TOLD);
    expect(withAxes(both, [2])).toMatchObject({ axisIds: [2], told: {} });
  });

  it("what is not sent yet stays on what comes, of the same case only", () => {
    const mine = openCase({ notes: "mine" });
    const came = openCase({ version: 9, notes: "theirs" });
    expect(withUnsent(came, mine, true)).toMatchObject({ version: 9, notes: "mine" });
    expect(withUnsent(came, mine, false).notes).toBe("theirs");
    expect(withUnsent(openCase({ id: 6, notes: "other" }), mine, true).notes).toBe("other");
    expect(Object.keys(editOf(mine)).sort()).toEqual(["axisIds", "context", "notes", "told", "version"]);
  });
});
