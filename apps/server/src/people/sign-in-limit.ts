import { ADDRESSES, type OperationName } from "@iron/contract";
import { Router, type RequestHandler } from "express";
import { rateLimit } from "express-rate-limit";
import { problem } from "../http/problem-error";

/** Whoever tries a PIN, from one address: more than a shift that comes in needs, and far less than a program tries. */
const A_MINUTE = 40;
const TRIED = ["setUpKeeper", "signIn", "sayAgain", "changeOwnSecret"] as const satisfies readonly OperationName[];

/** Refuses more tries than people make, before they are looked at. */
export function signInLimit(): RequestHandler {
  const router = Router();
  const limit = rateLimit({
    windowMs: 60_000,
    limit: A_MINUTE,
    standardHeaders: "draft-8",
    legacyHeaders: false,
    handler: () => {
      throw problem(429, { title: "Too many tries", detail: "Too many tries from this device. Wait a minute." });
    },
  });
  for (const name of TRIED) {
    const [method, path] = ADDRESSES[name];
    router[method](path, limit);
  }
  return router;
}
