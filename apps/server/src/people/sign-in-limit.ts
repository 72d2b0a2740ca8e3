import { ADDRESSES, type OperationName } from "@iron/contract";
import { Router, type RequestHandler } from "express";
import { rateLimit } from "express-rate-limit";
import { setTimeout as wait } from "node:timers/promises";
import { problem } from "../http/problem-error";

/** Whoever tries a PIN, from one address: more than a shift that comes in needs, and far less than a program tries. */
const A_MINUTE = 40;
const TRIED = ["setUpKeeper", "signIn", "sayAgain", "changeOwnSecret"] as const satisfies readonly OperationName[];
/** A program that tries on waits for each answer: a second held is a hundred tries that take nobody else’s time. */
const HELD_MS = 1000;
/** So many are held at once; more connections than these are not kept for anybody. */
const MOST_HELD = 100;

/**
 * Refuses more tries than people make, before they are looked at, and not at once: a flood of them then costs those
 * who work nothing.
 */
export function signInLimit(held: () => Promise<unknown> = () => wait(HELD_MS)): RequestHandler {
  const router = Router();
  let waiting = 0;
  const limit = rateLimit({
    windowMs: 60_000,
    limit: A_MINUTE,
    standardHeaders: "draft-8",
    legacyHeaders: false,
    handler: async (_, __, next) => {
      if (waiting < MOST_HELD) {
        waiting += 1;
        await held();
        waiting -= 1;
      }
      next(problem(429, { title: "Too many tries", detail: "Too many tries from this device. Wait a minute." }));
    },
  });
  for (const name of TRIED) {
    const [method, path] = ADDRESSES[name];
    router[method](path, limit);
  }
  return router;
}
