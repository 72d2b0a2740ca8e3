import type { KEEP_OPERATIONS, LUBE_OPERATIONS } from "@iron/contract";
import type { Handlers } from "../http/mount";
import { roundsCalendar } from "./calendar";
import type { Cases } from "../diagnosis/cases";
import type { Machines } from "../machine/machines";
import { caseFromPoint } from "./lubrication-case";
import { jobFromPoint } from "./lubrication-job";
import type { Jobs } from "../job/jobs";
import type { Clock } from "../shop/clock";
import type { LubricationFiles } from "./lubrication-files";
import type { LubricationSettingsStore } from "./lubrication-settings";
import type { LubricationRounds } from "./rounds";
import type { Lubricants } from "./lubricants";
import type { Lubrication } from "./lubrication";
import type { Meters } from "./meters";
import type { ShopSettings } from "../shop/shop";

export interface LubricationServices {
  readonly lubrication: Lubrication;
  readonly jobs: Jobs;
  readonly rounds: LubricationRounds;
  readonly settings: LubricationSettingsStore;
  readonly meters: Meters;
  readonly lubricants: Lubricants;
  readonly files: LubricationFiles;
  readonly shop: ShopSettings;
  readonly clock: Clock;
  readonly machines: Machines;
  readonly cases: Cases;
}

export function lubricationHandlersFor({
  lubrication,
  jobs,
  rounds,
  settings,
  meters,
  lubricants,
  files,
  shop,
  clock,
  machines,
  cases,
}: LubricationServices): Pick<Handlers, keyof typeof LUBE_OPERATIONS | keyof typeof KEEP_OPERATIONS> {
  return {
    lubricationPoints: ({ params }) => lubrication.ofMachine(params.id),
    lubricationPoint: ({ params }) => lubrication.get(params.id),
    usualPreview: ({ params, body }) => lubrication.previewUsual(params.id, body),
    usualPoints: ({ params, body }) => lubrication.addUsual(params.id, body),
    createPoint: ({ params, body: { lastDone, ...point } }) => lubrication.create(params.id, point, lastDone),
    updatePoint: ({ params, body: { version, ...edit }, who }) => lubrication.update(params.id, { version, edit, who }),
    retirePoint: ({ params, body }) => lubrication.retire(params.id, body.retired),
    visitPoint: ({ params, body, who }) => lubrication.visit(params.id, body, who),
    jobFromPoint: ({ params, who }) => jobFromPoint({ lubrication, machines, jobs }, params.id, who),
    caseFromPoint: ({ params, who }) => caseFromPoint({ lubrication, machines, cases }, params.id, who),
    holdPoint: ({ params, body, who }) => rounds.hold(params.id, body, who),
    rounds: () => rounds.rounds(),
    planRounds: () => rounds.planAfresh(),
    horizon: () => rounds.horizon(),
    calendar: () => calendarFile({ rounds, shop, clock }),
    lubricationSettings: () => settings.get(),
    updateLubricationSettings: ({ body }) => settings.set(body),
    meters: () => meters.list(),
    addMeter: ({ params, body, who }) => meters.add(params.id, body, who),
    readMeter: ({ params, who }) => meters.read(params.id, who),
    takeMeterBack: ({ params, who }) => meters.back(params.id, who),
    importMeters: ({ body, who }) => files.importMeters(body, who),
    importState: async ({ params }) => files.state(params.key),
    callImportOff: async ({ params }) => files.callOff(params.key),
    exportMeters: () => files.exportMeters(),
    importPoints: ({ body }) => files.importPoints(body),
    exportPoints: () => files.exportPoints(),
    importWork: ({ body, who }) => files.importWork(body, who),
    exportWork: () => files.exportWork(),
    lubricants: () => lubricants.list(),
    createLubricant: ({ body }) => lubricants.create(body),
    updateLubricant: ({ params, body: { version, ...edit } }) => lubricants.update(params.id, version, edit),
    moveStock: ({ params, body, who }) => lubricants.move(params.id, body, who),
  };
}

export interface CalendarServices {
  readonly rounds: LubricationRounds;
  readonly shop: ShopSettings;
  readonly clock: Clock;
}

/** The rounds for a calendar program. */
export async function calendarFile({ rounds, shop, clock }: CalendarServices) {
  return {
    fileName: "rounds.ics",
    media: "text/calendar",
    text: roundsCalendar(await rounds.rounds(), {
      shop: (await shop.get()).name,
      sequence: await rounds.sequence(),
      stamp: clock.now(),
    }),
  };
}
