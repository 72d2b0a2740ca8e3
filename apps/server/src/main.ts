import type { Express } from "express";
import { createServer } from "node:http";
import { createServer as createTlsServer } from "node:https";
import type { AddressInfo } from "node:net";
import { hostname } from "node:os";
import type { Server } from "node:net";
import { join } from "node:path";
import { pino, type Logger } from "pino";
import { createApp } from "./app";
import { isLoopback } from "./http/guard";
import { fingerprintOf, madeCertificate, ownCertificate } from "./network/certificate";
import { hasKeeper } from "./people/people";
import { consoleCode } from "./people/secrets";
import { optionsFromCommandLine, type StartOptions } from "./start-options";
import { StartError } from "./store/start-error";
import { seedDemo } from "./demo/seed";
import { systemClock } from "./shop/clock";
import { settleAxes } from "./machine/axis-summary";
import { Machines } from "./machine/machines";
import { Runs } from "./measure/runs";
import { tend } from "./tend";
import { threadPool } from "./threads/pool";
import { openStore } from "./store/store";
import { keepBackups } from "./store/backups";
import { markDemo } from "./store/demo-mark";
import { holdFolder } from "./store/folder-lock";

const HOUR_MS = 3_600_000;
const DEFAULT_PORT = 8417;
const PORTS_TRIED = 10;

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

/** What tablets reach it by: a server of its own certificate, of one that was made, or one that a proxy stands before. */
async function serverFor(app: Express, { wire, data, names }: StartOptions) {
  if (wire.kind === "open" || wire.kind === "proxy") return { server: createServer(app), authority: null };
  const certificate =
    wire.kind === "made" ? await madeCertificate(data, names, new Date()) : ownCertificate(wire.certificate, wire.key);
  const { key, cert, authority } = certificate;
  try {
    return { server: createTlsServer({ key, cert, minVersion: "TLSv1.2" }, app), authority };
  } catch (error) {
    throw new StartError("Certificate and key do not belong together, or are no PEM.", { cause: error });
  }
}

/** Where it is to be found, and what to do there first. */
function sayWhere(
  { host, names, wire }: StartOptions,
  {
    port,
    authority,
    setUpCode,
  }: { readonly port: number; readonly authority: string | null; readonly setUpCode: string | null },
): void {
  const say = (line: string): void => void process.stdout.write(`${line}\n`);
  const everywhere = ["0.0.0.0", "::"].includes(host);
  const name = isLoopback(host) ? "localhost" : everywhere ? (names[0] ?? hostname()) : host;
  const scheme = wire.kind === "own" || wire.kind === "made" ? "https" : "http";
  say(`Iron Patience is at ${scheme}://${name}:${port}/ (stop with Ctrl+C)`);
  if (authority) {
    say(`A tablet that does not know it yet is told how to trust it at ${scheme}://${name}:${port}/trust`);
    say(`Fingerprint of the shop’s authority, SHA-256: ${fingerprintOf(authority)}`);
  }
  if (setUpCode) say(`Nobody keeps this server yet. Open it and enter this code, once: ${setUpCode}`);
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
  const db = await openStore(options.data, {
    copied: (path) => log.info({ path }, "copied before it is brought up to date"),
  });
  if (options.demo) await seedDemo(db, new Date());
  await new Runs(db, new Machines(db, systemClock), systemClock).reevaluate();
  await db.transaction().execute((trx) => settleAxes(trx));
  const backups = options.demo
    ? null
    : keepBackups(options.data, (message, error) => (error ? log.error({ err: error }, message) : log.info(message)));
  const wired = options.wire.kind === "open" ? null : options.wire.kind === "proxy" ? "proxy" : "own";
  const setUpCode = wired && !(await hasKeeper(db)) ? consoleCode() : null;
  const app = createApp({
    backups,
    folder: options.data,
    tls: wired,
    setUpCode,
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
  const { server, authority } = await serverFor(app.express, options);
  app.trust(authority);
  const port = await listenSomewhere(server, options.host, options.port);
  lock.say(`the server at ${options.host}:${port}`);
  log.info({ port, host: options.host, demo: options.demo }, "listening");
  sayWhere(options, { port, authority, setUpCode });
  const end = async (): Promise<void> => {
    backups?.stop();
    clearInterval(tending);
    await app.close();
    server.closeAllConnections();
  };
  onSignal(log, server, { end, released: async () => db.destroy().then(() => lock.release()) });
}

/** Stops once, in order; at the latest after five seconds. */
function onSignal(
  log: Logger,
  server: ReturnType<typeof createServer>,
  { end, released }: { readonly end: () => Promise<void>; readonly released: () => Promise<void> },
): void {
  let stopping = false;
  const stop = (signal: string): void => {
    if (stopping) return;
    stopping = true;
    log.info({ signal }, "stopping");
    setTimeout(() => process.exit(1), 5000).unref();
    server.close(() => void released().then(() => process.exit(0)));
    void end();
  };
  process.on("SIGTERM", () => stop("SIGTERM"));
  process.on("SIGINT", () => stop("SIGINT"));
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
});
