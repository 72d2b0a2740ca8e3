import type { Sound, SoundResult } from "@iron/contract";
import { type Generated, type Kysely, type Migration } from "kysely";
import { appendOnly } from "./append-only";
import type { Json } from "./columns";
import { change } from "./in-dialect";

export interface SoundTables {
  /** A recording as it was announced: append-only, as are its parts and what was worked out of it. */
  sound: {
    id: Generated<number>;
    axis_id: number;
    key: string;
    source: Sound["source"];
    plan: Json<Sound["plan"]>;
    place: string;
    own_gain: number | null;
    bytes: number;
    at: string;
    by: string;
  };
  sound_part: { sound_id: number; from_byte: number; bytes: Buffer };
  sound_result: {
    sound_id: number;
    refused: number;
    seconds: number | null;
    result: Json<SoundResult> | null;
    why: string;
  };
  sound_aside: { sound_id: number; reason: string; at: string; by: string };
  /** Kept as how its axis sounds when it is well, or no longer: the last says. */
  sound_well: { id: Generated<number>; sound_id: number; well: number; at: string; by: string };
}

/** Recordings of axes: sent in parts, worked out once all are there. */
export const sounds: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table sound (
        id integer primary key, axis_id integer not null references axis(id), key text not null unique,
        source text not null, plan text not null check (json_valid(plan)), place text not null, own_gain integer,
        bytes integer not null, at text not null, by text not null) strict`,
      `create index sound_of_axis on sound (axis_id, id)`,
      `create table sound_part (
        sound_id integer not null references sound(id), from_byte integer not null, bytes blob not null,
        primary key (sound_id, from_byte)) strict`,
      `create table sound_result (
        sound_id integer primary key references sound(id), refused integer not null, seconds real,
        result text check (result is null or json_valid(result)), why text not null) strict`,
      `create table sound_aside (
        sound_id integer primary key references sound(id), reason text not null, at text not null, by text not null) strict`,
      ...appendOnly("sound", "recordings are"),
      ...appendOnly("sound_part", "parts of recordings are"),
      ...appendOnly("sound_result", "what was worked out of a recording is"),
      ...appendOnly("sound_aside", "what is set aside is"),
    ];
    await change(db, statements);
  },
};

/** Recordings that are kept as how an axis sounds when it is well; the floor’s line of an axis says how it has grown. */
export const soundsWell: Migration = {
  async up(db: Kysely<unknown>): Promise<void> {
    const statements = [
      `create table sound_well (
        id integer primary key, sound_id integer not null references sound(id), well integer not null check (well in (0, 1)),
        at text not null, by text not null) strict`,
      `create index well_of_sound on sound_well (sound_id, id)`,
      ...appendOnly("sound_well", "what is kept of recordings is"),
      ...["sound_result", "sound_aside", "sound_well"].map(
        (table) =>
          `create trigger ${table}_out_of_summary after insert on ${table}
           begin delete from axis_summary where axis_id = (select axis_id from sound where id = new.sound_id); end`,
      ),
      // The lines that were kept say nothing of sounds.
      `delete from axis_summary`,
    ];
    await change(db, statements);
  },
};
