import type { AxisEvent } from "@iron/contract";
import type { Handlers } from "../http/mount";
import { settleAxes } from "../machine/axis-summary";
import type { Machines } from "../machine/machines";
import type { Db } from "../store/database";
import { historyFile } from "./history-export";
import { RunHistory } from "./run-history";

interface HistoryServices {
  readonly db: Db;
  readonly machines: Machines;
}

async function eventsOf(db: Db, axisId: number): Promise<AxisEvent[]> {
  return db
    .selectFrom("axis_event")
    .select(["id", "kind", "text", "at", "by"])
    .where("axis_id", "=", axisId)
    .orderBy("at")
    .execute();
}

async function historyOf(db: Db, axisId: number) {
  const runs = new RunHistory(db);
  return {
    runs: await runs.summaries(axisId),
    typed: await runs.typedLosses(axisId),
    events: await eventsOf(db, axisId),
  };
}

export function historyHandlersFor(s: HistoryServices): Pick<Handlers, "history" | "exportHistory" | "createEvent"> {
  return {
    history: async ({ params }) => {
      await s.machines.axis(params.id);
      return await historyOf(s.db, params.id);
    },
    exportHistory: async ({ params, query }) => {
      const axis = await s.machines.axis(params.id);
      const history = await historyOf(s.db, params.id);
      return historyFile(axis, {
        history,
        runs: new RunHistory(s.db).allReadings(params.id),
        format: query.format,
        system: query.system,
      });
    },
    createEvent: async ({ params, body, who }) => {
      await s.machines.axis(params.id);
      const row = { axis_id: params.id, ...body, by: who };
      return s.db.transaction().execute(async (trx) => {
        const kept = await trx
          .insertInto("axis_event")
          .values(row)
          .returning(["id", "kind", "text", "at", "by"])
          .executeTakeFirstOrThrow();
        await settleAxes(trx, [params.id]);
        return kept;
      });
    },
  };
}
