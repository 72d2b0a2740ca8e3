import type { Request, RequestHandler } from "express";
import { hostname, networkInterfaces } from "node:os";
import { problem } from "./problem-error";

const LOOPBACK = ["localhost", "127.0.0.1", "::1"];
/** The header that every write carries. A page of another site cannot send it without being asked first. */
export const WRITER_HEADER = "x-working-as";

export function isLoopback(host: string): boolean {
  return LOOPBACK.includes(bare(host));
}

/** The name in a Host header or an origin: no port, no brackets, small letters. */
function bare(host: string): string {
  return (
    host
      .toLowerCase()
      // An address of six colons and no brackets has no port.
      .replace(/^([^:]*|\[[^\]]*\]):\d{1,5}$/, "$1")
      .replace(/^\[|\]$/g, "")
  );
}

/**
 * Names this server answers to: on the loopback its own; on the network also its addresses, its host
 * name and what `--name` lists. A page whose name was pointed here (rebinding) is none of them.
 */
export function answersTo(host: string, names: readonly string[]): (asked: string) => boolean {
  const listed = new Set([...LOOPBACK, ...names.map(bare)]);
  if (isLoopback(host)) return (asked) => listed.has(asked);
  const everywhere = bare(host) === "0.0.0.0" || bare(host) === "::";
  if (!everywhere) listed.add(bare(host));
  listed.add(hostname().toLowerCase());
  // Addresses come and go while a server runs: they are looked up when a name is not listed.
  return (asked) =>
    listed.has(asked) ||
    Object.values(networkInterfaces())
      .flat()
      .some((i) => i?.address.toLowerCase() === asked);
}

const isWrite = ({ method }: Request): boolean => method !== "GET" && method !== "HEAD" && method !== "OPTIONS";

/**
 * Pages of other sites must not drive this server through the user’s browser. Only listed names are
 * answered; a write must come from a page of this server, and carry {@link WRITER_HEADER}, which
 * neither a form nor another site’s script can send.
 */
export function guard(host: string, names: readonly string[] = []): RequestHandler {
  const ours = answersTo(host, names);
  return (request, _, next) => {
    const name = bare(request.get("host") ?? "");
    if (!ours(name))
      throw problem(403, {
        title: "Forbidden",
        detail: isLoopback(host)
          ? "This server answers on this machine only."
          : `This server does not answer to “${name.slice(0, 80)}”. Start it with --name ${name.slice(0, 80) || "NAME"} if that is its name.`,
      });
    if (isWrite(request)) refuseForeign(request, ours);
    next();
  };
}

/** Whoever comes past the proxy comes unencrypted: only whether the server is up is said to them. */
export const throughProxy: RequestHandler = (request, _, next) => {
  if (!request.secure && request.path !== "/api/health")
    throw problem(403, {
      title: "Forbidden",
      detail: "This server is reached through its proxy, by https: the proxy says so in X-Forwarded-Proto.",
    });
  next();
};

/** What a page of another site cannot send without being asked first. */
const TAKEN = ["application/json", "image/jpeg", "image/png", "application/octet-stream"];

function refuseForeign(request: Request, ours: (name: string) => boolean): void {
  const site = request.get("sec-fetch-site");
  const origin = request.get("origin");
  const foreign =
    (site !== undefined && site !== "same-origin" && site !== "none") ||
    (origin !== undefined && !isOwnOrigin(origin, request, ours));
  if (foreign) throw problem(403, { title: "Forbidden", detail: "Requests from other sites are refused." });
  if (request.get(WRITER_HEADER) === undefined)
    throw problem(403, {
      title: "Forbidden",
      detail: "A request that changes something says who is working in the header X-Working-As.",
    });
  if (Number(request.get("content-length") ?? 0) > 0 && !request.is(TAKEN))
    throw problem(415, { title: "Not JSON", detail: "Send application/json." });
}

/** The page’s own server: the same name and port as asked now. */
function isOwnOrigin(origin: string, request: Request, ours: (name: string) => boolean): boolean {
  if (!URL.canParse(origin)) return false;
  const url = new URL(origin);
  return url.host === (request.get("host") ?? "").toLowerCase() && ours(bare(url.host));
}
