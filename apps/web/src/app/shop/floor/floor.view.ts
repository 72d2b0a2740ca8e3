import {
  canWait,
  floorCall,
  floorRank,
  floorState,
  formatDeviation,
  formatLimit,
  formatWithU,
  lossText,
  wantsSomebody,
  type AxisState,
  type FloorCall,
  type FloorCallCode,
  type MachineKind,
  type UnitSystem,
} from "@iron/core";
import type { Floor, FloorAxis, FloorMachine } from "@iron/contract";
import { ageText, countText, monthText } from "../../shared/times.text";
import { grownSaid } from "../../sound/sound.view";

export interface AxisView {
  readonly id: number;
  readonly letter: string;
  readonly state: AxisState;
  readonly word: string;
  /** "27", or "?" when never measured. */
  readonly value: string;
  readonly age: string;
  /** Bar length and limit mark, 0 to 1 of the bar’s width. */
  readonly bar: number;
  readonly limit: number;
  readonly label: string;
}

export interface MachineView {
  readonly id: number;
  readonly bay: string;
  readonly nickname: string;
  readonly kind: string;
  readonly axes: readonly AxisView[];
  readonly says: string;
  readonly then: string;
  /** What lubrication says besides, where something else goes first. */
  readonly also: string;
  readonly action: {
    readonly label: string;
    readonly link: readonly (string | number)[];
  } | null;
  /** What it wants: the page is in the order of these. */
  readonly call: FloorCallCode;
  readonly calm: boolean;
}

export interface FloorView {
  readonly heading: string;
  readonly machines: readonly MachineView[];
}

/** What the floor is narrowed to; empty where it is not. */
export interface FloorFilter {
  /** Part of nickname, bay, kind or note. */
  readonly q: string;
  readonly bay: string;
  readonly kind: string;
  readonly state: FloorStanding | "";
}

/** How an axis stands. That nobody measured it is not that a measurement cannot tell. */
export type FloorStanding = "act" | "watch" | "cannot-tell" | "never" | "sound";

function standingOf(axis: FloorAxis): FloorStanding {
  const state = floorState(axis);
  if (state !== "unknown") return state;
  return axis.last ? "cannot-tell" : "never";
}

/** The limit mark stands at four fifths, so that a loss over it still has room. */
const LIMIT_AT = 0.8;
function axisView(axis: FloorAxis, system: UnitSystem, now: Date): AxisView {
  const { last } = axis;
  const value = last
    ? formatDeviation(Math.abs(last.reversalValueMm), {
        system,
        expandedMm: Math.max(last.expandedMm, system === "metric" ? 0.003 : 0.0008),
        bare: true,
      })
    : "?";
  const age = last ? ageText(last.at, now) : "";
  const said = last
    ? `${formatWithU(last.reversalValueMm, last.expandedMm, { system })} lost, ${age}`
    : "never measured";
  return {
    id: axis.id,
    letter: axis.letter,
    state: floorState(axis),
    word: last ? lossText(last, axis) : "unknown",
    value,
    age,
    bar: last ? Math.min(1, (Math.abs(last.reversalValueMm) / axis.repairMm) * LIMIT_AT) : 0,
    limit: LIMIT_AT,
    label: `${axis.letter}: ${said}, limit ${formatLimit(axis.repairMm, system)}`,
  };
}

interface Says {
  readonly says: string;
  /** Said after it, in bold. */
  readonly then?: string;
  readonly verb?: string;
  /** Where the verb leads. */
  readonly link?: readonly (string | number)[];
}

function perMonth(axis: FloorAxis, system: UnitSystem): string {
  const mm = axis.trend?.perMonthMm ?? 0;
  return formatDeviation(mm, { system, expandedMm: Math.abs(mm) / 4 || 0.001 });
}

/** A call that is about no axis, in words. */
function machineSays(machine: FloorMachine, { code, id }: FloorCall<FloorAxis>): Says {
  const link = ["/jobs", id ?? 0];
  switch (code) {
    case "job-at-work":
      return {
        says: `Job ${id} is at work: ${machine.jobs.find((j) => j.id === id)?.title}.`,
        verb: "Go on with the job",
        link,
      };
    case "check-due":
      return {
        says: `First check after job ${id} is due: loss, warmth of the bearing end, fasteners.`,
        verb: "See the job",
        link,
      };
    case "lubrication":
      return { says: machine.lubrication, verb: "Walk the round", link: ["/rounds"] };
    case "no-axes":
      return { says: "No axes yet.", verb: "Add axes", link: ["/machines", machine.id] };
    case "scales":
      return { says: "Scales: slack shows as hunting, not as loss." };
    default:
      return { says: "" };
  }
}

/** What is heard of an axis, or was not for long. */
function soundSays({ letter, sound }: FloorAxis): Omit<Says, "link"> {
  if (sound?.grown)
    return {
      says: `${letter} ${grownSaid(sound.grown)}.`,
      then: sound.grown.over ? "Find out why." : "Record it again.",
      verb: `Listen to ${letter}`,
    };
  return {
    says: sound?.lastAt
      ? `${letter} was recorded last in ${monthText(sound.lastAt)}: record how it sounds.`
      : `${letter} was worked on and not recorded since: record how it sounds now that it is well.`,
    verb: `Record ${letter}`,
  };
}

