import { directionWords, type AxisConfig } from "@iron/core";

/** What plus and minus are called on this axis. */
export function directionNames(config: AxisConfig): {
  readonly plus: string;
  readonly minus: string;
} {
  return {
    plus: directionWords(config, "+").jog,
    minus: directionWords(config, "-").jog,
  };
}
