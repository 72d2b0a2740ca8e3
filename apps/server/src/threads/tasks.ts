import { planRounds, planWhenDue, type PlanDay, type RoundPlan, type VisitNeed } from "@iron/core";

import { parseReadingsCsv } from "@iron/contract";
import { remakePhoto } from "./photo";
import { checkMeters, checkPoints, checkWork } from "./file-check";

export interface PlanAsked {
  readonly needs: readonly VisitNeed[];
  readonly days: readonly PlanDay[];
  readonly pinned: ReadonlyMap<string, number>;
  /** Day of each visit that stays where it was; −1 where it is planned anew. */
  readonly keep: readonly number[];
}

export interface PlanMade {
  readonly dayOf: readonly number[];
  readonly leftOut: RoundPlan["leftOut"];
  /** What it costs against doing each when it is due. */
  readonly against: number;
}

/** What takes long, away from the thread that answers: each a function of what it is given alone. */
export const TASKS = {
  checkMeters,
  checkPoints,
  checkWork,
  remakePhoto,
  readReadings: (text: string) => parseReadingsCsv(text),
  plan({ needs, days, pinned, keep }: PlanAsked): PlanMade {
    const { dayOf, leftOut, cost } = planRounds(needs, days, {
      pinned,
      keep,
      tries: 4000,
    });
    const plain = planWhenDue(needs, days).cost;
    return { dayOf, leftOut, against: plain > 0 ? cost / plain : 1 };
  },
};
export type Tasks = typeof TASKS;
