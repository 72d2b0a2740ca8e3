import { correctionCsv } from "@iron/contract";
import type { Handlers } from "../http/mount";
import type { Corrections } from "./corrections";

type Served =
  | "corrections"
  | "tryCorrection"
  | "keepCorrection"
  | "correction"
  | "enterCorrection"
  | "takeOutCorrection"
  | "exportCorrection";

export function correctionHandlersFor({ corrections }: { readonly corrections: Corrections }): Pick<Handlers, Served> {
  return {
    corrections: ({ params }) => corrections.list(params.id),
    tryCorrection: ({ params, body }) => corrections.try(params.id, body),
    keepCorrection: ({ params, body, who }) => corrections.keep(params.id, body, who),
    correction: ({ params }) => corrections.record(params.id),
    enterCorrection: ({ params, body, who }) => corrections.enter(params.id, body, who),
    takeOutCorrection: ({ params, body, who }) => corrections.takeOut(params.id, body.reason, who),
    exportCorrection: async ({ params, query }) => {
      const record = await corrections.record(params.id);
      const name = `table-${record.axisId}-version-${record.version}`;
      return query.format === "json"
        ? { fileName: `${name}.json`, media: "application/json", text: JSON.stringify(record, null, 2) }
        : { fileName: `${name}.csv`, media: "text/csv", text: correctionCsv(record.made.table) };
    },
  };
}
