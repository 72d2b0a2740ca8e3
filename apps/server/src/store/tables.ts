import type {
  ApproachJudgement,
  AxisConfig,
  CaseContext,
  DeviceState,
  FindingId,
  HandTestPlan,
  TestPlan,
  VirtualAxis,
} from "@iron/core";
import type {
  Answers,
  CaseResult,
  FloorAxis,
  IndicatorRecord,
  Job,
  JobEventRecord,
  MachineEdit,
  ReadingRecord,
  ResultData,
  ToldByAxis,
  RunSetup,
} from "@iron/contract";
import type { ColumnType, Generated } from "kysely";
import type { Flag, Json } from "./columns";
import type { LubricationTables } from "./lubrication-tables";
import type { PeopleTables } from "./people-tables";
import type { ProveTables } from "./prove-tables";
import type { SoundTables } from "./sound-tables";

export interface Tables extends LubricationTables, PeopleTables, ProveTables, SoundTables {
  setting: { key: string; value: string };
  machine: {
    id: Generated<number>;
    nickname: string;
    bay: string;
    kind: MachineEdit["kind"];
    hours_per_week: number;
    note: string;
    version: number;
    retired_at: string | null;
    /** Rises with every reading of its hour meter. */
    metered: ColumnType<number, number | undefined, never>;
  };
  axis: {
    id: Generated<number>;
    machine_id: number;
    config: Json<AxisConfig>;
    version: number;
    updated_at: string;
    updated_by: string;
    retired_at: string | null;
  };
  /** The floor’s line of an axis; gone as soon as what it is made from changes. */
  axis_summary: { axis_id: number; summary: Json<FloorAxis> };
  axis_event: {
    id: Generated<number>;
    axis_id: number;
    kind: "repair" | "adjustment" | "crash" | "move" | "lubrication" | "note";
    text: string;
    at: string;
    by: string;
  };
  indicator: {
    id: Generated<number>;
    name: string;
    kind: IndicatorRecord["kind"];
    resolution_mm: number;
    unit: "mm" | "in";
    tip_angle_deg: number;
    range_mm: number;
    hysteresis_mm: number | null;
    calibration_mm: number | null;
    retired_at: string | null;
    version: ColumnType<number, number | undefined, number>;
  };
  run: {
    id: Generated<number>;
    axis_id: number;
    kind: TestPlan["kind"];
    plan: Json<TestPlan>;
    setup: Json<RunSetup>;
    state: "running" | "finished" | "abandoned";
    started_at: string;
    finished_at: string | null;
    by: string;
    /** SHA-256 of an imported file's readings; null for tests made here. */
    import_hash: string | null;
    lost_mm: number | null;
    expanded_mm: number | null;
    place_mm: number | null;
    /** Why it was given up; empty where it was not. */
    given_up: ColumnType<string, string | undefined, string>;
  };
  /** A retest typed in a job, with U. */
  typed_loss: {
    id: Generated<number>;
    axis_id: number;
    job_id: number;
    step: string;
    kind: TestPlan["kind"];
    lost_mm: number;
    expanded_mm: number;
    place_mm: number | null;
    at: string;
    by: string;
  };
  /** A view: every judged value of an axis, from a test or typed in a job. */
  loss: {
    run_id: number | null;
    job_id: number | null;
    axis_id: number;
    kind: TestPlan["kind"];
    lost_mm: number;
    expanded_mm: number;
    place_mm: number | null;
    at: string;
    by: string;
  };
  /** Append-only: triggers refuse changes. */
  reading: {
    id: Generated<number>;
    run_id: number;
    step: number;
    value: number;
    width_mm: number;
    entered: string;
    source: ReadingRecord["source"];
    /** A spoilt reading is born so; setting aside and taking back in are marks. */
    spoilt: Flag;
    reason: string;
    /** How the approach was judged, for readings that a device gave. */
    judgement: Json<ApproachJudgement> | null;
    at: string;
    by: string;
  };
  /** Append-only: the last mark of a reading counts. */
  reading_mark: {
    id: Generated<number>;
    reading_id: number;
    mark: "discarded" | "restored";
    reason: string;
    at: string;
    by: string;
  };
  case_file: {
    id: Generated<number>;
    machine_id: number;
    axis_ids: Json<number[]>;
    state: "open" | "closed";
    opened_at: string;
    by: string;
    version: number;
    context: Json<CaseContext>;
    told: Json<ToldByAxis>;
    notes: string;
    closed_at: string | null;
    closed_by: string | null;
    found: Json<string[]> | null;
    closing_words: string | null;
    /** What each cause was expected at before anything was tested. */
    expected: Json<Record<string, number>> | null;
  };
  /** Append-only, as photos and marks are. */
  case_result: {
    id: Generated<number>;
    case_id: number;
    axis_id: number;
    test: CaseResult["test"];
    answers: Json<Answers>;
    note: string;
    data: Json<ResultData> | null;
    at: string;
    by: string;
  };
  case_photo: {
    id: Generated<number>;
    case_id: number;
    caption: string;
    finding: FindingId | null;
    media: "image/jpeg" | "image/png";
    bytes: Buffer;
    at: string;
    by: string;
  };
  case_mark: {
    id: Generated<number>;
    kind: "result" | "photo";
    of_id: number;
    withdrawn: number;
    at: string;
    by: string;
  };
  cause_override: {
    cause: string;
    /** Null once it is taken back. */
    prior: number | null;
    version: number;
    why: string;
    at: string;
    by: string;
  };
  series: {
    id: Generated<number>;
    axis_id: number;
    kind: HandTestPlan["kind"];
    plan: Json<HandTestPlan>;
    started_at: string;
    by: string;
  };
  /** Append-only: the last reading of a step counts, a null takes it back. */
  series_point: {
    id: Generated<number>;
    /** Made by who sends it, so that sending twice keeps one. */
    key: string;
    series_id: number;
    step: number;
    value: number | null;
    entered: string;
    source: "typed" | "device";
    at: string;
    by: string;
  };
  job: {
    id: Generated<number>;
    machine_id: number;
    case_id: number | null;
    title: string;
    items: Json<Job["items"]>;
    options: Json<Job["options"]>;
    axes: Json<Job["axes"]>;
    /** The sheet as it was first planned; later ones are events. */
    plan: Json<Job["plan"]>;
    opened_at: string;
    by: string;
    finished_at: string | null;
    check_on: string | null;
  };
  /** Append-only: what happened on a job. */
  job_event: {
    id: Generated<number>;
    /** Made by who sends it, so that sending twice keeps one. */
    key: string;
    job_id: number;
    kind: JobEventRecord["kind"];
    data: Json<JobEventRecord>;
    at: string;
    by: string;
  };
  job_photo: {
    id: Generated<number>;
    job_id: number;
    /** Sent by the browser, so that a photo sent twice is kept once. */
    key: string | null;
    step: string;
    caption: string;
    media: "image/jpeg" | "image/png";
    bytes: Buffer;
    at: string;
    by: string;
  };
  /** The hidden truth of a simulated axis, and where its stand-in last rested. */
  virtual_axis: {
    axis_id: number;
    model: Json<VirtualAxis>;
    state: Json<DeviceState> | null;
    mounted_run_id: number | null;
  };
}
