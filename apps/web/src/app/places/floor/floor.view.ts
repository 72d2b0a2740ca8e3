import {
  formatDeviation,
  formatLimit,
  formatWithU,
  lossState,
  lossWord,
  type AxisState,
  type UnitSystem,
} from "@iron/core";
import type { Floor, FloorAxis, FloorMachine } from "@iron/contract";
import { ageWords, countWords, monthWords } from "../../shared/words";

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
  readonly rank: number;
}

export interface FloorView {
  readonly heading: string;
  readonly machines: readonly MachineView[];
}

/** The limit mark stands at four fifths, so that a loss over it still has room. */
const LIMIT_AT = 0.8;
const SOON_MS = 540 * 86_400_000;

function stateOf(axis: FloorAxis): AxisState {
  if (!axis.last) return "unknown";
  return lossState(axis.last, axis);
}

function growsToLimit(axis: FloorAxis, now = Date.now()): boolean {
  const at = axis.trend?.reachesLimitAt;
  return !!at && Date.parse(at) - now < SOON_MS;
}

function axisView(axis: FloorAxis, system: UnitSystem, now: Date): AxisView {
  const state = stateOf(axis);
  const { last } = axis;
  const value = last
    ? formatDeviation(Math.abs(last.lostMm), {
        system,
        expandedMm: Math.max(last.expandedMm, system === "metric" ? 0.003 : 0.0008),
        bare: true,
      })
    : "?";
  const age = last ? ageWords(last.at, now) : "";
  const said = last ? `${formatWithU(last.lostMm, last.expandedMm, { system })} lost, ${age}` : "never measured";
  return {
    id: axis.id,
    letter: axis.letter,
    state,
    word: last ? lossWord(last, axis) : "unknown",
    value,
    age,
    bar: last ? Math.min(1, (Math.abs(last.lostMm) / axis.repairMm) * LIMIT_AT) : 0,
    limit: LIMIT_AT,
    label: `${axis.letter}: ${said}, limit ${formatLimit(axis.repairMm, system)}`,
  };
}

interface Says {
  readonly says: string;
  readonly then: string;
  readonly verb: string;
  readonly axis: FloorAxis | null;
  readonly rank: number;
  /** Where the verb leads, when not to a station of the axis. */
  readonly link?: readonly (string | number)[];
}

function perMonth(axis: FloorAxis, system: UnitSystem): string {
  const mm = axis.trend?.perMonthMm ?? 0;
  return formatDeviation(mm, { system, expandedMm: Math.abs(mm) / 4 || 0.001 });
}

