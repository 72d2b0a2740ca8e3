import { CAUSE_LINKS, FINDING_IDS, LINK_IDS, LOAD_METERS, MAGNITUDES, SLACKS, TEST_KINDS } from "@iron/core";
import * as z from "zod";
import { finite, instantSchema, versionSchema } from "../wire/common";
import { testIdSchema } from "./case";

const evidenceItem = z.object({
  message: z.string(),
  ref: z.string().nullable(),
  weight: finite,
});
const causeBrief = z.object({
  id: z.string(),
  name: z.string(),
  link: z.enum(CAUSE_LINKS),
  remedy: z.string(),
  minutes: finite,
  /** Where methods differ on it; empty where they do not. */
  method: z.string(),
});

export const ledgerSchema = z.object({
  lines: z.array(
    z.object({
      slacks: z.array(z.enum(SLACKS)),
      name: z.string(),
      shareMm: finite.nullable(),
      expandedMm: finite.nullable(),
      /** The upper bound is null when nothing bounds it. */
      boundsMm: z.tuple([finite, finite.nullable()]),
      from: z.array(z.enum(MAGNITUDES)),
      computed: z.boolean(),
    }),
  ),
  total: z.object({ reversalValueMm: finite, expandedMm: finite }).nullable(),
  rest: z.object({ mm: finite, expandedMm: finite, significant: z.boolean() }).nullable(),
  consistency: z.object({ chiSquared: finite, dof: finite, chance: finite }).nullable(),
  contradictions: z.array(z.string()),
});
export type LedgerView = z.infer<typeof ledgerSchema>;

/** What each drawn link is known to lose, for the chain strip. */
export const linkShareSchema = z.object({
  link: z.enum(LINK_IDS),
  shareMm: finite.nullable(),
  expandedMm: finite.nullable(),
  boundsMm: z.tuple([finite, finite.nullable()]),
  lookedAt: instantSchema.nullable(),
});
export type LinkShare = z.infer<typeof linkShareSchema>;

const meaningSchema = z.object({
  when: z.string(),
  chance: finite,
  /** What would be named; empty for nothing wrong. */
  names: z.array(z.string()),
  probability: finite,
});

export const diagnosisSchema = z.object({
  axisId: z.number().int(),
  headline: z.string(),
  sure: z.boolean(),
  noFault: finite,
  leading: z.array(
    z.object({
      cause: causeBrief,
      probability: finite,
      speaksFor: z.array(evidenceItem),
      speaksAgainst: z.array(evidenceItem),
    }),
  ),
  /** Whether what was measured fits together; where not, no cause is to be acted on. */
  fits: z.boolean(),
  /** What is normal on this axis and was noticed: no fault. */
  normal: z.array(z.string()),
  proven: z.array(z.string()),
  onlyLikely: z.array(z.string()),
  ruledOut: z.array(z.object({ cause: z.string(), by: z.string() })),
  notLookedAt: z.array(z.string()),
  warnings: z.array(z.string()),
  options: z.array(
    z.object({
      message: z.string(),
      cost: finite,
      chanceRight: finite,
      expectedCost: finite,
      unless: z.string().nullable(),
    }),
  ),
  stop: z.enum(["sure", "cannot-change"]).nullable(),
  tests: z.array(
    z.object({
      id: testIdSchema,
      name: z.string(),
      isolates: z.string(),
      minutes: finite,
      cost: finite,
      value: finite,
      /** The set-up of the test before stands, and its minutes are those that are left. */
      stands: z.boolean(),
      /** The one to do next. */
      next: z.boolean(),
      done: z.number().int(),
      say: z.string(),
      splits: z.array(z.string()),
      guided: z.boolean(),
      opens: z.boolean(),
    }),
  ),
  /** What each outcome of the next test would mean. */
  meanings: z.array(meaningSchema),
  /** Another test worth doing while the set-up of the next stands, and what it costs then. */
  together: z.object({ id: testIdSchema, name: z.string(), minutes: finite, guided: z.boolean() }).nullable(),
  /** The one result that would overturn what leads. */
  mind: meaningSchema.extend({ test: testIdSchema, name: z.string() }).nullable(),
  /** Questions still open, that whose answer tells most first. */
  questions: z.array(z.object({ finding: z.enum(FINDING_IDS), bits: finite })),
  impossible: z.array(z.object({ id: testIdSchema, name: z.string(), why: z.string() })),
  ledger: ledgerSchema,
  links: z.array(linkShareSchema),
  sisters: z.array(
    z.object({
      letter: z.string(),
      nowCost: finite,
      laterCost: finite,
      goes: finite,
      worth: z.boolean(),
      assumes: z.array(z.string()),
    }),
  ),
  /** Measurements since the last work on the axis that were used. */
  measured: z.array(
    z.object({
      runId: z.number().int().nullable(),
      /** The job it was typed in; null for a test. */
      jobId: z.number().int().nullable(),
      /** The circle that says it, as a loss of the whole chain; null for a test. */
      circleId: z.number().int().nullable().default(null),
      kind: z.enum(TEST_KINDS),
      reversalValueMm: finite,
      expandedMm: finite,
      at: instantSchema,
    }),
  ),
  /** The recording that was weighed with them; null where there is none that counts. */
  heard: z.object({ soundId: z.number().int(), said: z.string(), at: instantSchema }).nullable().default(null),
  since: instantSchema.nullable(),
});
export type Diagnosis = z.infer<typeof diagnosisSchema>;

