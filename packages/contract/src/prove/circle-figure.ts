import { circleFound, RETESTED_KINDS, type CircleFigure, type CircleFound } from "@iron/core";
import * as z from "zod";
import { between, finite, instantSchema, letterSchema, oneOf } from "../wire/common";
import type { CirclePlane, Circles } from "./circle";

const foundSchema = z.object({
  kind: oneOf("Part", RETESTED_KINDS),
  letter: letterSchema.nullable(),
  value: finite,
  u: finite.min(0, "U must be 0 or more."),
  leave: finite,
  repair: finite,
});
const allFound = z.array(foundSchema).max(40).readonly();

/** A circle taken as a retest, with everything it is judged by. The server puts its own numbers in their place. */
export const circleFigureSchema = z.object({
  sessionId: z.number().int(),
  at: instantSchema,
  plane: z.tuple([letterSchema, letterSchema]).readonly(),
  feedMmMin: between("Feed", [1, 200_000], "mm/min"),
  found: allFound,
  before: z.object({ at: instantSchema, found: allFound }).nullable(),
  fresh: z.boolean(),
  square: z.boolean(),
});

/** The axis that is retested, and what of a circle is its job’s matter. */
export interface CircleAsked {
  readonly letter: string;
  /** When the work was done: only what was read since is a retest, what was read until then was before. */
  readonly since: string;
  /** What the axis may lose, mm. */
  readonly lost: { readonly leaveMm: number; readonly repairMm: number };
  readonly fresh: boolean;
  readonly square: boolean;
}

/** The circles since the work of a job that show its axis both ways round, the newest first, each beside the last like it before. */
export function circleFigures(
  { sessions, limits }: Circles,
  { letter, since, lost, fresh, square }: CircleAsked,
): readonly CircleFigure[] {
  const foundOf = ({ analysis, plan }: CirclePlane): readonly CircleFound[] =>
    analysis
      ? circleFound(analysis, plan.letters, (kind, of) =>
          kind === "lost" && of === letter ? { leave: lost.leaveMm, repair: lost.repairMm } : limits.limits[kind],
        )
      : [];
  const all = sessions
    .filter((s) => s.state === "finished")
    .flatMap((session) => session.planes.map((plane) => ({ session, plane })))
    .filter(({ plane }) => plane.plan.letters.includes(letter) && (plane.analysis?.quantities.gBoth ?? null) !== null);
  return all
    .filter(({ session }) => session.startedAt > since)
    .map(({ session, plane }): CircleFigure => {
      const { letters, feedMmMin, radiusMm } = plane.plan;
      const before = all.findLast(
        (b) =>
          b.session.startedAt <= since &&
          b.plane.plan.letters.join() === letters.join() &&
          b.plane.plan.feedMmMin === feedMmMin &&
          b.plane.plan.radiusMm === radiusMm,
      );
      return {
        sessionId: session.id,
        at: session.startedAt,
        plane: letters,
        feedMmMin,
        found: foundOf(plane),
        before: before ? { at: before.session.startedAt, found: foundOf(before.plane) } : null,
        fresh,
        square,
      };
    })
    .reverse();
}
