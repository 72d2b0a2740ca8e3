import type { LUBE_OPERATIONS } from "@iron/contract";
import type { Handlers } from "../http/mount";
import type { Lubrication } from "../services/lubrication";

export function lubeHandlersFor(
  lube: Lubrication,
): Pick<Handlers, keyof typeof LUBE_OPERATIONS> {
  return {
    lubePoints: ({ params }) => lube.ofMachine(params.id),
    usualPoints: ({ params }) => lube.addUsual(params.id),
    updatePoint: ({ params, body }) => lube.update(params.id, body),
    visitPoint: ({ params, body, who }) => lube.visit(params.id, body, who),
    rounds: () => lube.rounds(),
  };
}
