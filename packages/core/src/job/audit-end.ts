import { JOINT_NAMES, jointAt, jointsOf, owedIn, type MachineState } from "../machine/mechanism";
import type { SheetAudit } from "./sheet-audit";

/**
 * How a sheet leaves the machine: whole, held by nothing that was only for the work, and proven.
 * @param walk - the sheet, and how a fault is told
 * @param state - of the machine after its last step
 * @example
 * const plan = planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS });
 * const rules = [];
 * auditEnd({ sheet: { ...plan, kit: kitOf(plan) }, say: (rule) => rules.push(rule) }, { ...plan.start, power: "isolated" });
 * rules[0] // 5
 */
export function auditEnd(walk: SheetAudit, state: MachineState): void {
  const { sheet, say } = walk;
  const last = sheet.steps.at(-1)?.id ?? "";
  if (state.power !== "on") say(5, last, "leaves the machine isolated");
  for (const { letter, config } of sheet.axes) {
    const axis = state.axes[letter];
    for (const joint of jointsOf(config)) {
      const at = jointAt(axis, joint);
      if (at !== "tight") say(at === "off" ? 5 : 4, last, `leaves ${letter} with its ${JOINT_NAMES[joint].name} ${at}`);
    }
    if (axis.block !== "none" || axis.tied || axis.gear !== "none" || axis.prop || axis.sling || axis.brakeLet)
      say(5, last, `leaves block, gear, prop or lever on ${letter}`);
    if (axis.balance !== "acts") say(5, last, `leaves the balance of ${letter} secured`);
    if (!axis.referenced) say(8, last, `leaves ${letter} without its reference`);
    for (const proof of owedIn(axis.notes)) say(8, last, `never proves ${letter} again: ${proof}`);
  }
}

/**
 * Everything that is used lies in the kit.
 * @param walk - the sheet, and how a fault is told
 * @example
 * const plan = planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS });
 * const rules = [];
 * auditKit({ sheet: { ...plan, kit: { ...kitOf(plan), tools: [] } }, say: (rule) => rules.push(rule) });
 * rules[0] // 7
 */
export function auditKit(walk: SheetAudit): void {
  const { sheet, say } = walk;
  const { kit } = sheet;
  for (const step of sheet.steps) {
    for (const tool of step.tools)
      if (!kit.tools.includes(tool)) say(7, step.id, `needs ${tool}, which the kit does not hold`);
    for (const part of step.parts)
      if (!kit.parts.includes(part.name)) say(7, step.id, `puts in ${part.name}, which the kit does not hold`);
    if (step.people > kit.people) say(7, step.id, "needs two people");
    const gear = step.effects.some((e) => e.kind === "gear" && e.to === "taut");
    if (gear && !step.tools.includes("lifting gear")) say(7, step.id, "lifts without lifting gear");
  }
}
