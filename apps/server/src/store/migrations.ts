import { usualCosts, usualLimits, usualMechanics, type AxisConfig, type MachineKind } from "@iron/core";
import { sql, type Kysely, type Migration } from "kysely";
import { keptSums } from "../sums/kept-sums";
import { appendOnly } from "./append-only";
import { answeredChecks, keep, lubrication, parts, places } from "./lubrication-migrations";
import { circles, corrections, geometry } from "./prove-migrations";
import { people, record, seals } from "./people-tables";
import { sounds, soundsWell } from "./sound-tables";
import { change, changeOnFile } from "./in-dialect";

const first: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table setting (key text primary key, value text not null) strict`,
      `create table machine (
        id integer primary key, nickname text not null, bay text not null, kind text not null,
        hours_per_week real not null, note text not null, version integer not null default 1,
        retired_at text) strict`,
      `create table axis (
        id integer primary key, machine_id integer not null references machine(id),
        config text not null check (json_valid(config)), version integer not null default 1,
        updated_at text not null, updated_by text not null, retired_at text) strict`,
      `create index axis_of_machine on axis (machine_id)`,
      `create table axis_event (
        id integer primary key, axis_id integer not null references axis(id), kind text not null,
        text text not null, at text not null, by text not null) strict`,
      `create index event_of_axis on axis_event (axis_id, at)`,
      `create table indicator (
        id integer primary key, name text not null, kind text not null, resolution_mm real not null,
        unit text not null, tip_angle_deg real not null, range_mm real not null, retired_at text) strict`,
      `create table run (
        id integer primary key, axis_id integer not null references axis(id), kind text not null,
        plan text not null check (json_valid(plan)), setup text not null check (json_valid(setup)),
        state text not null, started_at text not null, finished_at text, by text not null,
        import_hash text, lost_mm real, expanded_mm real, place_mm real) strict`,
      `create index run_of_axis on run (axis_id, started_at)`,
      `create unique index run_imported_once on run (axis_id, import_hash) where import_hash is not null`,
      `create table reading (
        id integer primary key, run_id integer not null references run(id), step integer not null,
        value real not null, width_mm real not null, entered text not null, source text not null,
        spoilt integer not null, reason text not null, at text not null, by text not null) strict`,
      `create index reading_of_run on reading (run_id, id)`,
      `create table reading_mark (
        id integer primary key, reading_id integer not null references reading(id), mark text not null,
        reason text not null, at text not null, by text not null) strict`,
      `create index mark_of_reading on reading_mark (reading_id, id)`,
      `create table virtual_axis (
        axis_id integer primary key references axis(id), model text not null check (json_valid(model)),
        state text check (state is null or json_valid(state)), mounted_run_id integer) strict`,
      ...["reading", "reading_mark"].flatMap((table) =>
        ["update", "delete"].map(
          (act) =>
            `create trigger ${table}_no_${act} before ${act} on ${table}
             begin select raise(abort, 'readings are append-only'); end`,
        ),
      ),
    ];
    await change(db, statements);
  },
};

const judgement: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await change(db, [
      `alter table reading add column judgement text check (judgement is null or json_valid(judgement))`,
    ]);
  },
};

const cases: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table case_file (
        id integer primary key, machine_id integer not null references machine(id),
        axis_ids text not null check (json_valid(axis_ids)), state text not null,
        opened_at text not null, by text not null, version integer not null default 1,
        context text not null check (json_valid(context)),
        symptoms text not null check (json_valid(symptoms)), notes text not null,
        evidence text not null default '{}' check (json_valid(evidence)),
        closed_at text, closed_by text, found text check (found is null or json_valid(found)),
        closing_words text, expected text check (expected is null or json_valid(expected))) strict`,
      `create index case_of_machine on case_file (machine_id, opened_at)`,
      `create table case_result (
        id integer primary key, case_id integer not null references case_file(id),
        axis_id integer not null references axis(id), test text not null,
        answers text not null check (json_valid(answers)), note text not null,
        data text check (data is null or json_valid(data)), at text not null, by text not null) strict`,
      `create index result_of_case on case_result (case_id, id)`,
      `create table case_photo (
        id integer primary key, case_id integer not null references case_file(id),
        caption text not null, finding text, media text not null, bytes blob not null,
        at text not null, by text not null) strict`,
      `create index photo_of_case on case_photo (case_id, id)`,
      // Results and photos stay; what is taken back is marked so, and the last mark counts.
      `create table case_mark (
        id integer primary key, kind text not null, of_id integer not null, withdrawn integer not null,
        at text not null, by text not null) strict`,
      `create index mark_of on case_mark (kind, of_id, id)`,
      `create table cause_override (
        cause text primary key, prior real not null, why text not null, at text not null, by text not null) strict`,
      ...["case_result", "case_photo", "case_mark"].flatMap((table) =>
        ["update", "delete"].map(
          (act) =>
            `create trigger ${table}_no_${act} before ${act} on ${table}
             begin select raise(abort, 'evidence is append-only'); end`,
        ),
      ),
    ];
    await change(db, statements);
  },
};

