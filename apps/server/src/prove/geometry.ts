import { readLevels, squareFromDiagonals, squareFromSweep, type SquareSwept } from "@iron/core";
import type { Geometry as GeometryView, GeometryCreate, GeometryTaken } from "@iron/contract";
import { conflict, notFound, problem } from "../http/problem-error";
import type { Handlers } from "../http/mount";
import type { Machines } from "../machine/machines";
import { instant, type Clock } from "../shop/clock";
import { fromJson, toJson } from "../store/columns";
import type { Db } from "../store/database";
import type { Circles } from "./circles";

/** How machines stand: square and levels, kept as they were read, worked out anew whenever they are looked at. */
export class Geometry {
  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly machines: Machines;
      readonly circles: Pick<Circles, "list">;
      readonly clock: Clock;
    },
  ) {}

  async of(machineId: number): Promise<GeometryView> {
    const { db, machines, circles } = this.needs;
    await machines.machine(machineId);
    const rows = await db
      .selectFrom("geometry")
      .leftJoin("geometry_aside", "geometry_aside.geometry_id", "geometry.id")
      .select(["geometry.id", "taken", "note", "geometry.at", "geometry.by", "geometry_aside.reason"])
      .where("machine_id", "=", machineId)
      .orderBy("geometry.id")
      .execute();
    const records = rows.map(({ id, taken, note, at, by, reason }) => ({
      taken: fromJson(taken),
      record: { id, at, by, note, aside: reason ?? "" },
    }));
    const square = records.flatMap(({ taken, record }): GeometryView["square"] =>
      taken.kind === "levels" ? [] : [{ ...record, way: taken.kind, letters: taken.letters, ...squareOf(taken) }],
    );
    const { sessions } = await circles.list(machineId);
    const round = sessions
      .filter((s) => s.state === "finished")
      .flatMap((s) =>
        s.planes.flatMap((p): GeometryView["square"] => {
          // Half a circle cannot tell it from where its centre stands.
          const found = p.analysis?.findings.find((f) => f.kind === "square" && f.with.length === 0);
          const { id, by, note } = s;
          const at = s.finishedAt ?? s.startedAt;
          return found
            ? [
                {
                  ...{ id, at, by, note, aside: "", way: "circle", letters: p.plan.letters },
                  ...{ value: found.value, u: found.u, ownError: null },
                },
              ]
            : [];
        }),
      );
    return {
      square: [...square, ...round].sort((a, b) => a.at.localeCompare(b.at)),
      levels: records.flatMap(({ taken, record }) =>
        taken.kind === "levels" ? [{ ...record, taken, result: readLevels(taken) }] : [],
      ),
    };
  }

  async keep(machineId: number, { taken, note }: GeometryCreate, who: string): Promise<GeometryView> {
    const machine = await this.needs.machines.withAxes(machineId);
    if (taken.kind === "levels") readLevels(taken);
    else {
      const [a, b] = taken.letters;
      const missing = taken.letters.find(
        (l) => !machine.axes.some((x) => x.config.letter === l && x.retiredAt === null),
      );
      if (missing !== undefined)
        throw problem(422, { title: "Not valid", detail: `${machine.nickname} has no axis ${missing}.` });
      if (a === b) throw problem(422, { title: "Not valid", detail: "An axis is not square to itself: name two." });
      squareOf(taken);
    }
    await this.needs.db
      .insertInto("geometry")
      .values({ machine_id: machineId, taken: toJson(taken), note, at: instant(this.needs.clock), by: who })
      .execute();
    return this.of(machineId);
  }

  async setAside(id: number, reason: string, who: string): Promise<GeometryView> {
    const { db, clock } = this.needs;
    const row = await db.selectFrom("geometry").select("machine_id").where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("reading", id);
    const there = await db.selectFrom("geometry_aside").selectAll().where("geometry_id", "=", id).executeTakeFirst();
    if (there) throw conflict(`${there.by} has set it aside already: ${there.reason}.`);
    await db
      .insertInto("geometry_aside")
      .values({ geometry_id: id, reason, at: instant(clock), by: who })
      .execute();
    return this.of(row.machine_id);
  }
}

function squareOf(taken: Exclude<GeometryTaken, { kind: "levels" }>): SquareSwept {
  return taken.kind === "sweep" ? squareFromSweep(taken) : { ...squareFromDiagonals(taken), ownError: null };
}

export function geometryHandlersFor({
  geometry,
}: {
  readonly geometry: Geometry;
}): Pick<Handlers, "geometry" | "keepGeometry" | "setGeometryAside"> {
  return {
    geometry: ({ params }) => geometry.of(params.id),
    keepGeometry: ({ params, body, who }) => geometry.keep(params.id, body, who),
    setGeometryAside: ({ params, body, who }) => geometry.setAside(params.id, body.reason, who),
  };
}
