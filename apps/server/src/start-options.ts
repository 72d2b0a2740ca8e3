import { join, resolve } from "node:path";
import { parseArgs } from "node:util";
import { isLoopback } from "./http/guard";
import { StartError } from "./store/start-error";

const ASKED = {
  data: { type: "string" },
  host: { type: "string" },
  name: { type: "string", multiple: true },
  port: { type: "string" },
  "made-certificate": { type: "boolean", default: false },
  certificate: { type: "string" },
  key: { type: "string" },
  "behind-proxy": { type: "boolean", default: false },
  demo: { type: "boolean", default: false },
  simulate: { type: "boolean", default: false },
  "simulation-speed": { type: "string" },
  "simulation-seed": { type: "string" },
  web: { type: "string" },
  to: { type: "string" },
  yes: { type: "boolean", default: false },
} as const;

/** How the network is spoken to: in the open on this machine alone, by a certificate, or by the proxy before it. */
export type Wire =
  | { readonly kind: "open" }
  | { readonly kind: "proxy" }
  | { readonly kind: "made" }
  | { readonly kind: "own"; readonly certificate: string; readonly key: string };

export type StartOptions = ReturnType<typeof optionsFromCommandLine>;

/** What the command line and the environment say. @throws in words */
export function optionsFromCommandLine(args?: readonly string[]) {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: ASKED,
    ...(args ? { args: [...args] } : {}),
  });
  const demo = values.demo;
  const port = values.port ?? process.env["IRON_PORT"];
  const speed = Number(values["simulation-speed"] ?? process.env["IRON_SIMULATION_SPEED"] ?? 1);
  if (port !== undefined && !/^\d{1,5}$/.test(port))
    throw new StartError(`The port is "${port}": it must be from 0 to 65535.`);
  if (!(speed > 0)) throw new StartError("The simulation speed must be above 0.");
  const host = values.host ?? process.env["IRON_HOST"] ?? "127.0.0.1";
  const command = positionals.at(0) ?? "serve";
  return {
    command,
    file: positionals.at(1) ?? null,
    to: values.to ? resolve(values.to) : undefined,
    yes: values.yes,
    demo,
    port: port === undefined ? null : Number(port),
    host,
    wire: command === "serve" ? wireOf(values, host) : ({ kind: "open" } as Wire),
    names: values.name ?? [],
    data: resolve(values.data ?? process.env["IRON_DATA"] ?? (demo ? "demo-data" : "data")),
    simulate: demo || values.simulate,
    speed,
    seed: values["simulation-seed"] === undefined ? undefined : Number(values["simulation-seed"]),
    web: values.web ? resolve(values.web) : join(__dirname, "..", "web", "browser"),
  };
}

interface Said {
  readonly "made-certificate": boolean;
  readonly "behind-proxy": boolean;
  readonly certificate?: string | undefined;
  readonly key?: string | undefined;
}

/** @throws StartError for a network without TLS, or for two ways at once */
function wireOf(said: Said, host: string): Wire {
  const { certificate, key } = said;
  if (!certificate !== !key) throw new StartError("A certificate needs its key, and a key its certificate: give both.");
  const ways = [said["made-certificate"], said["behind-proxy"], certificate !== undefined].filter(Boolean);
  if (ways.length > 1)
    throw new StartError("Choose one: --made-certificate, --certificate with --key, or --behind-proxy.");
  if (said["made-certificate"]) return { kind: "made" };
  if (said["behind-proxy"]) return { kind: "proxy" };
  if (certificate && key) return { kind: "own", certificate: resolve(certificate), key: resolve(key) };
  if (isLoopback(host)) return { kind: "open" };
  throw new StartError(
    [
      `Not started: on ${host} others of the network could read PINs and readings on their way. Say how it is encrypted:`,
      "  --made-certificate            one is made for the shop; its tablets trust it once",
      "  --certificate FILE --key FILE one of your own, PEM",
      "  --behind-proxy                a proxy before this server speaks TLS, and nothing else reaches this port",
    ].join("\n"),
  );
}
