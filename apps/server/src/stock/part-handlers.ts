import type { PART_OPERATIONS } from "@iron/contract";
import type { Handlers } from "../http/mount";
import type { PartStock } from "./parts";

export function partHandlersFor(parts: PartStock): Pick<Handlers, keyof typeof PART_OPERATIONS> {
  return {
    parts: () => parts.list(),
    partTerms: ({ body }) => parts.setTerms(body),
    countPart: ({ body, who }) => parts.count(body, who),
    orderPart: ({ body, who }) => parts.order(body, who),
    moveOrder: ({ params, body, who }) => parts.moveOrder(params.id, body, who),
    exportParts: () => parts.csv(),
  };
}
