import { defaultAxis, fastenersToTry } from "@iron/core";
import { measuredText, resultText } from "./tested.view";

const axis = defaultAxis("vertical-centre", "X");
const names = fastenersToTry(axis).map((f) => f.name);
const result = (over: Partial<Parameters<typeof resultText>[0]>) =>
  resultText({ test: "sound-comparison", answers: {}, data: null, note: "", ...over }, axis);

describe("what a test said", () => {
  it("tells what was there, what was not, and what nobody looked at", () => {
    const all = { rumble: false, howl: false, rattle: false, groan: false, knock: false, grit: false };
    expect(result({ answers: { ...all, "carriage-click": false } })).toBe(
      "Sound comparison: Nothing of what it looks for.",
    );
    expect(result({ answers: { ...all, rumble: true, "carriage-click": false }, note: "Warm." })).toBe(
      "Sound comparison: Rumbles, worst in rapid. Warm.",
    );
    expect(result({ test: "look-over", answers: { dry: false } })).toBe(
      "Oil film, warmth, marks: Not so: ways or nut are dry. Not looked at: bearing end gets hot; paint marks on hub and shaft no longer meet; a wiper is torn.",
    );
    expect(result({ test: "look-over", answers: { dry: true } })).toBe(
      "Oil film, warmth, marks: Ways or nut are dry. Not looked at: bearing end gets hot; paint marks on hub and shaft no longer meet; a wiper is torn.",
    );
    const data = { kind: "load-trace", unit: "%", samples: [] } as const;
    expect(
      result({
        test: "load-trace",
        answers: { "tight-spot": true, "tight-all": false },
        data: { ...data, samples: [] },
      }),
    ).toBe("Load trace: Tight in one spot.");
    expect(result({ test: "look-over" })).toBe("Oil film, warmth, marks: No answer.");
  });

  it("a list of fasteners that was not worked through names the rest; torques stand in both units (1 lbf·ft = 1.3558 N·m)", () => {
    const found = [
      { name: names[1], torqueNm: 12, state: "turned" as const },
      { name: names[0], torqueNm: null, state: "tight" as const },
      { name: names[2], torqueNm: null, state: "not looked at" as const },
    ];
    const text = result({
      test: "fastener-check",
      answers: { "coupling-turns": true },
      data: { kind: "fasteners", found },
    });
    expect(text).toBe(
      "Fastener check: Turned: coupling clamp screws, both hubs at 12.0 N·m (8.85 lbf·ft). Held: motor screws. " +
        "Not looked at: bearing nut and its clamp screw; bearing housing on its casting; nut in its bracket, bracket on the member.",
    );
    expect(text).not.toContain("Nothing of what it looks for");
  });

  it("a measured part has its U, in the reader’s units", () => {
    const one = {
      kind: "end-float",
      reversalValueMm: 0.024,
      expandedMm: 0.0008,
      at: "",
      runId: 1,
      jobId: null,
      circleId: null,
    } as never;
    expect(measuredText(one, "metric")).toBe("Screw end float: 24.00 ± 0.80 µm");
    expect(measuredText(one, "inch")).toMatch(/^Screw end float: \d+\.\d+ ± /);
  });
});
