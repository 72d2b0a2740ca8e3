import { axisPoints, defaultAxis, USUAL_PRIMING, usualSetUp } from "@iron/core";
import type { LubricationPointRecord, Rounds } from "@iron/contract";

const X = defaultAxis("vertical-centre", "X");

/** A lubrication point as the server tells it. */
export const lubricationPoint = (over: Partial<LubricationPointRecord> = {}): LubricationPointRecord => ({
  ...axisPoints(X, { kind: "vertical-centre", setUp: usualSetUp("vertical-centre", [X]) })[0],
  heldBy: null,
  neverSeen: false,
  job: null,
  risk: { dry: 0.1, week: 12 },
  answered: [],
  factors: [],
  id: 1,
  machineId: 2,
  lastAt: null,
  lastFound: null,
  intervalDays: 126,
  by: "hours",
  held: false,
  unlearntDays: 126,
  learnt: "",
  dueOn: "2026-03-03",
  dueSpreadDays: 0,
  lateDays: -4,
  asksCase: "",
  visits: 2,
  hold: null,
  retired: false,
  photos: [],
  version: 1,
  qualified: false,
  overGreased: false,
  outlets: [],
  priming: USUAL_PRIMING,
  places: [],
  gunStrokeG: null,
  ...over,
});

/** Two days of rounds: the points on the first, at one machine; nobody there on the second. */
export const roundsOf = (points: readonly LubricationPointRecord[], over: Partial<Rounds> = {}): Rounds => ({
  days: [
    {
      date: "2026-03-02",
      minutes: 45,
      jobMinutes: 0,
      first: [],
      available: 90,
      stops: points.length ? [{ machineId: 2, nickname: "Godwit", bay: "7", points: [...points] }] : [],
    },
    { date: "2026-03-07", minutes: 0, jobMinutes: 0, first: [], available: 0, stops: [] },
  ],
  late: points.filter((p) => p.lateDays >= 1).length,
  points: points.length,
  currency: "EUR",
  gramsPerStroke: 0.8,
  against: 0.8,
  changes: [],
  changedAt: null,
  unplanned: [],
  ...over,
});
