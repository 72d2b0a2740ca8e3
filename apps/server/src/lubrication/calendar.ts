import ical, { ICalCalendarMethod } from "ical-generator";
import { giveText, visitText } from "@iron/core";
import type { Rounds } from "@iron/contract";

/**
 * The rounds as an iCalendar object (RFC 5545): one all-day event for each visit planned. The UID
 * names point and visit, so that a moved visit is an update of the same event; the sequence rises
 * with every planning. All-day dates belong to no time zone: they are the shop's day everywhere.
 * @param sequence rises whenever the plan has changed
 */
export function roundsCalendar(
  rounds: Rounds,
  { shop, sequence, stamp }: { readonly shop: string; readonly sequence: number; readonly stamp: Date },
): string {
  const calendar = ical({
    name: `Lubrication, ${shop}`,
    prodId: { company: "Iron Patience", product: "Rounds", language: "EN" },
    method: ICalCalendarMethod.PUBLISH,
    ttl: 3600,
  });
  for (const day of rounds.days)
    for (const stop of day.stops)
      for (const point of stop.points)
        calendar.createEvent({
          id: `point-${point.id}-visit-${point.visits + 1}@iron-patience`,
          sequence,
          stamp,
          allDay: true,
          start: new Date(`${day.date}T00:00:00Z`),
          timezone: "UTC",
          summary: `${stop.nickname}: ${point.place}`,
          location: `Bay ${stop.bay}`,
          description: [
            `${point.dose > 0 ? `${point.dose} ${point.doseUnit}, ` : ""}${point.lubricant}; about ${point.minutes} min.`,
            `${visitText(point, giveText(point)).state}.`,
            point.lateDays > 1 ? `${Math.floor(point.lateDays)} days late.` : `Due ${point.dueOn}.`,
          ]
            .filter(Boolean)
            .join("\n"),
        });
  return calendar.toString();
}
