import { byTodaysNames, openApiDocument } from "@iron/contract";
import compression from "compression";
import express, { type Express } from "express";
import type { Logger } from "pino";
import { pinoHttp } from "pino-http";
import { DeviceHub } from "./devices/device-hub";
import { RunDevice } from "./devices/run-device";
import { errorHandler } from "./http/errors";
import { mountOperations } from "./http/mount";
import { problem } from "./http/problem-error";
import { guard, isLoopback, throughProxy } from "./http/guard";
import { contentSecurity, giveNonce } from "./http/security";
import { serveWebFiles } from "./http/web-files";
import { caseHandlersFor } from "./diagnosis/case-handlers";
import { lubricationHandlersFor } from "./lubrication/lubrication-handlers";
import { jobHandlersFor } from "./job/job-handlers";
import { mountJobPhotos, mountLubricationPhotos, mountPhotos } from "./job/photos";
import { mountDeviceStream } from "./measure/device-stream";
import { deviceHandlersFor } from "./devices/device-handlers";
import { machineHandlersFor } from "./machine/machine-handlers";
import { historyHandlersFor } from "./measure/history-handlers";
import { indicatorHandlersFor } from "./measure/indicator-handlers";
import { runHandlersFor } from "./measure/run-handlers";
import { shopHandlersFor } from "./shop/shop-handlers";
import { handTestHandlersFor } from "./measure/hand-test-handlers";
import { Diagnose } from "./diagnosis/diagnosis";
import { Cases } from "./diagnosis/cases";
import { Knowledge } from "./diagnosis/knowledge";
import { instant, systemClock, type Clock } from "./shop/clock";
import { Indicators } from "./measure/indicators";
import { MachineList } from "./machine/machine-list";
import { Machines } from "./machine/machines";
import { RunImport } from "./measure/run-import";
import { Jobs } from "./job/jobs";
import { LubricationFiles } from "./lubrication/lubrication-files";
import { LubricationSettingsStore } from "./lubrication/lubrication-settings";
import { LubricationRounds } from "./lubrication/rounds";
import { Lubricants } from "./lubrication/lubricants";
import { Lubrication } from "./lubrication/lubrication";
import { Meters } from "./lubrication/meters";
import { partHandlersFor } from "./stock/part-handlers";
import { PartStock } from "./stock/parts";
import { Runs } from "./measure/runs";
import { Bars } from "./prove/bar";
import { mountBarStream } from "./prove/bar-stream";
import { circleHandlersFor } from "./prove/circle-handlers";
import { correctionHandlersFor } from "./prove/correction-handlers";
import { Corrections } from "./prove/corrections";
import { Geometry, geometryHandlersFor } from "./prove/geometry";
import { mountSounds, soundHandlersFor } from "./sound/sound-handlers";
import { Sounds } from "./sound/sounds";
import { Circles } from "./prove/circles";
import { HandTests } from "./measure/hand-tests";
import { doorway } from "./people/doorway";
import { People } from "./people/people";
import { peopleHandlersFor } from "./people/people-handlers";
import { hashOf, Seals } from "./people/seals";
import { signInLimit } from "./people/sign-in-limit";
import { seedChance } from "./diagnosis/chance";
import { ShopSettings } from "./shop/shop";
import { ChangeNews } from "./http/changes";
import { withoutSecrets } from "./http/without-secrets";
import { keepingHandlersFor, mountCalendars } from "./people/keeping-handlers";
import { ChangeRecord } from "./people/record";
import type { BackupKeeper } from "./store/backups";
import type { Db } from "./store/database";
import { inThread, type WorkPool } from "./threads/pool";

export interface AppOptions {
  readonly db: Db;
  readonly log: Logger;
  readonly version: string;
  readonly host: string;
  /** Other names it answers to on the network. */
  readonly names?: readonly string[];
  /** It speaks TLS itself, or stands behind a proxy that does; left out: neither. */
  readonly tls?: "own" | "proxy" | null;
  /** Said on the console: who knows it makes the keeper. */
  readonly setUpCode?: string | null;
  readonly webFolder: string | null;
  readonly simulate: boolean;
  /** How much faster than real the simulated machines run; Infinity finishes a command at once. */
  readonly simulationSpeed: number;
  /** Makes what the stand-ins' hands and ears find repeat itself. */
  readonly simulationSeed?: number;
  readonly checkAnswers?: boolean;
  readonly clock?: Clock;
  /** Null where no backups are kept, as in the demo. */
  readonly backups?: BackupKeeper | null;
  /** Where the shop’s files lie. */
  readonly folder?: string | null;
  /** Where long work is done; in this thread when left out. */
  readonly pool?: WorkPool;
}

