import type { CircleAnalysis, CircleLimits, PassTrouble, VirtualMachine } from "@iron/core";
import type {
  CircleBar,
  CirclePlane,
  CircleSession,
  CorrectionCreate,
  CorrectionEnter,
  CorrectionTrial,
  GeometryTaken,
} from "@iron/contract";
import type { Generated } from "kysely";
import type { Json } from "./columns";

export interface ProveTables {
  circle_session: {
    id: Generated<number>;
    machine_id: number;
    state: CircleSession["state"];
    started_at: string;
    finished_at: string | null;
    by: string;
    /** Why it was given up; empty where it was not. */
    reason: string;
    note: string;
    temperature_c: number | null;
    bar: Json<CircleBar>;
  };
  circle_plane: {
    id: Generated<number>;
    session_id: number;
    plan: Json<CirclePlane["plan"]>;
    axis_ids: Json<CirclePlane["axisIds"]>;
    per_turn: Json<CirclePlane["perTurnMm"]>;
    /** What its passes come to: made anew whenever they change. */
    analysis: Json<CircleAnalysis> | null;
    why: string;
  };
  /** Append-only; set aside by a row of its own. */
  circle_pass: {
    id: Generated<number>;
    plane_id: number;
    direction: 1 | -1;
    source: "bar" | "import" | "typed";
    readings: number;
    /** Angles, rad, then deviations, mm: 32-bit floats, little-endian. Empty where it cannot be used. */
    trace: Buffer;
    troubles: Json<readonly PassTrouble[]>;
    at: string;
    by: string;
  };
  circle_aside: { pass_id: number; reason: string; at: string; by: string };
  circle_limit: {
    id: Generated<number>;
    machine_id: number;
    limits: Json<CircleLimits>;
    why: string;
    at: string;
    by: string;
  };
  /** The hidden truth of a simulated machine beyond its axes. */
  virtual_machine: { machine_id: number; model: Json<VirtualMachine> };
  /** Append-only: each a version of the axis’ table. */
  correction: {
    id: Generated<number>;
    axis_id: number;
    run_id: number;
    given: Json<CorrectionCreate>;
    trial: Json<CorrectionTrial>;
    at: string;
    by: string;
  };
  /** Append-only: which table stands in the control since when; null for none. */
  correction_entry: {
    id: Generated<number>;
    axis_id: number;
    correction_id: number | null;
    how: CorrectionEnter["how"];
    reason: string;
    at: string;
    by: string;
  };
  /** Append-only; set aside by a row of its own. */
  geometry: {
    id: Generated<number>;
    machine_id: number;
    taken: Json<GeometryTaken>;
    note: string;
    at: string;
    by: string;
  };
  geometry_aside: { geometry_id: number; reason: string; at: string; by: string };
}
