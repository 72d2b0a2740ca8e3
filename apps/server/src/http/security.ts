import type { RequestHandler } from "express";
import helmet from "helmet";
import { randomBytes } from "node:crypto";
import { problem } from "./problem-error";

const LOCAL_HOSTS = new Set(["localhost", "127.0.0.1", "[::1]"]);

/** A fresh nonce for each answer; the page carries it for the styles that are made at run time. */
export const giveNonce: RequestHandler = (_, response, next) => {
  response.locals["nonce"] = randomBytes(16).toString("base64");
  next();
};

export const contentSecurity: RequestHandler = (request, response, next) => {
  const nonce = `'nonce-${response.locals["nonce"]}'`;
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'", nonce],
        imgSrc: ["'self'", "data:", "blob:"],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        manifestSrc: ["'self'"],
        baseUri: ["'self'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    strictTransportSecurity: false,
  })(request, response, next);
};

/**
 * Pages of other sites must not drive this server through the user's browser: cross-site requests are
 * refused, and while bound to the loopback only its own names are answered.
 */
export function sameSiteOnly(host: string): RequestHandler {
  const loopback = LOCAL_HOSTS.has(host) || host === "::1";
  return (request, _, next) => {
    const site = request.get("sec-fetch-site");
    const unsafe = request.method !== "GET" && request.method !== "HEAD";
    if (unsafe && site && site !== "same-origin" && site !== "none") {
      throw problem(403, "Forbidden", "Requests from other sites are refused.");
    }
    if (
      unsafe &&
      Number(request.get("content-length") ?? 0) > 0 &&
      !request.is(["application/json", "image/jpeg", "image/png"])
    ) {
      throw problem(415, "Not JSON", "Send application/json.");
    }
    const name = (request.get("host") ?? "").replace(/:\d+$/, "");
    if (loopback && !LOCAL_HOSTS.has(name)) {
      throw problem(
        403,
        "Forbidden",
        "This server answers on this machine only.",
      );
    }
    next();
  };
}
