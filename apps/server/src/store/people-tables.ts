import type { Role } from "@iron/contract";
import { type Generated, type Kysely, type Migration } from "kysely";
import { appendOnly } from "./append-only";
import type { Flag, Json } from "./columns";
import { change } from "./in-dialect";

/** What a session holds beside who it is. */
export interface SessionData {
  /** Goes with everything that changes something. */
  readonly csrfToken?: string;
  /** The PIN was given again; taken by the next signature that asks for it. */
  readonly again?: { readonly name: string; readonly at: string };
}

export interface PeopleTables {
  /** Somebody who can sign in. The name is theirs for good: records carry it. */
  person: {
    id: Generated<number>;
    name: string;
    sign: string;
    role: Role;
    /** As {@link file://../people/secrets.ts} keeps it; null: none yet. */
    secret: string | null;
    /** It was given by the keeper: one’s own is chosen first. */
    given: Flag;
    version: number;
    retired_at: string | null;
    last_seen: string | null;
    /** Of the secret address of their calendar; null: none. */
    calendar_hash: string | null;
  };
  /** Wrong tries in a row, from one address, and from anywhere (empty). */
  sign_in_failure: { person_id: number; address: string; failed: number; locked_until: string | null };
  session: {
    id: Generated<number>;
    /** Of what its cookie says: who reads this file cannot take it over. */
    sid_hash: string;
    person_id: number;
    data: Json<SessionData>;
    address: string;
    device: string;
    since: string;
    last_seen: string;
    ended_at: string | null;
  };
  /** Public halves of the keys that seal what waits on a device, by thumbprint. */
  session_seal: { id: string; session_id: number; key: string; at: string };
  /** What a PIN was asked for, by the hash of its body. */
  asked_again: { body_hash: string; at: string };
  /** Who came, went, failed, and was changed by whom: append-only. */
  door_event: {
    id: Generated<number>;
    at: string;
    person_id: number | null;
    what: string;
    by: string;
    address: string;
  };
  /** Who changed what, and from where: append-only. */
  change_event: {
    id: Generated<number>;
    at: string;
    by: string;
    address: string;
    what: string;
    subject: string;
    detail: string;
  };
  /** Both of them, to be searched. */
  record_line: {
    kind: "door" | "change";
    id: number;
    at: string;
    by: string;
    address: string;
    what: string;
    subject: string;
    detail: string;
  };
}

/** People who sign in, their sessions, and what happened at the door. */
export const people: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table person (
        id integer primary key, name text not null unique collate nocase, sign text not null collate nocase,
        role text not null check (role in ('look', 'technician', 'planner', 'keeper')),
        secret text, given integer not null default 0 check (given in (0, 1)), version integer not null default 0,
        retired_at text, last_seen text) strict`,
      `create unique index sign_of_person on person (sign) where retired_at is null`,
      `create table sign_in_failure (
        person_id integer not null references person(id), address text not null, failed integer not null,
        locked_until text, primary key (person_id, address)) strict`,
      `create table session (
        id integer primary key, sid_hash text not null unique, person_id integer not null references person(id),
        data text not null check (json_valid(data)), address text not null, device text not null,
        since text not null, last_seen text not null, ended_at text) strict`,
      `create index session_of_person on session (person_id, ended_at)`,
      `create table door_event (
        id integer primary key, at text not null, person_id integer references person(id), what text not null,
        by text not null, address text not null) strict`,
      ...appendOnly("door_event", "what happened at the door is"),
    ];
    await change(db, statements);
  },
};

/** Every change has who, when and from where; a calendar has an address of its own. */
export const record: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `alter table person add column calendar_hash text`,
      `create unique index calendar_of_person on person (calendar_hash) where calendar_hash is not null`,
      `create table change_event (
        id integer primary key, at text not null, by text not null, address text not null, what text not null,
        subject text not null, detail text not null) strict`,
      `create index change_event_at on change_event (at)`,
      `create index door_event_at on door_event (at)`,
      ...appendOnly("change_event", "the record of changes is"),
      `create view record_line as
        select 'change' as kind, id, at, by, address, what, subject, detail from change_event
        union all
        select 'door', d.id, d.at, d.by, d.address, d.what, coalesce(p.name, ''), ''
          from door_event d left join person p on p.id = d.person_id`,
    ];
    await change(db, statements);
  },
};

/** What waits on a device is sealed by a key of the session it was made in. */
export const seals: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table session_seal (
        id text primary key, session_id integer not null references session(id), key text not null,
        at text not null) strict`,
      `create index seal_of_session on session_seal (session_id)`,
      `create table asked_again (body_hash text primary key, at text not null) strict`,
    ];
    await change(db, statements);
  },
};