const series: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table series (
        id integer primary key, axis_id integer not null references axis(id), kind text not null,
        plan text not null check (json_valid(plan)), started_at text not null, by text not null) strict`,
      `create index series_of_axis on series (axis_id, started_at)`,
      `create table series_point (
        id integer primary key, key text not null unique, series_id integer not null references series(id),
        step integer not null, value real, entered text not null, source text not null,
        at text not null, by text not null) strict`,
      `create index point_of_series on series_point (series_id, id)`,
      ...appendOnly("series_point", "readings are"),
    ];
    await change(db, statements);
  },
};

const jobs: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table job (
        id integer primary key, machine_id integer not null references machine(id),
        case_id integer references case_file(id), title text not null,
        items text not null check (json_valid(items)), options text not null check (json_valid(options)),
        axes text not null check (json_valid(axes)), plan text not null check (json_valid(plan)),
        opened_at text not null, by text not null, finished_at text, check_on text) strict`,
      `create index job_of_machine on job (machine_id, opened_at)`,
      `create table job_event (
        id integer primary key, key text not null unique, job_id integer not null references job(id),
        kind text not null, data text not null check (json_valid(data)),
        at text not null, by text not null) strict`,
      `create index event_of_job on job_event (job_id, id)`,
      `create table job_photo (
        id integer primary key, job_id integer not null references job(id), step text not null,
        caption text not null, media text not null, bytes blob not null,
        at text not null, by text not null) strict`,
      `create index photo_of_job on job_photo (job_id, id)`,
      ...appendOnly("job_event", "what happened on a job is"),
      ...appendOnly("job_photo", "photos are"),
    ];
    await change(db, statements);
  },
};

const photoKeys: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    await change(db, [
      `alter table job_photo add column key text`,
      `create unique index job_photo_once on job_photo (key) where key is not null`,
    ]);
  },
};

/** An indicator’s own errors, and what is entered in the control. */
const ownErrors: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `alter table indicator add column hysteresis_mm real`,
      `alter table indicator add column calibration_mm real`,
    ];
    await change(db, statements);
    await changeOnFile(db, [
      `update axis set config = json_set(config, '$.enteredMm', 0)
       where json_extract(config, '$.enteredMm') is null`,
    ]);
    await followDrives(db);
  },
};

/** Limits that nobody chose once followed the kind of machine; now they follow the axis’ drive. */
async function followDrives(db: Kysely<unknown>): Promise<void> {
  const { rows } = await sql<{
    id: number;
    config: string;
  }>`select id, config from axis`.execute(db);
  for (const { id, config } of rows) {
    const axis = JSON.parse(config) as AxisConfig;
    if (!["", "default"].includes(axis.limits.setBy)) continue;
    const now = JSON.stringify({ ...axis, limits: usualLimits(axis) });
    await sql`update axis set config = ${now} where id = ${id}`.execute(db);
  }
}

/** Axes say what holds, moves and can be reached: at first what is usual for the kind of machine. */
const mechanism: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const { rows } = await sql<{
      id: number;
      config: string;
      kind: MachineKind;
    }>`select axis.id, axis.config, machine.kind from axis
       join machine on machine.id = axis.machine_id`.execute(db);
    for (const { id, config, kind } of rows) {
      const axis = JSON.parse(config) as Partial<AxisConfig> & AxisConfig;
      if ("mechanics" in axis) continue;
      const now = JSON.stringify({
        ...(axis as AxisConfig),
        mechanics: usualMechanics(kind, axis),
      });
      await sql`update axis set config = ${now} where id = ${id}`.execute(db);
    }
  },
};

