import type { AxisConfig, LocateTest, Magnitude, Report } from "@iron/core";

/** What is known when a test is proposed. */
export interface Known {
  readonly config: AxisConfig;
  readonly reports: readonly Report[];
  readonly magnitudes: readonly Magnitude[];
  readonly times: ReadonlyMap<string, number>;
}

const DRIVES = ["load-trace", "sound-comparison", "home-again", "crest-run", "end-watch", "travel-check", "recording"];
const FREE = ["comp-look", "look-over", "fastener-check"];

/**
 * What no mechanic would do, written apart from how the diagnosis keeps from it. Common practice, no source.
 * @returns why; null where it may be proposed
 */
export function forbidden(test: LocateTest, { config, reports, magnitudes, times }: Known): string | null {
  const last = (finding: string): boolean | undefined => reports.findLast((r) => r.finding === finding)?.present;
  const both = test.findings.some((f) => {
    const said = reports.filter((r) => r.source === "test" && r.finding === f).map((r) => r.present);
    return said.includes(true) && said.includes(false);
  });
  const before = times.get(test.id) ?? 0;
  // Two that disagree are settled by a third.
  if (before >= (both ? 3 : 2)) return "once too often";
  // A second time only for what is in doubt: found both ways, a size, or a yes that something hangs on.
  const yes = reports.some((r) => r.source === "test" && r.present && test.findings.some((f) => f === r.finding));
  if (before === 1 && !both && !yes && !test.magnitude && test.id !== "fastener-check") return "again, for nothing";
  if (
    test.id === "control-check" &&
    magnitudes.length > 0 &&
    last("stops-in-program") !== true &&
    last("no-motion") !== true
  )
    return "the control of an axis that was just moved";
  if (test.id === "load-trace" && config.motor === "stepper") return "the load of a stepper";
  if (test.id === "hand-push" && config.orientation !== "horizontal") return "pushing what can fall";
  if (last("no-motion") === true && (test.magnitude || DRIVES.includes(test.id))) return "driving what does not move";
  if (test.opens && last("no-motion") !== true && FREE.every((id) => !times.has(id)))
    return "opening before any free look";
  return null;
}
