import { type Kysely, type Migration } from "kysely";
import { appendOnly } from "./append-only";
import { change } from "./in-dialect";

/** Circles: sessions of planes, each read both ways round; what a machine is judged by; a virtual machine beyond its axes. */
export const circles: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table circle_session (
        id integer primary key, machine_id integer not null references machine(id), state text not null,
        started_at text not null, finished_at text, by text not null, reason text not null, note text not null,
        temperature_c real, bar text not null check (json_valid(bar))) strict`,
      `create index circle_of_machine on circle_session (machine_id, id)`,
      `create table circle_plane (
        id integer primary key, session_id integer not null references circle_session(id),
        plan text not null check (json_valid(plan)), axis_ids text not null check (json_valid(axis_ids)),
        per_turn text not null check (json_valid(per_turn)),
        analysis text check (analysis is null or json_valid(analysis)), why text not null) strict`,
      `create index plane_of_session on circle_plane (session_id, id)`,
      `create table circle_pass (
        id integer primary key, plane_id integer not null references circle_plane(id), direction integer not null,
        source text not null, readings integer not null, trace blob not null,
        troubles text not null check (json_valid(troubles)), at text not null, by text not null) strict`,
      `create index pass_of_plane on circle_pass (plane_id, id)`,
      `create table circle_aside (
        pass_id integer primary key references circle_pass(id), reason text not null, at text not null,
        by text not null) strict`,
      `create table circle_limit (
        id integer primary key, machine_id integer not null references machine(id),
        limits text not null check (json_valid(limits)), why text not null, at text not null, by text not null) strict`,
      `create index circle_limit_of_machine on circle_limit (machine_id, id)`,
      `create table virtual_machine (
        machine_id integer primary key references machine(id), model text not null check (json_valid(model))) strict`,
      ...appendOnly("circle_pass", "passes of a circle are"),
      ...appendOnly("circle_aside", "what is set aside is"),
      ...appendOnly("circle_limit", "limits of circles are"),
    ];
    await change(db, statements);
  },
};

/** Compensation tables of axes, and what was said of their controls. */
export const corrections: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table correction (
        id integer primary key, axis_id integer not null references axis(id), run_id integer not null references run(id),
        given text not null check (json_valid(given)), trial text not null check (json_valid(trial)),
        at text not null, by text not null) strict`,
      `create index correction_of_axis on correction (axis_id, id)`,
      `create table correction_entry (
        id integer primary key, axis_id integer not null references axis(id),
        correction_id integer references correction(id), how text not null, reason text not null, at text not null,
        by text not null) strict`,
      `create index correction_entry_of_axis on correction_entry (axis_id, id)`,
      ...appendOnly("correction", "compensation tables are"),
      ...appendOnly("correction_entry", "what was entered in a control is"),
    ];
    await change(db, statements);
  },
};

/** How machines stand: square and levels, as they were read. */
export const geometry: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table geometry (
        id integer primary key, machine_id integer not null references machine(id),
        taken text not null check (json_valid(taken)), note text not null, at text not null, by text not null) strict`,
      `create index geometry_of_machine on geometry (machine_id, id)`,
      `create table geometry_aside (
        geometry_id integer primary key references geometry(id), reason text not null, at text not null,
        by text not null) strict`,
      ...appendOnly("geometry", "readings of square and levels are"),
      ...appendOnly("geometry_aside", "what is set aside is"),
    ];
    await change(db, statements);
  },
};
