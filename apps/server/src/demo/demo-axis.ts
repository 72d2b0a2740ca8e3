import {
  defaultAxis,
  type AxisConfig,
  type HiddenCondition,
  type MachineKind,
  type PartsCondition,
  type VirtualAxis,
} from "@iron/core";

/** One past measurement of a demo axis: when, and what was truly lost then, µm. */
export interface PastTest {
  readonly weeksAgo: number;
  readonly lostUm: number;
  readonly kind?: "two-sided" | "travel-profile";
  /** Places of a profile; 5 unless said. */
  readonly places?: number;
}

export interface DemoAxis {
  readonly config: AxisConfig;
  /** Which link carries the loss. */
  readonly culprit: keyof Pick<HiddenCondition, "coupling" | "endBearings" | "nut" | "bracket"> | "wear";
  readonly hidden: HiddenCondition;
  /** Errors of its screw or scale along the travel. */
  readonly lead?: Pick<VirtualAxis, "scaleErrorMm" | "slowError">;
  /** The parts as they are today, where the axis has a tale of its own to be found out. */
  readonly parts?: PartsCondition;
  readonly past: readonly PastTest[];
  readonly events: readonly {
    readonly weeksAgo: number;
    readonly kind: "repair" | "adjustment" | "crash" | "note";
    readonly text: string;
    readonly by: string;
  }[];
}

export interface DemoMachine {
  readonly nickname: string;
  readonly bay: string;
  readonly kind: MachineKind;
  readonly hoursPerWeek: number;
  readonly note: string;
  readonly axes: readonly DemoAxis[];
}

/** An axis of the demo shop: what differs from the usual one of its kind, and what is hidden in it. */
export function axis(
  kind: MachineKind,
  letter: string,
  {
    over,
    culprit,
    past,
    hidden = {},
    parts,
    lead,
    events = [],
  }: {
    readonly over: Partial<AxisConfig>;
    readonly culprit: DemoAxis["culprit"];
    readonly past: readonly PastTest[];
    readonly hidden?: HiddenCondition;
    readonly parts?: PartsCondition;
    readonly lead?: DemoAxis["lead"];
    readonly events?: DemoAxis["events"];
  },
): DemoAxis {
  return {
    config: { ...defaultAxis(kind, letter), ...over },
    culprit,
    past,
    hidden,
    lead,
    parts,
    events,
  };
}

/** A flat history: `values` µm, the newest `newest` weeks ago, then every half year back. */
export function every26Weeks(newest: number, ...values: number[]): PastTest[] {
  return values.map((lostUm, i) => ({
    weeksAgo: newest + 26 * (values.length - 1 - i),
    lostUm,
  }));
}