export const loadTraceSchema = z.object({
  friction: z.object({ value: finite, u: finite, real: z.boolean() }),
  gravity: z.object({ value: finite, u: finite, real: z.boolean() }),
  lowEnd: z.object({ value: finite, u: finite, real: z.boolean() }),
  highEnd: z.object({ value: finite, u: finite, real: z.boolean() }),
  perTurn: z.object({ value: finite, u: finite, real: z.boolean() }),
  meter: z.enum(LOAD_METERS),
  askMeter: z.boolean(),
  frictionOrGravity: z.boolean(),
  alike: z.boolean(),
  stretches: z.array(
    z.object({
      fromMm: finite,
      toMm: finite,
      extra: z.object({ value: finite, u: finite, real: z.boolean() }),
    }),
  ),
  spots: z.array(z.object({ fromMm: finite, toMm: finite, peakMm: finite, extra: finite })),
  scatter: finite,
  fitted: z.array(finite.nullable()),
  cutOff: z.number().int(),
});

export const observationSchema = z.object({
  simulated: z.literal(true),
  /** What would be noticed, by finding. */
  answers: z.record(z.string(), z.boolean()),
  shown: z.array(z.string()),
});

export const knowledgeSchema = z.object({
  causes: z.array(
    causeBrief.extend({
      prior: finite,
      override: finite.nullable(),
      overrideBy: z.string(),
      overrideWhy: z.string(),
      /** Of the shop’s own weight; 0 where there never was one. */
      version: versionSchema,
      learned: finite,
      share: z.string(),
      shows: z.array(z.object({ text: z.string(), level: z.string(), chance: finite })),
      costClass: z.number().int(),
      normal: z.boolean(),
      provenance: z.string(),
    }),
  ),
  rules: z.array(
    z.object({
      when: z.string(),
      causes: z.array(z.string()),
      factor: finite,
    }),
  ),
  closedCases: z.number().int(),
  /** Of what the causes found here show, how much was told. */
  candour: finite.min(0).max(1),
  /** So much oftener than usual is nothing wrong in a case of this shop. */
  nothingWrong: finite.positive(),
});
export type Knowledge = z.infer<typeof knowledgeSchema>;
export const overrideSchema = z.object({
  /** Null takes the shop’s own weight back. */
  prior: finite.min(0, "The weight must be from 0 to 50.").max(50, "The weight must be from 0 to 50.").nullable(),
  why: z.string().trim().max(300, "Why is longer than 300 characters."),
  version: versionSchema,
});
