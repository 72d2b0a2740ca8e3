import { defaultAxis } from "../machine/axis";
import { DEFAULT_OPTIONS, JOB_OF_CAUSE, LOOSE_OF_CAUSE, planJob } from "../job";
import { axisFromParts } from "./condition";
import { FAULTS, soundParts, withFaults } from "./faults";
import { defaultVirtualAxis } from "./default-axis";
import { keptThrough, mendMachine, mendParts } from "./mend";
import { soundVirtualMachine, type VirtualMachine } from "./virtual-machine";
import { CAUSES, causeFits } from "../diagnosis";
import { MACHINE_KINDS } from "../machine/axis";

const half = (): number => 0.5;

describe("a machine after a step of a job", () => {
  const sound = soundVirtualMachine(["X", "Y"], 3);
  const shaking: VirtualMachine = {
    ...sound,
    servos: { ...sound.servos, Y: { ...sound.servos["Y"], shake: { mm: 0.005, waveMm: 2 } } },
  };

  it("stops trembling with the bearings that made it, and hangs at its turns while they are fresh; others stay", () => {
    const after = mendMachine(shaking, "Y", { id: "bearing-in", renewed: true });
    expect(after.servos["Y"].shake).toBeNull();
    expect(after.servos["Y"].stick.mm).toBeGreaterThan(sound.servos["Y"].stick.mm);
    expect(after.servos["X"]).toBe(shaking.servos["X"]);
    expect(mendMachine(shaking, "Y", { id: "bearing-in", renewed: false })).toBe(shaking);
    expect(mendMachine(shaking, "Y", { id: "set-preload", renewed: true })).toBe(shaking);
    expect(mendMachine(shaking, "W", { id: "bearing-in", renewed: true })).toBe(shaking);
  });

  it("keeps the table in its control, and the errors of a screw that was not renewed", () => {
    const axis = {
      ...defaultVirtualAxis(defaultAxis("vertical-centre", "X"), 1),
      pitchErrorMm: 0.03,
      correction: { startMm: 0, stepMm: 10, upMm: [0, 0.01], downMm: null },
    };
    expect(keptThrough(axis, "set-preload")).toMatchObject({ pitchErrorMm: 0.03, correction: axis.correction });
    expect(keptThrough(axis, "new-screw")).toEqual({ correction: axis.correction });
  });
});

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
