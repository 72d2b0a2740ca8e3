import { ACCESS, ACCESS_ELSEWHERE, ADDRESSES, reaches, STOPS, type Access, type OperationName } from "@iron/contract";
import { csrfSync } from "csrf-sync";
import { Router, type Request, type RequestHandler } from "express";
import session from "express-session";
import { randomBytes } from "node:crypto";
import { EventEmitter } from "node:events";
import { problem } from "../http/problem-error";
import type { Clock } from "../shop/clock";
import type { Db } from "../store/database";
import type { People, PersonRow } from "./people";
import type { Sealed, Seals } from "./seals";
import { LONGEST_MS, SessionStore } from "./session-store";
import { anothersWork, saidName } from "./who";

declare module "express-serve-static-core" {
  interface Request {
    /** Who is signed in. */
    person?: PersonRow;
    door?: "open" | "set-up" | "people";
    /** It stands in the table of who may do what, and was let through. */
    listed?: true;
    /** It waited on a device and says under which session it was made: that one’s person is who did it. */
    sealed?: Sealed | null;
    /** SHA-256 of its body as it came, base64url; told of what is sealed. */
    bodyHash?: string;
    /** It stops a machine: whoever asks for it. */
    stops?: boolean;
    /** Somebody signs in, and need not have been here before. */
    comes?: boolean;
    /** It says of nobody that they did it. */
    namesNobody?: boolean;
    /** Whether the session still stands: a stream outlives the request that opened it. */
    stillIn?: () => Promise<boolean>;
    /** Calls back whenever somebody may have been signed out; gives what calls that off. */
    doorMoves?: (told: () => void) => () => void;
  }
}

/** Where what is changed may end somebody’s session. */
const ENDS_SESSIONS = /^\/api\/(sign-out|sessions|people|me\/secret|door)\b/;
const TOKEN_HEADER = "x-token";
const csrf = csrfSync({ getTokenFromRequest: (request) => request.get(TOKEN_HEADER) });
/** Made at the first call of a session, the same at the later ones. */
export const tokenOf = (request: Request): string => csrf.generateToken(request);

/** From where somebody asks, as it is noted. */
export const addressOf = (request: Request): string => (request.ip ?? "").replace(/^::ffff:/, "");

/** Open while nobody keeps the system yet. */
const BEFORE_SET_UP: readonly string[] = ["me", "setUpKeeper", "health"] satisfies OperationName[];
/** Open to who still has the PIN that was given. */
const BEFORE_OWN_PIN: readonly string[] = [
  "me",
  "signIn",
  "signOut",
  "changeOwnSecret",
  "health",
] satisfies OperationName[];

const STOPS_BY_NAME: readonly string[] = STOPS;
/** Of whoever’s session it is: one comes where another has been, who may not even have left. */
const COMES_AND_GOES: readonly string[] = ["setUpKeeper", "signIn", "signOut"] satisfies OperationName[];

/** Refuses who may not, before anything of a request is read. */
function needs(access: Access, name: string): RequestHandler {
  return (request, _, next) => {
    request.listed = true;
    request.stops = STOPS_BY_NAME.includes(name);
    request.comes = name === "signIn";
    request.namesNobody = request.stops || COMES_AND_GOES.includes(name);
    if (request.door === "set-up" && !BEFORE_SET_UP.includes(name))
      throw problem(403, { title: "Not set up", detail: "Nobody keeps this server yet: set it up first." });
    if (access === "anyone" || request.door === "open") {
      next();
      return;
    }
    const { person } = request;
    if (!person) throw signInFirst();
    // What was made before a PIN was given anew is not lost by that.
    if (person.given && !request.sealed && !BEFORE_OWN_PIN.includes(name))
      throw problem(403, { title: "Choose a PIN", detail: "Choose a PIN of your own first." });
    // Before what they may: it waits for whoever did it, however little this one may.
    if (isWrite(request) && !request.namesNobody) refuseAnothers(saidName(request), person);
    if (!reaches(person.role, access))
      throw problem(403, {
        title: "Not yours to do",
        detail: `That is for a ${access}; ${person.name} is here to ${person.role === "look" ? "look" : `work as ${person.role}`}.`,
      });
    next();
  };
}