/** What a machine wants said first, and how urgent it is: the higher the rank, the higher up. */
function whatItSays(machine: FloorMachine, system: UnitSystem): Says {
  const open = machine.axes.find((a) => a.openRunId !== null);
  const found = (want: AxisState): FloorAxis | undefined => machine.axes.find((a) => stateOf(a) === want);
  const act = found("act");
  const job = machine.jobs.find((j) => !j.checkOn) ?? (machine.jobs[0] as FloorMachine["jobs"][number] | undefined);
  if (job)
    return {
      says: job.checkOn
        ? `First check after job ${job.id} is due: loss, warmth of the bearing end, fasteners.`
        : `Job ${job.id} is at work: ${job.title}.`,
      then: "",
      verb: job.checkOn ? "See the job" : "Go on with the job",
      axis: null,
      rank: job.checkOn ? 3.5 : 4.6,
      link: ["/jobs", job.id],
    };
  const asked = machine.openCases[0] as FloorMachine["openCases"][number] | undefined;
  const about = machine.axes.find((a) => a.id === asked?.axisId);
  if (asked && about) {
    const more = machine.openCases.length - 1;
    return {
      says: `${about.letter}: case ${asked.id} is open${more ? `, and ${more} more` : ""}.`,
      then: about.last && stateOf(about) === "act" ? "It loses more than its limit." : "",
      verb: "Go on with the case",
      axis: about,
      rank: 4.5,
    };
  }
  if (act?.last) {
    const lost = formatDeviation(act.last.lostMm, {
      system,
      expandedMm: act.last.expandedMm,
    });
    return {
      says: `${act.letter} loses ${lost} at reversal, over its limit.`,
      then: "Check the fasteners, then split the chain.",
      verb: `Measure ${act.letter}`,
      axis: act,
      rank: 4,
    };
  }
  const untold = machine.axes.find((a) => a.last && stateOf(a) === "unknown");
  if (untold)
    return {
      says: `${untold.letter}: the last test cannot tell on which side of the limit it is.`,
      then: "Measure it so that it can.",
      verb: `Measure ${untold.letter}`,
      axis: untold,
      rank: 3.2,
    };
  const grows = machine.axes.find((a) => growsToLimit(a));
  if (grows?.trend?.reachesLimitAt && grows.trend.significant) {
    const when = monthWords(grows.trend.reachesLimitAt);
    return {
      says: `${grows.letter} grows by ${perMonth(grows, system)} a month: limit reached about`,
      then: `${when}.`,
      verb: "See trend",
      axis: grows,
      rank: 3,
    };
  }
  const watch = machine.axes.find((a) => lossWord(a.last, a) === "watch") ?? found("watch");
  if (watch)
    return {
      says: `${watch.letter} is ${lossWord(watch.last, watch) === "watch" ? "" : "perhaps "}past what can be left, under its limit.`,
      then: "",
      verb: `Measure ${watch.letter}`,
      axis: watch,
      rank: 2.5,
    };
  if (open)
    return {
      says: `A test on ${open.letter} is not finished.`,
      then: "",
      verb: "Go on",
      axis: open,
      rank: 2,
    };
  if (machine.lube)
    return {
      says: machine.lube,
      then: "",
      verb: "Walk the round",
      axis: null,
      rank: 1.5,
      link: ["/rounds"],
    };
  const unknown = machine.axes.find((a) => !a.last);
  if (unknown)
    return {
      says: `${unknown.letter} was never measured.`,
      then: "",
      verb: `Measure ${unknown.letter}`,
      axis: unknown,
      rank: 1,
    };
  if (machine.axes.length === 0)
    return {
      says: "No axes yet.",
      then: "",
      verb: "Add axes",
      axis: null,
      rank: 1,
    };
  const scales = machine.axes.every((a) => a.feedback === "scale");
  return {
    says: scales ? "Scales: slack shows as hunting, not as loss." : "",
    then: "",
    verb: "",
    axis: null,
    rank: 0,
  };
}

function linkFor(machine: FloorMachine, says: Says): MachineView["action"] {
  if (!says.verb) return null;
  if (says.link) return { label: says.verb, link: says.link };
  if (!says.axis) return { label: says.verb, link: ["/machines", machine.id] };
  const base = ["/machines", machine.id, "axes", says.axis.id];
  if (says.verb === "See trend") return { label: says.verb, link: [...base, "history"] };
  if (says.verb === "Go on" && says.axis.openRunId !== null)
    return { label: says.verb, link: [...base, "runs", says.axis.openRunId] };
  if (says.verb === "Go on with the case") return { label: says.verb, link: [...base, "locate"] };
  return { label: says.verb, link: [...base, "measure"] };
}

/** Every machine, what needs attention first; `query` narrows by nickname, bay, kind or note. */
export function floorView(
  floor: Omit<Floor, "backup">,
  kindWords: Readonly<Record<string, string>>,
  system: UnitSystem,
  query: string,
  now = new Date(),
): FloorView {
  const wanted = query.trim().toLowerCase();
  const machines = floor.machines
    .filter((m) => `${m.nickname} bay ${m.bay} ${kindWords[m.kind]} ${m.note}`.toLowerCase().includes(wanted))
    .map((machine): MachineView => {
      const says = whatItSays(machine, system);
      return {
        id: machine.id,
        bay: machine.bay,
        nickname: machine.nickname,
        kind: kindWords[machine.kind],
        axes: machine.axes.map((a) => axisView(a, system, now)),
        says: says.says,
        then: says.then,
        also: says.says === machine.lube ? "" : machine.lube,
        action: linkFor(machine, says),
        rank: says.rank,
      };
    })
    .sort((a, b) => b.rank - a.rank || a.bay.localeCompare(b.bay, "en", { numeric: true }));
  const wanting = machines.filter((m) => m.rank > 2).length;
  if (wanted)
    return {
      heading: `${countWords(machines.length, "machine", "machines")} found for “${query.trim()}”`,
      machines,
    };
  const heading =
    wanting === 0 ? "No machine wants you" : `${countWords(wanting, "machine wants", "machines want")} you`;
  return { heading, machines };
}
