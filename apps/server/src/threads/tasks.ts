import {
  analyseCircle,
  BoundError,
  keptWithin,
  makeCorrection,
  planRounds,
  planWhenDue,
  predictCorrection,
  virtualPass,
  waitBeyond,
  type CircleAnalysis,
  type CircleKnown,
  type CircleSetup,
  type CircleTrace,
  type CorrectionRules,
  type LeftOutWhy,
  type PlanDay,
  type ProfileBasis,
  type VirtualBar,
  type VirtualPassAsked,
  type VirtualPlane,
  type VisitNeed,
} from "@iron/core";

import { parseCircleCsv, parseReadingsCsv } from "@iron/contract";
import { remakePhoto } from "./photo";
import { recordVirtual, workSound } from "./sound";
import { checkMeters, checkPoints, checkWork } from "./file-check";

export interface PlanAsked {
  readonly needs: readonly VisitNeed[];
  readonly days: readonly PlanDay[];
  readonly pinned: ReadonlyMap<string, number>;
  /** Day of each visit that stays where it was; −1 where it is planned anew. */
  readonly keep: readonly number[];
  /** What leaving each for a week risks, in the shop’s money; Infinity where it must stand. */
  readonly worth: readonly number[];
}

export interface PlanMade {
  readonly dayOf: readonly number[];
  readonly leftOut: readonly { readonly visit: number; readonly why: LeftOutWhy | "no-minutes" }[];
  /** What it costs against doing each when it is due. */
  readonly against: number;
}

export interface CircleAsked {
  readonly traces: readonly CircleTrace[];
  readonly setup: CircleSetup;
  readonly known: Pick<CircleKnown, "calibrated" | "barU">;
  /** Its first number says how much is done, from 0 to 1: memory that whoever asked shares. */
  readonly done: Float64Array<SharedArrayBuffer>;
}

/** What takes long, away from the thread that answers: each a function of what it is given alone. */
export const TASKS = {
  checkMeters,
  checkPoints,
  checkWork,
  remakePhoto,
  workSound,
  recordVirtual,
  readReadings: (text: string) => parseReadingsCsv(text),
  readCircle: ({ text, radiusMm }: { readonly text: string; readonly radiusMm: number }) =>
    parseCircleCsv(text, radiusMm),
  /** What readings cannot tell is said, not thrown: it is no fault of whoever sent them. */
  circle({ traces, setup, known, done }: CircleAsked): {
    readonly analysis: CircleAnalysis | null;
    readonly why: string;
  } {
    try {
      return { analysis: analyseCircle(traces, setup, { ...known, told: (share) => (done[0] = share) }), why: "" };
    } catch (error) {
      if (!(error instanceof BoundError)) throw error;
      return { analysis: null, why: error.message };
    }
  },
  correction: ({
    basis,
    options,
  }: {
    readonly basis: ProfileBasis;
    readonly options: { readonly rules: CorrectionRules; readonly perTurnMm: number; readonly travelMm: number };
  }) => {
    const made = makeCorrection(basis, options);
    return { made, prediction: predictCorrection(basis, made.table, options) };
  },
  barPass: (asked: {
    readonly plane: VirtualPlane;
    readonly bar: VirtualBar;
    readonly pass: VirtualPassAsked;
  }): Float64Array => virtualPass(asked.plane, asked.bar, asked.pass),
  plan({ needs, days, pinned, keep, worth }: PlanAsked): PlanMade {
    const must = needs.map((n, i) => (pinned.has(n.id) ? Infinity : worth[i]));
    const waiting = waitBeyond(needs, { days, worth: must, stays: (i) => keep[i] >= 0 });
    const out = new Set(waiting);
    const inside = needs.map((_, i) => i).filter((i) => !out.has(i));
    const visits = inside.map((i) => needs[i]);
    const stay = keptWithin(visits, { days, worth: inside.map((i) => must[i]), keep: inside.map((i) => keep[i]) });
    const plan = planRounds(visits, days, { pinned, keep: stay, tries: 4000 });
    const dayOf = needs.map(() => -1);
    inside.forEach((i, k) => {
      dayOf[i] = plan.dayOf[k];
    });
    const plain = planWhenDue(visits, days).cost;
    return {
      dayOf,
      leftOut: [
        ...plan.leftOut.map(({ visit, why }) => ({ visit: inside[visit], why })),
        ...waiting.map((visit) => ({ visit, why: "no-minutes" as const })),
      ],
      against: plain > 0 ? plan.cost / plain : 1,
    };
  },
};
export type Tasks = typeof TASKS;
