import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { hostname } from "node:os";
import { join, resolve } from "node:path";
import { parseArgs } from "node:util";
import { pino } from "pino";
import { createApp } from "./app";
import { isLoopback } from "./http/guard";
import { seedDemo } from "./demo/seed";
import { systemClock } from "./shop/clock";
import { settleAxes } from "./machine/axis-summary";
import { Machines } from "./machine/machines";
import { Runs } from "./measure/runs";
import { tend } from "./tend";
import { threadPool } from "./threads/pool";
import { openDatabase } from "./store/database";
import { keepBackups } from "./store/backups";
import { markDemo } from "./store/demo-mark";
import { holdFolder } from "./store/folder-lock";

const HOUR_MS = 3_600_000;
const DEFAULT_PORT = 8417;
const PORTS_TRIED = 10;

function optionsFromCommandLine() {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: {
      data: { type: "string" },
      host: { type: "string" },
      name: { type: "string", multiple: true },
      port: { type: "string" },
      demo: { type: "boolean", default: false },
      simulate: { type: "boolean", default: false },
      "simulation-speed": { type: "string" },
      "simulation-seed": { type: "string" },
      web: { type: "string" },
      to: { type: "string" },
      yes: { type: "boolean", default: false },
    },
  });
  const demo = values.demo;
  const port = values.port ?? process.env["IRON_PORT"];
  const speed = Number(values["simulation-speed"] ?? process.env["IRON_SIMULATION_SPEED"] ?? 1);
  if (port !== undefined && !/^\d{1,5}$/.test(port))
    throw new Error(`The port is "${port}": it must be from 0 to 65535.`);
  if (!(speed > 0)) throw new Error("The simulation speed must be above 0.");
  return {
    command: positionals.at(0) ?? "serve",
    file: positionals.at(1) ?? null,
    to: values.to ? resolve(values.to) : undefined,
    yes: values.yes,
    demo,
    port: port === undefined ? null : Number(port),
    host: values.host ?? process.env["IRON_HOST"] ?? "127.0.0.1",
    names: values.name ?? [],
    data: resolve(values.data ?? process.env["IRON_DATA"] ?? (demo ? "demo-data" : "data")),
    simulate: demo || values.simulate,
    speed,
    seed: values["simulation-seed"] === undefined ? undefined : Number(values["simulation-seed"]),
    web: values.web ? resolve(values.web) : join(__dirname, "..", "web", "browser"),
  };
}

function listen(server: Server, host: string, port: number): Promise<number> {
  return new Promise((done, fail) => {
    server.once("error", fail);
    server.listen(port, host, () => {
      server.off("error", fail);
      done((server.address() as AddressInfo).port);
    });
  });
}

/** Listens where told, or on the first free port from the usual one on. */
async function listenSomewhere(server: Server, host: string, port: number | null): Promise<number> {
  if (port !== null) return listen(server, host, port);
  for (let i = 0; ; i += 1) {
    try {
      return await listen(server, host, DEFAULT_PORT + i);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "EADDRINUSE" || i >= PORTS_TRIED) throw error;
    }
  }
}

/** Where it is to be found, and who else finds it there. */
function sayWhere(options: Pick<ReturnType<typeof optionsFromCommandLine>, "host" | "names">, port: number): void {
  const everywhere = ["0.0.0.0", "::"].includes(options.host);
  const name = isLoopback(options.host) ? "localhost" : everywhere ? (options.names[0] ?? hostname()) : options.host;
  process.stdout.write(`Iron Patience is at http://${name}:${port}/ (stop with Ctrl+C)\n`);
  if (!isLoopback(options.host))
    process.stdout.write(
      "Everybody on this network can read and change everything here: nobody signs in yet, and nothing is encrypted. Bind it only to a network you trust.\n",
    );
}

async function main(): Promise<void> {
  const options = optionsFromCommandLine();
  const log = pino({ level: process.env["LOG_LEVEL"] ?? "info", name: "iron-patience" }, pino.destination(2));
  if (options.command !== "serve") {
    await tend(options);
    return;
  }
  if (options.demo) markDemo(options.data);
  const lock = holdFolder(options.data, "a server that is starting");
  const db = await openDatabase(options.data, {
    copied: (path) => log.info({ path }, "copied before it is brought up to date"),
  });
  if (options.demo) await seedDemo(db, new Date());
  await new Runs(db, new Machines(db, systemClock), systemClock).reevaluate();
  await db.transaction().execute((trx) => settleAxes(trx));
  const backups = options.demo
    ? null
    : keepBackups(options.data, (message, error) => (error ? log.error({ err: error }, message) : log.info(message)));
  const app = createApp({
    backups,
    db,
    log,
    version: process.env["IRON_VERSION"] ?? "0.1.0",
    host: options.host,
    names: options.names,
    webFolder: options.web,
    simulate: options.simulate,
    simulationSpeed: options.speed,
    simulationSeed: options.seed,
    pool: threadPool(join(__dirname, "worker.cjs")),
  });
  app.tend();
  const tending = setInterval(() => app.tend(), HOUR_MS);
  const server = createServer(app.express);
  const port = await listenSomewhere(server, options.host, options.port);
  lock.say(`the server at ${options.host}:${port}`);
  log.info({ port, host: options.host, demo: options.demo }, "listening");
  sayWhere(options, port);
  let stopping = false;
  const stop = (signal: string): void => {
    if (stopping) return;
    stopping = true;
    backups?.stop();
    clearInterval(tending);
    log.info({ signal }, "stopping");
    setTimeout(() => process.exit(1), 5000).unref();
    server.close(() => {
      void db.destroy().then(() => {
        lock.release();
        process.exit(0);
      });
    });
    void app.close().then(() => server.closeAllConnections());
  };
  process.on("SIGTERM", () => stop("SIGTERM"));
  process.on("SIGINT", () => stop("SIGINT"));
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
});
