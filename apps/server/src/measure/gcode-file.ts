import { gcodeProgram, hasProgram, needsLift, wordError, type AxisConfig, type TipLift } from "@iron/core";
import type { Run } from "@iron/contract";
import type { Handlers } from "../http/mount";
import { conflict, problem } from "../http/problem-error";
import type { Machines } from "../machine/machines";

export type GcodeQuery = Parameters<Handlers["gcode"]>[0]["query"];

/** The rest of a test as a program, for the axes of its machine. */
export async function gcodeOf(machines: Machines, run: Run, query: GcodeQuery): Promise<string> {
  if (!hasProgram(run.plan.kind)) {
    throw conflict("A test that counts steps by hand has no program.");
  }
  const axis = await machines.axis(run.axisId);
  const { config } = axis;
  const { nickname, axes: all } = await machines.withAxes(axis.machineId);
  const axes = all
    .filter((a) => a.retiredAt === null && a.id !== axis.id)
    .map((a) => a.config)
    .concat(config);
  if (query.letter !== config.letter)
    throw problem(422, {
      title: "Not valid",
      detail: `This test is of axis ${config.letter}: its program moves no ${query.letter}.`,
      errors: [{ path: "letter", message: `The axis is ${config.letter}.` }],
    });
  const title = `${nickname} ${config.letter} ${run.plan.kind} test ${run.id}`;
  return gcodeProgram(run.plan, {
    ...query,
    letter: wordOf(axes, config, { asked: query.word, path: "word" }),
    lift: liftOf(run, query, { tested: config, axes }),
    title,
    travelMm: config.travelMm,
    rapidMmMin: config.rapidMmMin,
  });
}

/** An axis in a program, as its control writes it; refused in words where it cannot be. */
function wordOf(
  axes: readonly AxisConfig[],
  axis: AxisConfig,
  { asked, path }: { readonly asked: string | undefined; readonly path: string },
): string {
  const word = asked ?? axis.letter;
  const others = axes.filter((a) => a !== axis).map((a) => a.letter);
  const message = wordError(axis.letter, word, others);
  if (message) throw problem(422, { title: "Not valid", detail: message, errors: [{ path, message }] });
  return word;
}

/** How the tip is lifted: as asked, by the axis that was named, else by hand where it must be. */
function liftOf(
  run: Run,
  query: GcodeQuery,
  { tested, axes }: { readonly tested: AxisConfig; readonly axes: readonly AxisConfig[] },
): TipLift {
  const { clearanceLetter, clearMm, readMm } = query;
  const asked = query.lift ?? (clearanceLetter ? "axis" : needsLift(run.plan) ? "by-hand" : "none");
  if (asked !== "axis") return { way: asked };
  const refuse = (message: string) =>
    problem(422, { title: "Not valid", detail: message, errors: [{ path: "clearanceLetter", message }] });
  if (!clearanceLetter) throw refuse("Name the axis that lifts the tip: clearanceLetter is missing.");
  if (clearanceLetter === tested.letter)
    throw refuse(`The tip cannot be lifted by ${tested.letter}, the axis that is tested.`);
  const lifter = axes.find((a) => a.letter === clearanceLetter);
  if (!lifter)
    throw refuse(`This machine has no axis ${clearanceLetter}: it has ${axes.map((a) => a.letter).join(", ")}.`);
  return {
    way: "axis",
    letter: wordOf(axes, lifter, { asked: query.clearanceWord, path: "clearanceWord" }),
    travelMm: lifter.travelMm,
    clearMm,
    readMm,
  };
}
