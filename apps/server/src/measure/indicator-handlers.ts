import type { Handlers } from "../http/mount";
import type { Indicators } from "./indicators";

export function indicatorHandlersFor(s: {
  readonly indicators: Indicators;
}): Pick<Handlers, "indicators" | "createIndicator" | "updateIndicator" | "retireIndicator" | "reviveIndicator"> {
  return {
    indicators: () => s.indicators.all(),
    createIndicator: ({ body }) => s.indicators.create(body),
    updateIndicator: ({ params, body }) => s.indicators.update(params.id, body.version, body),
    retireIndicator: ({ params }) => s.indicators.setRetired(params.id, true),
    reviveIndicator: ({ params }) => s.indicators.setRetired(params.id, false),
  };
}
