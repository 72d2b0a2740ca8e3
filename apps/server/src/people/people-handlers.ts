import type { Me } from "@iron/contract";
import type { Request } from "express";
import type { Handlers } from "../http/mount";
import { conflict, problem } from "../http/problem-error";
import { instant, type Clock } from "../shop/clock";
import type { Db } from "../store/database";
import { addressOf, tokenOf } from "./doorway";
import { People, personOf, type Doer, type PersonRow } from "./people";
import { isCode } from "./secrets";
import type { Seals } from "./seals";
import { Sessions } from "./sessions";

interface Services {
  readonly db: Db;
  readonly clock: Clock;
  readonly people: People;
  readonly seals: Seals;
  /** On the console, where nobody keeps the server yet. */
  readonly setUpCode: string | null;
}

/** A device as its browser names itself, short. */
const deviceOf = (request: Request): string => (request.get("user-agent") ?? "unknown").slice(0, 200);

/** Begins a session of its own: what one was before is no way in. */
async function enter(request: Request, row: PersonRow): Promise<void> {
  await new Promise<void>((done, fail) => {
    request.session.regenerate((error: unknown) => (error ? fail(error as Error) : done()));
  });
  Object.assign(request.session, { personId: row.id, address: addressOf(request), device: deviceOf(request) });
  request.person = row;
  tokenOf(request);
  await new Promise<void>((done, fail) => {
    request.session.save((error: unknown) => (error ? fail(error as Error) : done()));
  });
}

async function leave(request: Request): Promise<void> {
  delete request.person;
  await new Promise<void>((done, fail) => {
    request.session.destroy((error: unknown) => (error ? fail(error as Error) : done()));
  });
}

/** Who is signed in, and who could be. */
async function meOf({ people, seals }: Services, request: Request): Promise<Me> {
  const door = request.door ?? (await people.door());
  const rows = door === "people" ? await people.active() : [];
  const { person } = request;
  return {
    door,
    person: person ? { id: person.id, name: person.name, sign: person.sign, role: person.role } : null,
    chooses: person?.given === 1,
    names: rows.filter((r) => r.secret).map(({ id, name, sign }) => ({ id, name, sign })),
    token: person ? tokenOf(request) : null,
    seals: person && request.session.rowId !== undefined ? await seals.of(request.session.rowId) : [],
    quietMinutes: await people.quietMinutes(),
  };
}

const doerOf = (request: Request, who: string): Doer => ({ by: who, address: addressOf(request) });

type Names =
  | "me"
  | "setUpKeeper"
  | "signIn"
  | "signOut"
  | "sayAgain"
  | "changeOwnSecret"
  | "keepSeal"
  | "people"
  | "addPerson"
  | "updatePerson"
  | "giveSecret"
  | "sessions"
  | "endSession"
  | "updateDoor";

export function peopleHandlersFor(s: Services): Pick<Handlers, Names> {
  return { ...ownHandlers(s), ...keeperHandlers(s) };
}

/** What everybody does at the door for themselves. */
function ownHandlers(s: Services) {
  const { people, clock } = s;
  /** Lets in who was proven. */
  const letIn = async (request: Request, row: PersonRow, what: string): Promise<Me> => {
    await enter(request, row);
    await people.seen(row.id);
    await people.note({ id: row.id, what }, doerOf(request, row.name));
    return meOf(s, request);
  };
  return {
    me: ({ request }) => meOf(s, request),
    setUpKeeper: async ({ request, body: { code, secret, ...edit } }) => {
      if (request.door !== "set-up") throw conflict("This server is set up already: sign in.");
      if (s.setUpCode === null || !isCode(code, s.setUpCode))
        throw problem(401, { title: "Not let in", detail: "That is not the code on the server’s console." });
      const { row } = await people.add({ ...edit, role: "keeper" }, secret, doerOf(request, edit.name));
      request.door = await people.door();
      return letIn(request, row, "set the server up");
    },
    signIn: async ({ request, body }) => {
      if (request.door !== "people") throw conflict("Nobody has to sign in here.");
      const row = await people.prove(body.personId, body.secret, addressOf(request));
      return letIn(request, row, "signed in");
    },
    signOut: async ({ request }) => {
      const { person } = request;
      if (person) {
        await people.note({ id: person.id, what: "signed out" }, doerOf(request, person.name));
        await leave(request);
      }
      return meOf(s, request);
    },
    sayAgain: async ({ request, body }) => {
      if (request.person) {
        const { name } = await people.prove(body.personId ?? request.person.id, body.secret, addressOf(request));
        request.session.again = { name, at: instant(clock) };
      }
      return meOf(s, request);
    },
    keepSeal: async ({ request, body }) => {
      const { rowId } = request.session ?? {};
      if (!request.person || rowId === undefined) throw conflict("Nobody is signed in.");
      await s.seals.keep(rowId, body.key);
      return meOf(s, request);
    },
    changeOwnSecret: async ({ request, body }) => {
      const { person } = request;
      if (!person) throw conflict("Nobody is signed in.");
      await people.prove(person.id, body.secret, addressOf(request));
      if (body.wanted === body.secret)
        throw problem(422, {
          ...{ title: "Not valid", detail: "That is the one you have: choose another." },
          errors: [{ path: "wanted", message: "That is the one you have: choose another." }],
        });
      await people.choose(person, body.wanted, doerOf(request, person.name));
      await enter(request, { ...person, given: 0 });
      return meOf(s, request);
    },
  } satisfies Partial<Handlers>;
}

/** What the keeper does for the others. */
function keeperHandlers({ db, clock, people }: Services) {
  const sessions = new Sessions(db, clock);
  return {
    people: () => people.all(),
    addPerson: async ({ request, who, body: { secret, ...edit } }) => {
      const { row, given } = await people.add(edit, secret ?? null, doerOf(request, who));
      return { ...personOf(row, null), given };
    },
    updatePerson: ({ request, who, params, body }) => people.update(params.id, body, doerOf(request, who)),
    giveSecret: async ({ request, who, params }) => ({ given: await people.give(params.id, doerOf(request, who)) }),
    sessions: ({ request }) => sessions.list(request.session?.rowId ?? null),
    endSession: async ({ request, who, params }) => {
      const personId = await sessions.end(params.id);
      await people.note({ id: personId, what: "session ended" }, doerOf(request, who));
      return sessions.list(request.session?.rowId ?? null);
    },
    updateDoor: async ({ request, who, body }) => {
      await people.setQuiet(body.quietMinutes);
      await people.note({ id: null, what: `quiet time ${body.quietMinutes} min` }, doerOf(request, who));
      return people.all();
    },
  } satisfies Partial<Handlers>;
}
