import type { AxisEvent } from "@iron/contract";
import type { Handlers } from "../http/mount";
import { settleAxes } from "../machine/axis-summary";
import type { Machines } from "../machine/machines";
import type { Db } from "../store/database";
import { historyFile } from "./history-export";
import type { Runs } from "./runs";

interface HistoryServices {
  readonly db: Db;
  readonly machines: Machines;
  readonly runs: Runs;
}

async function eventsOf(db: Db, axisId: number): Promise<AxisEvent[]> {
  return db
    .selectFrom("axis_event")
    .select(["id", "kind", "text", "at", "by"])
    .where("axis_id", "=", axisId)
    .orderBy("at")
    .execute();
}

async function historyOf({ db, runs }: HistoryServices, axisId: number) {
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
      return await historyOf(s, params.id);
    },
    exportHistory: async ({ params, query }) => {
      const axis = await s.machines.axis(params.id);
      const history = await historyOf(s, params.id);
      return historyFile(axis, {
        history,
        runs: s.runs.allReadings(params.id),
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
