/** The present instant as text; one place, so that tests and the demo can set it. */
export interface Clock {
  now(): Date;
}

export const systemClock: Clock = { now: () => new Date() };

export function instant(clock: Clock): string {
  return clock.now().toISOString();
}
