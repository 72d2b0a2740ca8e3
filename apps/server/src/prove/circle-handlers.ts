import { type CircleLimits } from "@iron/core";
import type { Handlers } from "../http/mount";
import type { WorkPool } from "../threads/pool";
import type { Bars } from "./bar";
import { circleFile, passesOf, typedPass } from "./circle-files";
import type { Circles } from "./circles";

interface CircleServices {
  readonly circles: Circles;
  readonly bars: Bars;
  readonly pool: WorkPool;
}

type Served =
  | "circles"
  | "startCircle"
  | "setCircleLimits"
  | "circle"
  | "finishCircle"
  | "abandonCircle"
  | "drawnCircle"
  | "readCircle"
  | "circleWork"
  | "stopCircle"
  | "importCircle"
  | "typeCircle"
  | "setPassAside"
  | "circleProgramOf"
  | "exportCircle";

export function circleHandlersFor({ circles, bars, pool }: CircleServices): Pick<Handlers, Served> {
  return {
    circles: ({ params }) => circles.list(params.id),
    startCircle: ({ params, body, who }) => circles.start(params.id, body, who),
    setCircleLimits: ({ params, body, who }) =>
      circles.setLimits(params.id, { limits: body.limits as CircleLimits, why: body.why }, who),
    circle: ({ params }) => circles.session(params.id),
    finishCircle: ({ params }) => circles.end(params.id, "finished", ""),
    abandonCircle: ({ params, body }) => circles.end(params.id, "abandoned", body.reason),
    drawnCircle: ({ params }) => circles.drawn(params.id),
    readCircle: ({ params, body, who }) => bars.read(params.id, body.direction, who),
    circleWork: ({ params }) => Promise.resolve(circles.work(params.id)),
    stopCircle: async ({ params }) => {
      bars.stop(params.id);
      // That there is such a plane, and nothing of it: who stops it need not have signed in.
      await circles.plane(params.id);
      return { stopped: true };
    },
    importCircle: async ({ params, body, who }) =>
      circles.keep(params.id, await passesOf(body.text, (await circles.plane(params.id)).plane, pool), who),
    typeCircle: ({ params, body, who }) => circles.keep(params.id, [typedPass(body)], who),
    setPassAside: ({ params, body, who }) => circles.setAside(params.id, body.reason, who),
    circleProgramOf: async ({ params, query }) => ({
      fileName: `circle-${params.id}.nc`,
      media: "text/plain",
      text: await circles.program(params.id, query),
    }),
    exportCircle: ({ params, query }) => circleFile(circles, params.id, query),
  };
}
