import { type Kysely, type Migration } from "kysely";
import { appendOnly } from "./append-only";
import { change } from "./in-dialect";

export const lubrication: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table lube_point (
        id integer primary key, machine_id integer not null references machine(id),
        point text not null check (json_valid(point)), since text not null) strict`,
      `create index point_of_machine on lube_point (machine_id)`,
      `create table lube_visit (
        id integer primary key, key text not null unique, point_id integer not null references lube_point(id),
        found text, dose real not null, glitter integer not null, words text not null,
        at text not null, by text not null) strict`,
      `create index visit_of_point on lube_visit (point_id, id)`,
      ...appendOnly("lube_visit", "visits are"),
    ];
    await change(db, statements);
  },
};

/** Spare parts: what the shop says of them, what lies there, what is ordered. */
export const parts: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table part_terms (
        part text primary key, version integer not null, price real not null, lead_days real not null,
        wait_days real not null, least integer not null) strict`,
      `create table part_move (
        id integer primary key, key text not null unique, part text not null, kind text not null,
        count integer not null, at text not null, by text not null) strict`,
      `create index move_of_part on part_move (part, id)`,
      `create table part_order (
        id integer primary key, key text not null unique, part text not null, count integer not null,
        why text not null, machine_id integer references machine(id), point_id integer references lube_point(id),
        at text not null, by text not null) strict`,
      `create table part_order_move (
        id integer primary key, key text not null unique, order_id integer not null references part_order(id),
        state text not null, at text not null, by text not null) strict`,
      `create index move_of_order on part_order_move (order_id, id)`,
      ...appendOnly("part_move", "part moves are"),
      ...appendOnly("part_order", "orders are"),
      ...appendOnly("part_order_move", "moves of orders are"),
    ];
    await change(db, statements);
  },
};

/** What became of rounds after the first of them were walked. */
export const keep: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `alter table lube_point add column retired_at text`,
      `alter table lube_visit add column friction integer not null default 0`,
      `alter table lube_visit add column outlets text`,
      `create table lube_hold (
        id integer primary key, key text not null unique, point_id integer not null references lube_point(id),
        kind text not null, date text, reason text not null, at text not null, by text not null) strict`,
      `create index hold_of_point on lube_hold (point_id, id)`,
      `create table lube_plan (
        id integer primary key, at text not null, plan text not null check (json_valid(plan)),
        changes text not null check (json_valid(changes))) strict`,
      `create table lube_photo (
        id integer primary key, key text not null unique, point_id integer not null references lube_point(id),
        caption text not null, media text not null, bytes blob not null, at text not null, by text not null) strict`,
      `create index photo_of_point on lube_photo (point_id, id)`,
      `create table meter_reading (
        id integer primary key, key text not null unique, machine_id integer not null references machine(id),
        date text not null, hours real not null, reset integer not null, at text not null, by text not null) strict`,
      `create index meter_of_machine on meter_reading (machine_id, date)`,
      `create table meter_back (
        reading_id integer primary key references meter_reading(id), at text not null, by text not null) strict`,
      `create table lubricant (
        id integer primary key, name text not null unique, spec text not null check (json_valid(spec))) strict`,
      `create table lube_stock (
        id integer primary key, key text not null unique, lubricant_id integer not null references lubricant(id),
        kind text not null, grams real not null, at text not null, by text not null) strict`,
      ...appendOnly("lube_hold", "moves by hand are"),
      ...appendOnly("meter_reading", "meter readings are"),
      ...appendOnly("lube_stock", "stock moves are"),
    ];
    await change(db, statements);
  },
};

/** A point says whether it is known when it was last seen to before it was kept; a visit what its checks were like. */
export const answeredChecks: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `alter table lube_point add column last_known integer not null default 0`,
      `alter table lube_visit add column checks text check (checks is null or json_valid(checks))`,
    ];
    await change(db, statements);
  },
};

/** Of a point with several places each is told by itself; a photo shows the point or one of its checks. */
export const places: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `alter table lube_visit add column places text check (places is null or json_valid(places))`,
      `alter table lube_photo add column shows text`,
    ];
    await change(db, statements);
  },
};
