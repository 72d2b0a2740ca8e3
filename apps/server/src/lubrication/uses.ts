import type { Clock } from "../shop/clock";
import type { Feeds } from "./feeds";
import type { LubricationSettingsStore } from "./lubrication-settings";
import type { Meters } from "./meters";
import type { Use } from "./point-facts";

/** Mean feed of an axis while its machine works, part of rapid (common practice, no source). */
const FEED_PART = 0.05;

/** How machines are used: one, or all of them. */
export async function usesOf(
  {
    meters,
    settings,
    clock,
  }: { readonly meters: Meters; readonly settings: LubricationSettingsStore; readonly clock: Clock },
  feeds: Feeds,
  machine?: number,
): Promise<(machineId: number, letter: string | null) => Use> {
  const moves = await feeds.moves(machine);
  const usages = await meters.usage(machine);
  const { method, travel, gunFigures } = await settings.get();
  const programs = new Map(travel.map((x) => [`${x.machineId} ${x.letter}`, x.kmPerHour]));
  const nowMs = clock.now().getTime();
  // What belongs to no axis stops the machine as the dearest of its axes does.
  const hours = new Map<number, number>();
  for (const [axis, { hour }] of moves) {
    const id = Number.parseInt(axis, 10);
    hours.set(id, Math.max(hours.get(id) ?? 0, hour));
  }
  return (machineId, letter) => {
    const axis = `${machineId} ${letter ?? ""}`;
    const forecast = usages.get(machineId);
    const hoursPerDay = forecast?.hoursPerDay ?? 0;
    const kmPerHour = programs.get(axis) ?? (60 * (moves.get(axis)?.rapidMmMin ?? 0) * FEED_PART) / 1e6;
    const spread = hoursPerDay > 0 ? (forecast?.expanded ?? 0) / hoursPerDay : 0;
    const own = moves.get(axis);
    return {
      usage: { hoursPerDay, kmPerDay: hoursPerDay * kmPerHour },
      spread,
      method,
      nowMs,
      heldBy: own?.heldBy ?? null,
      greaseJob: own?.greaseJob ?? null,
      hour: own?.hour ?? hours.get(machineId) ?? 0,
      gunStrokeG: gunFigures.at(0)?.gramsPerStroke ?? null,
      parts: own?.parts ?? (() => 0),
    };
  };
}
