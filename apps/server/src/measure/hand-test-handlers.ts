import type { SERIES_OPERATIONS } from "@iron/contract";
import type { Handlers } from "../http/mount";
import type { HandTests } from "./hand-tests";

export function handTestHandlersFor(handTest: HandTests): Pick<Handlers, keyof typeof SERIES_OPERATIONS> {
  return {
    axisHandTests: ({ params }) => handTest.ofAxis(params.id),
    startHandTest: ({ params, body, who }) => handTest.start(params.id, body.plan, who),
    handTest: ({ params }) => handTest.get(params.id),
    addHandTestPoint: ({ params, body, who }) => handTest.add(params.id, body, { who }),
    shimDevice: async ({ params, body }) => {
      await handTest.shim(params.id, body);
      return { simulated: true };
    },
    readHandTestStep: ({ params, body, who }) => handTest.readDevice(params.id, body.step, who),
  };
}
