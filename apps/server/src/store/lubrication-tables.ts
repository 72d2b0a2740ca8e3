import type { FoundState, LubricationPoint, PlaceFound, PlanChange, PlannedPoint } from "@iron/core";
import type { CheckAnswered, LubricantEdit } from "@iron/contract";
import type { ColumnType, Generated } from "kysely";
import type { Flag, Json } from "./columns";

/** Points, visits, lubricants and hours. */
export interface LubricationTables {
  lube_point: {
    id: Generated<number>;
    machine_id: number;
    point: Json<LubricationPoint>;
    /** When it was begun to be kept: due is counted from here until the first visit. */
    since: string;
    /** The day that since names is when it was last seen to; else nobody knows, and it is due now. */
    last_known: ColumnType<number, number | undefined, number>;
    retired_at: string | null;
    version: ColumnType<number, number | undefined, number>;
    /** Rises with whatever a visit, a move by hand, a photo or a change does to it. */
    changed: ColumnType<number, number | undefined, never>;
  };
  /** Append-only: a visit without a finding takes the one before it back. */
  lube_visit: {
    id: Generated<number>;
    key: string;
    point_id: number;
    found: FoundState | null;
    dose: number;
    glitter: Flag;
    friction: ColumnType<number, number | undefined, number>;
    outlets: Json<readonly (boolean | null)[]> | null;
    /** What was looked at on the way, answered one by one. */
    checks: ColumnType<Json<readonly CheckAnswered[]> | null, string | null | undefined, never>;
    /** Each place that shares the dose, where they were told apart. */
    places: ColumnType<Json<readonly PlaceFound[]> | null, string | null | undefined, never>;
    words: string;
    at: string;
    by: string;
  };
  /** Append-only: the last of a point counts, until it is visited. */
  lube_hold: {
    id: Generated<number>;
    key: string;
    point_id: number;
    kind: "pin" | "skip" | "free";
    date: string | null;
    reason: string;
    at: string;
    by: string;
  };
  /** Each planning that moved something: the plan that it made and what it changed. */
  lube_plan: {
    id: Generated<number>;
    at: string;
    plan: Json<readonly PlannedPoint[]>;
    changes: Json<readonly PlanChange[]>;
  };
  lube_photo: {
    id: Generated<number>;
    key: string;
    point_id: number;
    caption: string;
    /** The check that it shows; null: the point. */
    shows: ColumnType<string | null, string | null | undefined, never>;
    media: "image/jpeg" | "image/png";
    bytes: Buffer;
    at: string;
    by: string;
  };
  /** Append-only; one taken back has a row in meter_back. */
  meter_reading: {
    id: Generated<number>;
    key: string;
    machine_id: number;
    date: string;
    hours: number;
    reset: Flag;
    at: string;
    by: string;
  };
  meter_back: { reading_id: number; at: string; by: string };
  lubricant: {
    id: Generated<number>;
    name: string;
    spec: Json<LubricantEdit>;
    version: ColumnType<number, number | undefined, number>;
  };
  /** What the shop says of a spare part in place of what is usual. */
  part_terms: {
    part: string;
    version: number;
    price: number;
    lead_days: number;
    wait_days: number;
    least: number;
  };
  /** Append-only: counted on the shelf, or taken out. */
  part_move: {
    id: Generated<number>;
    key: string;
    part: string;
    kind: "count" | "out";
    count: number;
    at: string;
    by: string;
  };
  /** Append-only; where it stands is its last move. */
  part_order: {
    id: Generated<number>;
    key: string;
    part: string;
    count: number;
    why: string;
    machine_id: number | null;
    point_id: number | null;
    at: string;
    by: string;
  };
  part_order_move: {
    id: Generated<number>;
    key: string;
    order_id: number;
    state: "wanted" | "ordered" | "came" | "dropped";
    at: string;
    by: string;
  };
  lube_stock: {
    id: Generated<number>;
    key: string;
    lubricant_id: number;
    kind: "count" | "in";
    grams: number;
    at: string;
    by: string;
  };
}