/** A call about an axis, in words. */
function axisSays(
  machine: FloorMachine,
  call: FloorCall<FloorAxis>,
  { axis, system }: { readonly axis: FloorAxis; readonly system: UnitSystem },
): Says {
  const base = ["/machines", machine.id, "axes", axis.id];
  const { letter } = axis;
  const measure = { verb: `Measure ${letter}`, link: [...base, "measure"] };
  switch (call.code) {
    case "case-open": {
      const more = machine.openCases.length - 1;
      return {
        says: `${letter}: case ${call.id} is open${more ? `, and ${more} more` : ""}.`,
        then: floorState(axis) === "act" ? "It loses more than its limit." : "",
        verb: "Go on with the case",
        link: [...base, "locate"],
      };
    }
    case "over-limit": {
      const lost = formatDeviation(axis.last?.reversalValueMm ?? 0, { system, expandedMm: axis.last?.expandedMm ?? 0 });
      return {
        says: `${letter} loses ${lost} at reversal, over its limit.`,
        then: "Check the fasteners, then split the chain.",
        ...measure,
      };
    }
    case "cannot-tell":
      return {
        says: `${letter}: the last test cannot tell on which side of the limit it is.`,
        then: "Measure it so that it can.",
        ...measure,
      };
    case "sounds-louder":
    case "record-it":
      return { ...soundSays(axis), link: [...base, "listen"] };
    case "nears-limit":
      return {
        says: `${letter} grows by ${perMonth(axis, system)} a month: limit reached about`,
        then: `${monthText(axis.trend?.reachesLimitAt ?? "")}.`,
        verb: "See trend",
        link: [...base, "history"],
      };
    case "past-leave":
      return { says: `${letter} is ${call.sure ? "" : "perhaps "}past what can be left, under its limit.`, ...measure };
    case "test-unfinished":
      return {
        says: `A test on ${letter} is not finished.`,
        verb: "Go on",
        link: [...base, "runs", axis.openRunId ?? 0],
      };
    default:
      return { says: `${letter} was never measured.`, ...measure };
  }
}

const inBayOrder = (a: string, b: string): number => a.localeCompare(b, "en", { numeric: true });

/** Bays and kinds that there are, to choose from. */
export function floorChoices(floor: Pick<Floor, "machines">): {
  readonly bays: readonly string[];
  readonly kinds: readonly MachineKind[];
} {
  return {
    bays: [...new Set(floor.machines.map((m) => m.bay))].sort(inBayOrder),
    kinds: [...new Set(floor.machines.map((m) => m.kind))].sort(),
  };
}

/** Every machine that is asked for, what needs attention first. */
export function floorView(
  floor: Omit<Floor, "backup">,
  {
    kindText,
    system,
    filter,
    now = new Date(),
  }: {
    readonly kindText: Readonly<Record<string, string>>;
    readonly system: UnitSystem;
    readonly filter: FloorFilter;
    readonly now?: Date;
  },
): FloorView {
  const wanted = filter.q.trim().toLowerCase();
  const machines = floor.machines
    .filter((m) => `${m.nickname} bay ${m.bay} ${kindText[m.kind]} ${m.note}`.toLowerCase().includes(wanted))
    .filter((m) => !filter.bay || m.bay === filter.bay)
    .filter((m) => !filter.kind || m.kind === filter.kind)
    .filter((m) => !filter.state || m.axes.some((a) => standingOf(a) === filter.state))
    .map((machine): MachineView => {
      const call = floorCall(machine, now);
      const says = call.axis ? axisSays(machine, call, { axis: call.axis, system }) : machineSays(machine, call);
      return {
        id: machine.id,
        bay: machine.bay,
        nickname: machine.nickname,
        kind: kindText[machine.kind],
        axes: machine.axes.map((a) => axisView(a, system, now)),
        says: says.says,
        then: says.then ?? "",
        also: says.says === machine.lubrication ? "" : machine.lubrication,
        action: says.verb && says.link ? { label: says.verb, link: says.link } : null,
        call: call.code,
        calm: canWait(call.code),
      };
    })
    .sort((a, b) => floorRank(a.call) - floorRank(b.call) || inBayOrder(a.bay, b.bay));
  const found = countText(machines.length, "machine", "machines");
  if (wanted) return { heading: `${found} found for “${filter.q.trim()}”`, machines };
  if (filter.bay || filter.kind || filter.state) return { heading: `${found} of ${floor.machines.length}`, machines };
  return { heading: headingOf(machines), machines };
}

/** What the floor comes to. That nobody looked yet is not the same as that nothing is wrong. */
function headingOf(machines: readonly MachineView[]): string {
  const wanting = machines.filter((m) => wantsSomebody(m.call)).length;
  if (wanting) return `${countText(wanting, "machine wants", "machines want")} you`;
  if (machines.length === 0) return "No machine yet";
  const unmeasured = machines.filter((m) => m.call === "never-measured").length;
  if (unmeasured)
    return `No machine wants you; ${countText(unmeasured, "has an axis", "have an axis").toLowerCase()} never measured`;
  return "No machine wants you";
}
