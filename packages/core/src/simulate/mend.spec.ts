import { defaultAxis } from "../machine/axis";
import { DEFAULT_OPTIONS, JOB_OF_CAUSE, LOOSE_OF_CAUSE, planJob } from "../job";
import { axisFromParts } from "./condition";
import { FAULTS, soundParts, withFaults } from "./faults";
import { mendParts } from "./mend";
import { CAUSES, causeFits } from "../diagnosis";
import { MACHINE_KINDS } from "../machine/axis";

const half = (): number => 0.5;

describe("a job mends the simulated machine", () => {
  const causes = CAUSES.filter((c) => c.id in JOB_OF_CAUSE);

  it.each(causes.map((c) => [c.id, c] as const))("%s is gone after the job that mends it", (id, cause) => {
    const axes = MACHINE_KINDS.flatMap((kind) => ["X", "Y", "Z"].map((l) => defaultAxis(kind, l)));
    const config = axes.find((a) => causeFits(a, cause)) ?? axes[0];
    const kind = JOB_OF_CAUSE[id];
    const own = Object.keys(FAULTS[id](half, config)).filter((k) => k !== "spotAt");
    let parts = withFaults(soundParts(half, config), { faults: [id], u: half, axis: config });
    const sound = soundParts(half, config) as Record<string, number | undefined>;
    const { steps } = planJob({
      axes: [{ letter: config.letter, config }],
      items: [{ letter: config.letter, kind, loose: LOOSE_OF_CAUSE[id] ? [LOOSE_OF_CAUSE[id]] : [] }],
      options: { ...DEFAULT_OPTIONS, nutService: id === "nut-dirty" ? "flush" : "send-out" },
    });
    for (const step of steps) parts = mendParts(parts, step.kind, step.parts.length > 0);
    for (const key of own)
      expect([key, (parts as Record<string, number>)[key] <= (sound[key] ?? 0) + 1e-9]).toEqual([key, true]);
    expect(() => axisFromParts(config, parts, 1)).not.toThrow();
  });

  it("old bearings put back are as worn as before; other steps touch nothing", () => {
    const worn = { bearingPitting: 0.8, bearingGapMm: 0.02 };
    expect(mendParts(worn, "bearing-in", false)).toBe(worn);
    expect(mendParts(worn, "covers-off")).toBe(worn);
    expect(mendParts(worn, "bearing-in").bearingGapMm).toBe(0);
  });
});
