import type { MechanismSheet } from "../machine/mechanism";
import type { PlannedStep } from "./step-kind";

export interface KitPart {
  readonly name: string;
  readonly count: number;
  readonly order: boolean;
  readonly axes: string;
}

export interface KitTool {
  readonly tool: string;
  /** What does where the special tool is missing; empty for what every box holds. */
  readonly standIn: string;
}

/** Everything to have ready before a job begins, to tick off. */
export interface KitList {
  readonly tools: readonly string[];
  readonly special: readonly KitTool[];
  readonly parts: readonly KitPart[];
  readonly consumables: readonly string[];
  readonly photos: readonly string[];
  readonly cautions: readonly string[];
  readonly people: 1 | 2;
}

/** What does where the special tool is missing (common practice, no source). */
const STAND_INS: Readonly<Record<string, string>> = {
  "pin or hook spanner": "a turned ring with two pins; never a drift and hammer",
  "bearing puller": "two flat bars and jack screws on the ring that is tight",
  "belt tension gauge or phone microphone": "deflection under a spring scale, by the maker’s figure",
  "pin puller": "a screw in the pin’s thread with a tube and washer as slide hammer",
  "jack screws": "two long screws in the housing’s own threads, turned evenly",
  "transport rail": "a strip planed to the rail’s profile, held tight against its end",
  "cord and spring scale": "a known weight on the cord, added until it just turns",
  sleeve: "tube turned a little under the root diameter",
  "tool to hold the screw": "the hub clamped on again and held by its flats",
};

const unique = (list: readonly string[]): readonly string[] => [...new Set(list.filter(Boolean))];

/**
 * Parts, tools and consumables of a sheet, for whoever lays them ready.
 * @param plan - the sheet
 * @returns parts, tools and consumables, each once
 * @example kitList(planJob({ axes: [{ letter: "X", config: defaultAxis("vertical-centre", "X") }], items: [{ letter: "X", kind: "tighten" }], options: DEFAULT_OPTIONS })).tools.length > 0 // true
 */
export function kitList(plan: { readonly steps: readonly PlannedStep[] }): KitList {
  const { steps } = plan;
  const parts = new Map<string, { count: number; order: boolean; axes: Set<string> }>();
  for (const step of steps)
    for (const part of step.parts) {
      const there = parts.get(part.name) ?? {
        count: 0,
        order: false,
        axes: new Set<string>(),
      };
      there.count += part.count;
      there.order ||= part.order;
      if (step.axis) there.axes.add(step.axis);
      parts.set(part.name, there);
    }
  const tools = unique(steps.flatMap((s) => s.tools));
  return {
    tools: tools.filter((t) => !STAND_INS[t]),
    special: tools.flatMap((tool) => (STAND_INS[tool] ? [{ tool, standIn: STAND_INS[tool] }] : [])),
    parts: [...parts].map(([name, p]) => ({
      name,
      count: p.count,
      order: p.order,
      axes: [...p.axes].join(", "),
    })),
    consumables: unique(steps.flatMap((s) => s.consumables)),
    photos: unique(steps.map((s) => s.photo && `${s.axis ? `${s.axis}: ` : ""}${s.photo}`)),
    cautions: cautionsOf(steps),
    people: steps.some((s) => s.people === 2) ? 2 : 1,
  };
}

/** Each caution once, with the step that it belongs to first: by itself nobody knows what “it” is. */
function cautionsOf(steps: readonly PlannedStep[]): readonly string[] {
  const first = new Map<string, string>();
  for (const { caution, title } of steps) if (caution && !first.has(caution)) first.set(caution, title);
  return [...first].map(([caution, title]) => `${title}: ${caution}`);
}

/**
 * The kit as the audit takes it.
 * @param plan - the sheet
 * @returns the kit
 * @example kitOf({ steps: [] }) !== null // true
 */
export function kitOf(plan: { readonly steps: readonly PlannedStep[] }): MechanismSheet["kit"] {
  const tools = new Set<string>();
  const parts = new Set<string>();
  let people: 1 | 2 = 1;
  for (const step of plan.steps) {
    for (const tool of step.tools) tools.add(tool);
    for (const part of step.parts) parts.add(part.name);
    if (step.people === 2) people = 2;
  }
  return { tools: [...tools], people, parts: [...parts] };
}