function refuseAnothers(said: string, person: PersonRow): void {
  if (said && said !== person.name) throw anothersWork(said, person.name);
}

const signInFirst = (): Error => problem(401, { title: "Sign in", detail: "Sign in first." });

/** One gate before each operation of the contract and what stands beside them; nothing unlisted is open. */
function gates(): Router {
  const router = Router();
  for (const [name, access] of Object.entries(ACCESS)) {
    const [method, path] = ADDRESSES[name as OperationName];
    router[method](path, needs(access, name));
  }
  for (const [method, path, access] of ACCESS_ELSEWHERE) router[method](path, needs(access, path));
  return router;
}

/** What nobody listed is nobody’s: a new address is shut until the table says who it is for. */
const listedOnly: RequestHandler = (request, _, next) => {
  if (request.door !== "open" && !request.listed && !request.person && /^\/api(\/|$)/i.test(request.path))
    throw signInFirst();
  next();
};

const isWrite = ({ method }: Request): boolean => !["GET", "HEAD", "OPTIONS"].includes(method);

/** Somebody signed in: what they send must come from a page of theirs, and say what they did themselves. */
const fromOwnPage: RequestHandler = (request, _, next) => {
  const free = request.stops || request.comes;
  if (request.door !== "open" && request.person && isWrite(request) && !free && !csrf.isRequestValid(request))
    throw problem(403, { title: "Forbidden", detail: "This page is of an earlier session: load it anew." });
  next();
};

export interface DoorwayOptions {
  readonly db: Db;
  readonly clock: Clock;
  readonly people: People;
  readonly seals: Seals;
  /** Reached by TLS only: the cookie goes no other way. */
  readonly secure: boolean;
}

/** What stands before everything under /api: who it is, whether they may, and that it is their page that asks. */
export function doorway({ db, clock, people, seals, secure }: DoorwayOptions): RequestHandler[] {
  let made: Promise<RequestHandler> | null = null;
  const store = new SessionStore(db, clock);
  const moves = new EventEmitter().setMaxListeners(0);
  const sessions = async (): Promise<RequestHandler> =>
    session({
      store,
      secret: await sessionSecret(db),
      name: secure ? "__Host-iron" : "iron",
      resave: false,
      saveUninitialized: false,
      cookie: { httpOnly: true, sameSite: "strict", secure, maxAge: LONGEST_MS, path: "/" },
    });
  const who: RequestHandler = async (request, response, next) => {
    if (isWrite(request) && ENDS_SESSIONS.test(request.path)) response.once("finish", () => moves.emit("moved"));
    request.doorMoves = (told) => {
      moves.on("moved", told);
      return () => moves.off("moved", told);
    };
    request.door = await people.door();
    if (request.door === "open") {
      next();
      return;
    }
    (await (made ??= sessions()))(request, response, (error?: unknown) => {
      const { personId } = request.session ?? {};
      if (error || personId === undefined) next(error);
      else
        people
          .find(personId)
          .then(async (person) => {
            if (!person) return;
            request.sealed = isWrite(request) ? await seals.read(request, person) : null;
            request.person = request.sealed?.person ?? person;
            const { sessionID } = request;
            request.stillIn = () =>
              new Promise((done) => {
                store.get(sessionID, (failed, held) => done(!failed && !!held));
              });
          })
          .then(() => next(), next);
    });
  };
  return [who, gates(), listedOnly, fromOwnPage];
}

/** Signs the cookies; kept, so that a restart signs nobody out. */
async function sessionSecret(db: Db): Promise<string> {
  const key = "session-secret";
  const made = randomBytes(32).toString("base64");
  await db
    .insertInto("setting")
    .values({ key, value: made })
    .onConflict((c) => c.column("key").doNothing())
    .execute();
  return (await db.selectFrom("setting").select("value").where("key", "=", key).executeTakeFirstOrThrow()).value;
}
