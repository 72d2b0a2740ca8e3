import { lengthsIn, type UnitSystem } from "../quantity";
import type { PlannedStep } from "./step-kind";

/**
 * A step as it is read in these units: the sheet itself is kept in metric words.
 * @param step - the step
 * @param system - “metric” or “inch”
 * @returns the step in those units
 * @example stepIn(planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }).steps[0], "inch").id === planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS }).steps[0].id // true
 */
export function stepIn(step: PlannedStep, system: UnitSystem): PlannedStep {
  if (system === "metric") return step;
  const say = (text: string): string => lengthsIn(text, system);
  return {
    ...step,
    title: say(step.title),
    why: say(step.why),
    how: step.how.map(say),
    caution: say(step.caution),
    good: say(step.good),
    ifNot: say(step.ifNot),
    finds: step.finds.map((f) => (f.say ? { ...f, say: say(f.say) } : f)),
    reading: step.reading && {
      ...step.reading,
      label: say(step.reading.label),
    },
  };
}
