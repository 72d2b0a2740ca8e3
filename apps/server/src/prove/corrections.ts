import {
  bareTargets,
  checkCorrectionRules,
  comparePrediction,
  evaluatePositioning,
  mayCompensate,
  travelPerTurnMm,
  type Correction,
  type MayCompensate,
} from "@iron/core";
import {
  type Axis,
  type CorrectionCreate,
  type CorrectionEnter,
  type CorrectionRecord,
  type Corrections as CorrectionList,
  type CorrectionTrial,
  type Run,
} from "@iron/contract";
import type { DeviceHub } from "../devices/device-hub";
import { conflict, notFound, problem } from "../http/problem-error";
import type { Machines } from "../machine/machines";
import type { Runs } from "../measure/runs";
import { instant, type Clock } from "../shop/clock";
import { fromJson, toJson } from "../store/columns";
import type { Db } from "../store/database";
import type { WorkPool } from "../threads/pool";
import {
  activeAt,
  asControl,
  basisOf,
  expectTyped,
  lossesOf,
  profileOf,
  stateOf,
  type CorrectionRow,
  type Entry,
} from "./correction-rows";

/** Profiles that are offered and compared, the newest. */
const MOST_PROFILES = 20;

/** Compensation tables: made from a profile, kept as versions, entered in the control, compared with what was read since. */
export class Corrections {
  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly machines: Machines;
      readonly runs: Runs;
      readonly hub: DeviceHub;
      readonly clock: Clock;
      readonly pool: WorkPool;
    },
  ) {}

  async list(axisId: number): Promise<CorrectionList> {
    const axis = await this.needs.machines.axis(axisId);
    const runs = await this.profiles(axisId);
    const rows = await this.rows(axisId);
    const entries = await this.entries(axisId);
    const worked = await this.workedOn(axisId);
    const versions = rows.map((row, i) => {
      const { prediction, made } = fromJson(row.trial);
      return {
        ...stateOf(row, { version: i + 1, entries, worked }),
        beforeMm: prediction.before.meanRange,
        afterMm: prediction.after.meanRange,
        note: fromJson(row.given).note,
        table: made.table,
      };
    });
    return {
      profiles: runs.map((run) => profileOf(run, activeAt(entries, run.startedAt))),
      versions: versions.reverse(),
      losses: runs.length > 0 ? lossesOf(runs[0]) : [],
      simulated: await this.simulated(axis.id),
    };
  }

  async try(axisId: number, given: CorrectionCreate): Promise<CorrectionTrial> {
    const axis = await this.needs.machines.axis(axisId);
    const run = await this.profile(axisId, given.runId);
    const { travelMm } = axis.config;
    // Before it goes to another thread, so that what is refused is refused by its name.
    checkCorrectionRules(given.rules, travelMm);
    const basis = basisOf(run, given);
    bareTargets(basis);
    const options = { rules: given.rules, perTurnMm: travelPerTurnMm(axis.config), travelMm };
    const worked = await this.needs.pool.run("correction", { basis, options });
    return { ...worked, may: await this.may(axis, run) };
  }

  async keep(axisId: number, given: CorrectionCreate, who: string): Promise<CorrectionRecord> {
    const trial = await this.try(axisId, given);
    if (trial.may.refused.length > 0)
      throw conflict("The mechanics come first: no table is kept while they are over their limits.", trial.may);
    const unfit = trial.made.notes.find((n) => n.code === "too-large" || n.code === "too-steep");
    if (unfit) throw conflict("The control would not take this table: a value or a change is over its limit.", unfit);
    const { id } = await this.needs.db
      .insertInto("correction")
      .values({
        axis_id: axisId,
        run_id: given.runId,
        given: toJson(given),
        trial: toJson(trial),
        at: instant(this.needs.clock),
        by: who,
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    return this.record(id);
  }

  async record(id: number): Promise<CorrectionRecord> {
    const { row, axis } = await this.row(id);
    const rows = await this.rows(axis.id);
    const entries = await this.entries(axis.id);
    const state = stateOf(row, {
      version: rows.findIndex((r) => r.id === id) + 1,
      entries,
      worked: await this.workedOn(axis.id),
    });
    const trial = fromJson(row.trial);
    const given = fromJson(row.given);
    return {
      ...trial,
      ...state,
      axisId: axis.id,
      machineId: axis.machineId,
      given,
      after: await this.after({ axis, row, entries }),
      simulated: await this.simulated(axis.id),
    };
  }

  async enter(id: number, enter: CorrectionEnter, who: string): Promise<CorrectionRecord> {
    const { row, axis } = await this.row(id);
    const { table } = fromJson(row.trial).made;
    if (enter.how === "read back") expectTyped(table, enter);
    else await this.tellControl(axis, table);
    await this.note(axis.id, { correctionId: id, how: enter.how, reason: "" }, who);
    return this.record(id);
  }

  async takeOut(axisId: number, reason: string, who: string): Promise<CorrectionList> {
    const axis = await this.needs.machines.axis(axisId);
    const [last] = await this.entries(axisId);
    if (!last?.correction_id) throw conflict("No table of these stands in the control: there is none to take out.");
    if (last.how === "simulated control") await this.tellControl(axis, null);
    await this.note(axisId, { correctionId: null, how: last.how, reason }, who);
    return this.list(axisId);
  }

  /** Is the control of an axis a simulated one? */
  private async simulated(axisId: number): Promise<boolean> {
    return this.needs.hub.device(axisId).then(
      () => true,
      () => false,
    );
  }

  private async note(
    axisId: number,
    entry: { readonly correctionId: number | null; readonly how: CorrectionEnter["how"]; readonly reason: string },
    who: string,
  ): Promise<void> {
    const { correctionId: correction_id, how, reason } = entry;
    await this.needs.db
      .insertInto("correction_entry")
      .values({ axis_id: axisId, correction_id, how, reason, at: instant(this.needs.clock), by: who })
      .execute();
  }

  private async tellControl(axis: Axis, table: Correction | null): Promise<void> {
    if (!(await this.simulated(axis.id)))
      throw conflict("No simulated control belongs to this axis. Type the table in and read it back.");
    const { db, hub } = this.needs;
    await hub.forget(axis.id);
    const row = await db
      .selectFrom("virtual_axis")
      .select("model")
      .where("axis_id", "=", axis.id)
      .executeTakeFirstOrThrow();
    const { correction: _before, ...model } = fromJson(row.model);
    await db
      .updateTable("virtual_axis")
      .set({ model: toJson(table ? { ...model, correction: asControl(table) } : model) })
      .where("axis_id", "=", axis.id)
      .execute();
    await hub.forget(axis.id);
  }

  private async after({
    axis,
    row,
    entries,
  }: {
    readonly axis: Axis;
    readonly row: CorrectionRow;
    readonly entries: readonly Entry[];
  }): Promise<CorrectionRecord["after"]> {
    const given = fromJson(row.given);
    const { table } = fromJson(row.trial).made;
    const before = basisOf(await this.needs.runs.run(row.run_id), given);
    const runs = await this.profiles(axis.id);
    return runs
      .filter((r) => activeAt(entries, r.startedAt) === row.id)
      .map((run) => {
        const basis = basisOf(run, { ...given, old: null });
        return {
          runId: run.id,
          at: run.finishedAt ?? run.startedAt,
          compared: comparePrediction(before, table, basis),
          meanRangeMm: evaluatePositioning(bareTargets(basis)).meanRange,
        };
      });
  }

  /** Finished profiles along a reference that keeps its zero, the newest first. */
  private async profiles(axisId: number): Promise<readonly Run[]> {
    const rows = await this.needs.db
      .selectFrom("run")
      .select(["id", "plan"])
      .where("axis_id", "=", axisId)
      .where("state", "=", "finished")
      .orderBy("finished_at", "desc")
      .execute();
    const fit = rows.filter((r) => {
      const plan = fromJson(r.plan);
      return plan.kind === "travel-profile" && plan.keepsZero;
    });
    return Promise.all(fit.slice(0, MOST_PROFILES).map((r) => this.needs.runs.run(r.id)));
  }

  private async profile(axisId: number, runId: number): Promise<Run> {
    const run = await this.needs.runs.run(runId);
    const { plan, state } = run;
    if (run.axisId !== axisId) throw problem(422, { title: "Not valid", detail: `Test ${runId} is of another axis.` });
    if (plan.kind !== "travel-profile" || !plan.keepsZero || state !== "finished")
      throw problem(422, {
        title: "Not valid",
        detail: `Test ${runId} is no finished travel profile along one reference: set to zero anew at each place, it says what is lost there, not where the axis stands.`,
      });
    return run;
  }

  private async may(axis: Axis, run: Run): Promise<MayCompensate> {
    const { limits, enteredMm } = axis.config;
    const float = await this.needs.db
      .selectFrom("loss")
      .select(["lost_mm", "expanded_mm", "place_mm"])
      .where("axis_id", "=", axis.id)
      .where("kind", "=", "end-float")
      .where("at", ">", (await this.workedOn(axis.id)) ?? "")
      .orderBy("at", "desc")
      .executeTakeFirst();
    const endFloat = float ? { atMm: float.place_mm ?? 0, valueMm: float.lost_mm, uMm: float.expanded_mm } : null;
    return mayCompensate(lossesOf(run), { limits, endFloat, enteredMm });
  }

  private async workedOn(axisId: number): Promise<string | null> {
    const row = await this.needs.db
      .selectFrom("axis_event")
      .select((eb) => eb.fn.max("at").as("at"))
      .where("axis_id", "=", axisId)
      .where("kind", "in", ["repair", "adjustment"])
      .executeTakeFirst();
    return row?.at ?? null;
  }

  private rows(axisId: number): Promise<CorrectionRow[]> {
    return this.needs.db.selectFrom("correction").selectAll().where("axis_id", "=", axisId).orderBy("id").execute();
  }

  /** What was said of the control, the newest first. */
  private entries(axisId: number): Promise<Entry[]> {
    return this.needs.db
      .selectFrom("correction_entry")
      .selectAll()
      .where("axis_id", "=", axisId)
      .orderBy("id", "desc")
      .execute();
  }

  private async row(id: number): Promise<{ readonly row: CorrectionRow; readonly axis: Axis }> {
    const row = await this.needs.db.selectFrom("correction").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("table", id);
    return { row, axis: await this.needs.machines.axis(row.axis_id) };
  }
}