export interface App {
  readonly express: Express;
  /** What follows the day and not a change: to be called at the start and every hour or so. */
  tend(): void;
  /** Says which authority signed its certificate, PEM: tablets can fetch it. */
  trust(authority: string | null): void;
  close(): Promise<void>;
}

/** Everything that works behind the operations. */
function servicesOf({ db, log, clock = systemClock, pool = inThread, ...options }: AppOptions) {
  const machines = new Machines(db, clock);
  const runs = new Runs(db, machines, clock);
  const cases = new Cases(db, machines, clock);
  const knowledge = new Knowledge(db, clock);
  const hub = new DeviceHub({
    db,
    machines,
    options: { simulate: options.simulate, speed: options.simulationSpeed },
    hooks: {
      failed: (error) => log.error({ err: error }, "simulated device stopped"),
      dwelt: async (_, runId, step) => {
        const { by } = await runs.run(runId);
        await runDevice.take(runId, step, { who: by, source: "program" });
      },
    },
  });
  const runDevice: RunDevice = new RunDevice(hub, runs, machines);
  const settings = new LubricationSettingsStore(db);
  const meters = new Meters(db, settings, clock);
  const lubrication = new Lubrication({ db, machines, meters, settings, clock });
  const shop = new ShopSettings(db);
  const prove = proveServices({ db, log, clock, pool, ...options }, machines, hub);
  return {
    db,
    clock,
    pool,
    machines,
    runs,
    runImport: new RunImport({ db, machines, runs, clock, pool }),
    indicators: new Indicators(db, clock),
    hub,
    runDevice,
    cases,
    knowledge,
    diagnose: new Diagnose({ db, machines, runs, cases, knowledge, clock }),
    handTest: new HandTests({ db, machines, hub, clock }),
    jobs: new Jobs({ db, machines, clock, hub }),
    shop,
    ...prove,
    corrections: new Corrections({ db, machines, runs, hub, clock, pool }),
    geometry: new Geometry({ db, machines, circles: prove.circles, clock }),
    sounds: new Sounds({ db, machines, hub, clock, pool }),
    ...peopleServices(db, clock, isLoopback(options.host) && !options.tls),
    setUpCode: options.setUpCode ?? null,
    list: new MachineList({ db, settings, clock }),
    parts: new PartStock({ db, machines, meters, lubrication, shop, clock }),
    settings,
    meters,
    lubrication,
    rounds: new LubricationRounds({ db, lubrication, settings, clock, pool, shop }),
    lubricants: new Lubricants({ db, lubrication, settings, clock }),
    files: new LubricationFiles({ db, lubrication, meters, clock, pool }),
    ...keepingServices({ db, clock, ...options }),
  };
}

/** Who signs in, and what seals their waiting work. */
function peopleServices(db: Db, clock: Clock, alone: boolean) {
  const people = new People(db, clock, alone);
  return { people, seals: new Seals(db, clock, people) };
}

/** Who changed what, told at once, and how the server stands. */
function keepingServices({ db, clock, folder, version, backups }: Omit<AppOptions, "log"> & { readonly clock: Clock }) {
  const news = new ChangeNews();
  const record = new ChangeRecord(db, clock, news);
  return { record, news, version, backups: backups ?? null, folder: folder ?? null, started: instant(clock) };
}

/** Circles, and the bar that reads them. */
function proveServices(
  { db, log, clock = systemClock, pool = inThread, ...options }: AppOptions,
  machines: Machines,
  hub: DeviceHub,
) {
  const given = (machineId: number) =>
    db.selectFrom("virtual_machine").select("machine_id").where("machine_id", "=", machineId).executeTakeFirst();
  const connected = async (machineId: number): Promise<boolean> =>
    options.simulate || (await given(machineId)) !== undefined;
  const reading = (planeId: number): boolean => bars.isReading(planeId);
  const circles = new Circles({ db, machines, clock, pool, connected, reading });
  const failed = (error: unknown): void => log.error({ err: error }, "simulated bar stopped");
  const bars: Bars = new Bars({ db, machines, hub, circles, pool, speed: options.simulationSpeed, failed });
  return { circles, bars };
}