/** Prices that nobody noted are what is usual for size and kind; a figure that was only proposed goes. */
const usualPrices: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const { rows } = await sql<{
      id: number;
      config: string;
    }>`select id, config from axis`.execute(db);
    for (const { id, config } of rows) {
      const axis = JSON.parse(config) as AxisConfig;
      const usual = usualCosts(axis);
      const { bearingSet, screw } = axis.costs;
      const costs: AxisConfig["costs"] = {
        ...axis.costs,
        bearingSet: [350, usual.bearingSet].includes(bearingSet ?? 0) ? null : bearingSet,
        screw: [3200, usual.screw].includes(screw ?? 0) ? null : screw,
      };
      const now = JSON.stringify({ ...axis, costs });
      await sql`update axis set config = ${now} where id = ${id}`.execute(db);
    }
  },
};

/**
 * A retest typed in a job is a value of its axis like any test; `loss` is both. Deleted again only
 * when the step is taken back.
 */
const typedLosses: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table typed_loss (
        id integer primary key, axis_id integer not null references axis(id),
        job_id integer not null references job(id), step text not null, kind text not null,
        lost_mm real not null, expanded_mm real not null, place_mm real, at text not null,
        by text not null, unique (job_id, step)) strict`,
      `create index typed_loss_of_axis on typed_loss (axis_id, at)`,
      `create view loss as
        select id as run_id, null as job_id, axis_id, kind, lost_mm, expanded_mm, place_mm,
          finished_at as at, by from run
        where state = 'finished' and finished_at is not null and lost_mm is not null
          and expanded_mm is not null
        union all
        select null, job_id, axis_id, kind, lost_mm, expanded_mm, place_mm, at, by from typed_loss`,
    ];
    await change(db, statements);
  },
};

/**
 * What two people can change at once has a version, as machines and axes have; a shop’s own weight that
 * is taken back keeps its row, so that its version goes on. A test that was given up says why.
 */
const versions: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      ...["lube_point", "indicator", "lubricant"].map(
        (table) => `alter table ${table} add column version integer not null default 1`,
      ),
      `create table cause_weight (
        cause text primary key, prior real, why text not null, at text not null, by text not null,
        version integer not null) strict`,
      `insert into cause_weight select cause, prior, why, at, by, 1 from cause_override`,
      `drop table cause_override`,
      `alter table cause_weight rename to cause_override`,
      `alter table run add column given_up text not null default ''`,
    ];
    await change(db, statements);
  },
};

/**
 * Symptoms belong to an axis: what was told of a case stands with the axis it was opened on, which is the first of
 * its axes; the others were never said to do the same.
 */
const toldByAxis: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [`alter table case_file add column told text not null default '{}' check (json_valid(told))`];
    await change(db, statements);
    await changeOnFile(db, [
      `update case_file set told = json_object(
        cast(json_extract(axis_ids, '$[0]') as text),
        json_object('answers', json(symptoms), 'evidence', json(evidence), 'allTold', json('false'), 'place', null))`,
    ]);
    await change(db, [`alter table case_file drop column symptoms`, `alter table case_file drop column evidence`]);
  },
};

/** The changes that a store of that form has behind it. */
export const migrationsUpTo = (last: string): typeof MIGRATIONS =>
  Object.fromEntries(Object.entries(MIGRATIONS).filter(([name]) => name <= last));

/** Once landed, a migration is never edited; changes come as the next one. */
export const MIGRATIONS: Record<string, Migration> = {
  "0001_first": first,
  "0002_judgement": judgement,
  "0003_cases": cases,
  "0004_series": series,
  "0005_jobs": jobs,
  "0006_lubrication": lubrication,
  "0007_photo_keys": photoKeys,
  "0008_keep": keep,
  "0009_own_errors": ownErrors,
  "0010_mechanism": mechanism,
  "0011_usual_prices": usualPrices,
  "0012_typed_losses": typedLosses,
  "0013_versions": versions,
  "0014_kept_sums": keptSums,
  "0015_told_by_axis": toldByAxis,
  "0016_answered_checks": answeredChecks,
  "0017_parts": parts,
  "0018_places": places,
  "0019_circles": circles,
  "0020_corrections": corrections,
  "0021_geometry": geometry,
  "0022_sounds": sounds,
  "0023_sounds_well": soundsWell,
  "0024_people": people,
  "0025_record": record,
  "0026_seals": seals,
};
