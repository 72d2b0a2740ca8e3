import type { SERIES_OPERATIONS } from "@iron/contract";
import type { Handlers } from "../http/mount";
import type { SeriesRuns } from "./hand-tests";

export function seriesHandlersFor(series: SeriesRuns): Pick<Handlers, keyof typeof SERIES_OPERATIONS> {
  return {
    axisSeries: ({ params }) => series.ofAxis(params.id),
    startSeries: ({ params, body, who }) => series.start(params.id, body.plan, who),
    series: ({ params }) => series.get(params.id),
    addSeriesPoint: ({ params, body, who }) => series.add(params.id, body, { who }),
    shimDevice: async ({ params, body }) => {
      await series.shim(params.id, body);
      return { simulated: true };
    },
    readSeriesStep: ({ params, body, who }) => series.readDevice(params.id, body.step, who),
  };
}
