import {
  type AxisConfig,
  DEFAULT_OPTIONS,
  estimateJob,
  type HeldBy,
  heldWhenOff,
  jobKind,
  type LinkId,
  planJob,
  pricesOf,
} from "@iron/core";
import type { Db } from "../store/database";
import { fromJson } from "../store/columns";

/** Axes asked for by number at once. */
const AT_ONCE = 400;

/** What lubrication asks of an axis. */
export interface AxisMoves {
  readonly rapidMmMin: number;
  /** What holds its member when the machine is off; null where it cannot fall. */
  readonly heldBy: HeldBy | null;
  /** What its machine standing costs an hour, and what its parts cost when they are ruined, by link. */
  readonly hour: number;
  readonly parts: (link: LinkId | null) => number;
  /** The job that parts its nut to grease it: minutes and people; null where it has no such job. Worked out when asked. */
  readonly greaseJob: () => JobSize | null;
}

export interface JobSize {
  readonly minutes: number;
  readonly people: number;
}

function greaseJobOf(config: AxisConfig): JobSize | null {
  if (!jobKind("grease-nut").fits(config)) return null;
  const { letter } = config;
  const plan = planJob({
    axes: [{ letter, config }],
    items: [{ letter, kind: "grease-nut" }],
    options: DEFAULT_OPTIONS,
  });
  const { minutes, people } = estimateJob(plan);
  return { minutes: Math.round(minutes), people };
}

/** What is renewed when a link has run dry; small parts where it is none of the dear ones (common practice, no source). */
const SMALL_PARTS = 40;
const CARRIAGES = 4;
const OF_A_SET = 0.4;

function partsOf(config: AxisConfig): (link: LinkId | null) => number {
  const { screw, bearingSet } = pricesOf(config);
  return (link) => {
    if (link === "nut" || link === "screw") return screw;
    if (link === "end-bearings") return bearingSet;
    if (link === "way") return config.guideway === "rail" ? CARRIAGES * OF_A_SET * bearingSet : bearingSet;
    return SMALL_PARTS;
  };
}

/** Worked out once. */
function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | null = null;
  return () => (made ??= { value: make() }).value;
}

/** How each axis moves and is held, read again only where the axis has changed. */
export class Feeds {
  private readonly known = new Map<number, AxisMoves & { readonly version: number; readonly letter: string }>();

  constructor(private readonly db: Db) {}

  /** By machine and letter; of one machine or all. */
  async moves(machineId?: number): Promise<ReadonlyMap<string, AxisMoves>> {
    const rows = await this.db
      .selectFrom("axis")
      .select(["id", "machine_id", "version"])
      .where("retired_at", "is", null)
      .$if(machineId !== undefined, (q) => q.where("machine_id", "=", machineId ?? 0))
      .orderBy("id")
      .execute();
    const old = rows.filter((r) => this.known.get(r.id)?.version !== r.version).map((r) => r.id);
    for (let from = 0; from < old.length; from += AT_ONCE) {
      const read = await this.db
        .selectFrom("axis")
        .select(["id", "version", "config"])
        .where("id", "in", old.slice(from, from + AT_ONCE))
        .orderBy("id")
        .execute();
      for (const { id, version, config } of read) {
        const axis = fromJson(config);
        const { letter, rapidMmMin } = axis;
        this.known.set(id, {
          version,
          letter,
          rapidMmMin,
          heldBy: heldWhenOff(axis),
          hour: axis.costs.downtimePerHour,
          parts: partsOf(axis),
          greaseJob: once(() => greaseJobOf(axis)),
        });
      }
    }
    return new Map(
      rows.flatMap((r) => {
        const known = this.known.get(r.id);
        return known ? [[`${r.machine_id} ${known.letter}`, known]] : [];
      }),
    );
  }
}
