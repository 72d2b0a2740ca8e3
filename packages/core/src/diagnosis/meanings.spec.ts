import { LOCATE_TESTS, locateTest, type TestId } from "./tests";
import { axis, chance, found, magnitude, says, whole } from "./evidence.testing";
import { infer } from "./infer";
import { meaningsOf, mindChanger } from "./meanings";

const test = (id: TestId) => locateTest(id) ?? LOCATE_TESTS[0];
const rumbles = infer({ axis, reports: [says("rumble"), says("lost-motion")], magnitudes: [whole(30)] });

describe("what an outcome would mean", () => {
  it("is what is named once it has come so", () => {
    const turned = meaningsOf(rumbles, test("fastener-check")).find((m) => m.kind === "retainer-turns");
    expect(turned?.causes[0].id).toBe("retainer-loose");
    const then = infer({ ...rumbles.evidence, reports: [...rumbles.evidence.reports, found("retainer-turns")] });
    expect(turned?.probability).toBeCloseTo(chance(then, "retainer-loose"), 1);
    const none = meaningsOf(rumbles, test("fastener-check")).find((m) => m.kind === "none");
    expect(none?.when).toBe("nothing of it is found");
    expect(none?.causes.map((c) => c.id)).not.toContain("retainer-loose");
  });

  it("tells a part that stays still from one that gives way, and adds up to one over the sizes", () => {
    const float = meaningsOf(rumbles, test("end-float"));
    expect(float.reduce((sum, m) => sum + m.chance, 0)).toBeCloseTo(1, 2);
    const [still, most] = [float.find((m) => m.kind === "nothing"), float.find((m) => m.kind === "most")];
    expect(still?.when).toBe("it stays still");
    expect(["end-bearings"]).toContain(most?.causes[0].link);
    expect(still?.causes[0]?.link).not.toBe("end-bearings");
  });
});

describe("what would change the verdict", () => {
  it("is one result after which another is named", () => {
    const p = infer({
      axis,
      reports: [says("howl"), found("profile-middle"), found("bracket-turns", false)],
      magnitudes: [whole(30), magnitude("end-float", 0.6)],
    });
    const changer = mindChanger(p, new Set(["travel-profile", "whole-chain", "end-float"]));
    expect(changer).not.toBeNull();
    expect(changer?.causes[0]?.id).not.toBe("screw-worn-middle");
    expect(["travel-profile", "whole-chain", "end-float"]).not.toContain(changer?.test.id);
  });

  it("is never a second fault beside the one that leads", () => {
    const zero = infer({ axis, reports: [says("stops-in-program"), found("override-zero")], magnitudes: [] });
    const changer = mindChanger(zero, new Set(["control-check"]));
    expect(changer?.causes.map((c) => c.id) ?? []).not.toContain("control-override");
  });

  it("is nothing where all was done", () => {
    expect(mindChanger(rumbles, new Set(LOCATE_TESTS.map((t) => t.id)))).toBeNull();
  });
});