/** What every request passes: the log, who may ask at all, how much may be sent, and that plans are made anew. */
function receive(app: Express, { log, host, names, tls }: AppOptions, s: ReturnType<typeof servicesOf>): void {
  app.disable("x-powered-by");
  // One proxy, before this server: the address and the scheme are those it says.
  if (tls === "proxy") app.set("trust proxy", 1);
  app.set("query parser", "simple");
  app.use(
    pinoHttp({
      logger: log,
      serializers: { req: withoutSecrets, res: withoutSecrets },
      customLogLevel: (_, response, error) => (error || response.statusCode >= 500 ? "error" : "debug"),
    }),
  );
  app.use(giveNonce, contentSecurity, guard(host, names));
  if (tls === "proxy") app.use(throughProxy);
  app.use(signInLimit(), ...doorway({ db: s.db, clock: s.clock, people: s.people, seals: s.seals, secure: !!tls }));
  app.use(
    compression({
      filter: (request, response) =>
        response.getHeader("Content-Type") !== "text/event-stream" && compression.filter(request, response),
    }),
  );
  app.use("/api", s.news.said, (request, response, next) => {
    if (!["GET", "HEAD"].includes(request.method)) {
      s.rounds.touched();
      response.once("finish", () => s.rounds.touched());
    }
    next();
  });
  app.use("/api/axes/:id/import", jsonUpTo("3mb"));
  app.use(["/api/meters/import", "/api/lube-points/import", "/api/lube-visits/import"], jsonUpTo("6mb"));
  app.use("/api/machines/list", jsonUpTo("2mb"));
  app.use("/api/circle-planes/:id/import", jsonUpTo("5mb"));
  app.use(["/api/axes/:id/load-trace", "/api/cases/:id/results"], jsonUpTo("3mb"));
  mountPhotos(app, s.cases, s);
  mountJobPhotos(app, s.jobs, s);
  mountLubricationPhotos(app, s.lubrication, s);
  mountSounds(app, s.sounds);
  // What a tablet noted under an older name is taken by its name of today.
  app.use("/api", jsonUpTo("256kb", byTodaysNames));
}

/** Reads a body of JSON up to a size; of what is sealed it says what came. */
const jsonUpTo = (limit: string, reviver?: typeof byTodaysNames): express.Handler =>
  express.json({
    ...{ limit, ...(reviver ? { reviver } : {}) },
    verify: (request, _, bytes) => {
      const received = request as express.Request;
      if (received.sealed) received.bodyHash = hashOf(bytes);
    },
  });

/** What is no operation of JSON: streams, and calendars by their own address. */
function mountBeside(app: Express, s: ReturnType<typeof servicesOf>): void {
  mountCalendars(app, s);
  s.news.mount(app);
  mountDeviceStream(app, s.hub);
  mountBarStream(app, s.circles, s.bars);
}

/** Puts the server together. The caller owns the database. */
export function createApp(options: AppOptions): App {
  seedChance(options.simulationSeed ?? null);
  const s = servicesOf(options);
  const app = express();
  let authority: string | null = null;
  receive(app, options, s);
  const handlers = {
    ...shopHandlersFor(s),
    ...machineHandlersFor(s),
    ...historyHandlersFor(s),
    ...indicatorHandlersFor(s),
    ...runHandlersFor(s),
    ...deviceHandlersFor(s),
    ...caseHandlersFor(s),
    ...jobHandlersFor(s.jobs, s.people),
    ...lubricationHandlersFor(s),
    ...partHandlersFor(s.parts),
    ...handTestHandlersFor(s.handTest),
    ...circleHandlersFor(s),
    ...correctionHandlersFor(s),
    ...geometryHandlersFor(s),
    ...soundHandlersFor(s),
    ...peopleHandlersFor(s),
    ...keepingHandlersFor(s),
  };
  mountOperations(app, handlers, { checkAnswers: options.checkAnswers ?? false, record: s.record, seals: s.seals });
  mountBeside(app, s);
  // Made when somebody asks for it: it takes a third of the time that everything else here takes together.
  let document: ReturnType<typeof openApiDocument> | null = null;
  app.get("/api/openapi.json", (_, response) => {
    response.json((document ??= openApiDocument(options.version)));
  });
  app.use("/api", (request) => {
    throw problem(404, {
      title: "Not found",
      detail: `There is nothing at ${request.method} ${request.path.slice(0, 200)}.`,
    });
  });
  app.get("/authority.crt", (_, response) => {
    if (!authority) throw problem(404, { title: "Not found", detail: "This server has no authority of its own." });
    response.attachment("authority.crt").type("application/x-x509-ca-cert").send(authority);
  });
  if (options.webFolder) serveWebFiles(app, options.webFolder);
  app.use((request) => {
    throw problem(404, { title: "Not found", detail: `There is nothing at ${request.path.slice(0, 200)}.` });
  });
  app.use(errorHandler(options.log));
  return {
    express: app,
    tend: () => s.rounds.touched(),
    trust: (given) => (authority = given),
    close: async () => {
      s.news.close();
      s.bars.close();
      await s.rounds.close();
      await s.hub.close();
      await s.pool.close();
    },
  };
}
