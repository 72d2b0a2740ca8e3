import type { RequestHandler } from "express";
import helmet from "helmet";
import { randomBytes } from "node:crypto";
import { isLoopback } from "./guard";

/** A fresh nonce for each answer; the page carries it for its own first script and for the styles that are made at run time. */
export const giveNonce: RequestHandler = (_, response, next) => {
  response.locals["nonce"] = randomBytes(16).toString("base64");
  next();
};

const HALF_A_YEAR_S = 15_552_000;

export const contentSecurity: RequestHandler = (request, response, next) => {
  const local = isLoopback(request.get("host") ?? "");
  const secure = request.secure || local;
  const nonce = `'nonce-${response.locals["nonce"]}'`;
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'", nonce],
        styleSrc: ["'self'", nonce],
        imgSrc: ["'self'", "data:", "blob:"],
        fontSrc: ["'self'"],
        mediaSrc: ["'self'"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        manifestSrc: ["'self'"],
        baseUri: ["'self'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    // On the loopback other servers of this machine answer to the same name.
    strictTransportSecurity: request.secure && !local ? { maxAge: HALF_A_YEAR_S, includeSubDomains: false } : false,
    // Heeded on a secure origin only; over plain http a browser complains of them at every page.
    crossOriginOpenerPolicy: secure,
    originAgentCluster: secure,
  })(request, response, next);
};
