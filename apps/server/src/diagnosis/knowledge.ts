import {
  CAUSES,
  finding,
  learnedCandour,
  learnedFactors,
  LEVELS,
  PRIOR_RULES,
  METHODS,
  NOTHING_WRONG,
  SLACK_TEXT,
  USUAL_CANDOUR,
  type ClosedCase,
  type FindingId,
  type Level,
  type ShopPriors,
} from "@iron/core";
import type { Knowledge as KnowledgeView, ToldByAxis } from "@iron/contract";
import { changedMeanwhile, notFound, problem } from "../http/problem-error";
import type { Db } from "../store/database";
import { fromJson } from "../store/columns";
import { instant, type Clock } from "../shop/clock";

/** What closed cases teach: how often a cause is met here, and how much of what shows is told. */
const learnedFrom = (cases: readonly ClosedCase[]): Pick<ShopPriors, "learned" | "candour"> => ({
  learned: learnedFactors(cases),
  candour: learnedCandour(cases),
});

/** What was said to be so of any axis of the case of which somebody was asked for all. */
function toldOf(told: ToldByAxis): Pick<ClosedCase, "told"> {
  const all = Object.values(told).filter((t) => t.allTold);
  if (all.length === 0) return {};
  const said = all.flatMap((t) => Object.entries(t.answers).flatMap(([id, so]) => (so ? [id as FindingId] : [])));
  return { told: [...new Set(said)] };
}

/** The causes as the inference uses them: the shipped catalogue, and the shop's own beside it. */
export class Knowledge {
  constructor(
    private readonly db: Db,
    private readonly clock: Clock,
  ) {}

  /** The shop's overrides and what its closed cases teach; never from the case in hand. */
  async shopPriors(exceptCase?: number): Promise<ShopPriors> {
    const overrides = await this.db.selectFrom("cause_override").select(["cause", "prior"]).orderBy("cause").execute();
    return {
      overrides: Object.fromEntries(overrides.flatMap((o) => (o.prior === null ? [] : [[o.cause, o.prior]]))),
      ...learnedFrom(await this.closedCases(exceptCase)),
    };
  }

  private async closedCases(exceptCase?: number) {
    const rows = await this.db
      .selectFrom("case_file")
      .select(["id", "found", "expected", "told"])
      .where("state", "=", "closed")
      .orderBy("id")
      .execute();
    return rows
      .filter((r) => r.id !== exceptCase)
      .map((r) => ({
        found: r.found ? fromJson(r.found) : [],
        expected: r.expected ? fromJson(r.expected) : {},
        ...toldOf(fromJson(r.told)),
      }));
  }

  async view(): Promise<KnowledgeView> {
    const overrides = await this.db.selectFrom("cause_override").selectAll().orderBy("cause").execute();
    const cases = await this.closedCases();
    const { learned, candour } = learnedFrom(cases);
    const own = new Map(overrides.map((o) => [o.cause, o]));
    return {
      closedCases: cases.length,
      candour: candour ?? USUAL_CANDOUR,
      nothingWrong: learned[NOTHING_WRONG] ?? 1,
      rules: PRIOR_RULES.map(({ when, causes, factor }) => ({
        when,
        factor,
        causes: causes.map((id) => CAUSES.find((c) => c.id === id)?.name ?? id),
      })),
      causes: CAUSES.map((c) => ({
        id: c.id,
        name: c.name,
        link: c.link,
        remedy: c.remedy.text,
        minutes: c.remedy.minutes,
        method: METHODS[c.id] ?? "",
        costClass: c.remedy.costClass,
        prior: c.prior,
        override: own.get(c.id)?.prior ?? null,
        overrideBy: own.get(c.id)?.by ?? "",
        overrideWhy: own.get(c.id)?.why ?? "",
        version: own.get(c.id)?.version ?? 0,
        learned: learned[c.id] ?? 1,
        share: c.share
          ? `${c.share.bothWays ? "either way " : ""}${c.share.um[0]} µm to ${c.share.um[1]} µm, ${SLACK_TEXT[c.share.slack].toLowerCase()}`
          : "none",
        shows: Object.entries(c.shows).map(([id, level]) => ({
          text: finding(id as FindingId).text,
          level: LEVELS[level as Level].text,
          chance: LEVELS[level as Level].probability,
        })),
        normal: c.normal ?? false,
        provenance: c.provenance,
      })),
    };
  }

  async override(
    cause: string,
    {
      prior,
      why,
      version,
      who,
    }: { readonly prior: number | null; readonly why: string; readonly version: number; readonly who: string },
  ): Promise<KnowledgeView> {
    if (!CAUSES.some((c) => c.id === cause)) throw notFound("cause", cause);
    if (prior !== null && !why)
      throw problem(422, {
        title: "Not valid",
        detail: "Say why the shop’s weight differs.",
        errors: [{ path: "why", message: "Say why the shop’s weight differs." }],
      });
    await this.db.transaction().execute(async (trx) => {
      const there = await trx.selectFrom("cause_override").selectAll().where("cause", "=", cause).executeTakeFirst();
      if ((there?.version ?? 0) !== version)
        throw changedMeanwhile("weight", {
          override: there?.prior ?? null,
          overrideBy: there?.by ?? "",
          overrideWhy: there?.why ?? "",
          version: there?.version ?? 0,
        });
      const row = {
        cause,
        prior,
        why: prior === null ? "" : why,
        at: instant(this.clock),
        by: who,
        version: version + 1,
      };
      await trx
        .insertInto("cause_override")
        .values(row)
        .onConflict((c) => c.column("cause").doUpdateSet(row))
        .execute();
    });
    return this.view();
  }
}
