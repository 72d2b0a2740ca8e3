import {
  ACCESS,
  ACCESS_ELSEWHERE,
  ADDRESSES,
  reaches,
  ROLES,
  STOPS,
  type Access,
  type Me,
  type Role,
} from "@iron/contract";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import * as stats from "simple-statistics";
import { Served, type Answer } from "./served";

const STREAMS = 200;
const FLOOD_CLIENTS = 50;
const READINGS = 150;
/** A reading may take so much longer while a flood of sign-ins comes in. */
const MOST_SLOWER = 1.2;
/** Memory may be so much more at the end than once all streams stood, MB: what a collector has not taken yet. */
const MOST_GROWN_MB = 60;

type Headers = Readonly<Record<string, string>>;
interface Somebody {
  readonly name: string;
  readonly role: Role;
  readonly secret: string;
}

const PEOPLE: readonly Somebody[] = [
  { name: "Knott", role: "keeper", secret: "three dry ways" },
  { name: "Pipit", role: "planner", secret: "714902" },
  { name: "Teal", role: "technician", secret: "714903" },
  { name: "Lark", role: "look", secret: "714904" },
];

/** A shop in which everybody signs in. */
class Peopled {
  private constructor(
    private readonly folder: string,
    readonly server: Served,
    private readonly keeper: { headers: Headers | null },
  ) {}

  static async start(): Promise<Peopled> {
    const folder = mkdtempSync(join(tmpdir(), "iron-soak-people-"));
    const server = await Served.start(folder, "--demo", "--simulation-speed", "50");
    const shop = new Peopled(folder, server, { headers: null });
    for (const [i, { name, role, secret }] of PEOPLE.entries()) {
      const as = i > 1 ? await shop.signIn("keeper") : { "x-working-as": name };
      const sign = name.slice(0, 2);
      const answer = await shop.send("POST", { path: "/api/people", as, body: { name, sign, role, secret } });
      if (answer.status !== 201) throw new Error(`${name} could not be added: ${answer.text}`);
    }
    return shop;
  }

  send(
    method: string,
    { path, as, body = {} }: { readonly path: string; readonly as: Headers; readonly body?: object },
  ): Promise<Answer> {
    if (method === "GET") return this.server.ask(method, { path, headers: as });
    const headers = { "content-type": "application/json", ...as };
    return this.server.ask(method, { path, headers, body: JSON.stringify(body) });
  }

  /** What a page of somebody’s sends with every request. */
  async signIn(role: Role): Promise<Headers> {
    if (role === "keeper" && this.keeper.headers) return this.keeper.headers;
    const { name, secret } = PEOPLE.find((p) => p.role === role) as Somebody;
    const me = JSON.parse((await this.server.ask("GET", { path: "/api/me" })).text) as Me;
    const personId = me.names.find((n) => n.name === name)?.id;
    const body = { personId, secret };
    const answer = await this.send("POST", { path: "/api/sign-in", as: { "x-working-as": "" }, body });
    const { token } = JSON.parse(answer.text) as Me;
    const headers = { cookie: answer.cookie, "x-token": token ?? "", "x-working-as": name };
    if (role === "keeper") this.keeper.headers = headers;
    return headers;
  }

  async end(): Promise<void> {
    await this.server.end();
    rmSync(this.folder, { recursive: true });
  }
}

/** Every operation, of JSON or not; streams and what signs one out are tried by themselves. */
const EVERYTHING: readonly (readonly [string, string, string, Access])[] = [
  ...Object.entries(ACCESS).map(([name, access]): readonly [string, string, string, Access] => {
    const [method, path] = ADDRESSES[name as keyof typeof ADDRESSES];
    return [name, method.toUpperCase(), path, access];
  }),
  ...ACCESS_ELSEWHERE.map(([method, path, access]) => [path, method.toUpperCase(), path, access] as const),
].filter(([name, , path]) => !["signOut", "signIn", "setUpKeeper"].includes(name) && !/stream$|changes$/.test(path));

/** Where nothing stands: who may is told so, and nothing is done. */
const nowhere = (path: string): string => path.replace(/:(secret|cause)/, "none").replace(/:\w+/g, "99999999");
const titleOf = ({ text }: Answer): string => {
  try {
    return (JSON.parse(text) as { title?: string }).title ?? "";
  } catch {
    return "";
  }
};

/** Every operation by every role, and by sessions that are none: forged, signed by another, ended, without their token. */
async function everyDoor(): Promise<boolean> {
  const shop = await Peopled.start();
  const wrong: string[] = [];
  let tried = 0;
  const expectOf = async (
    who: string,
    as: Headers,
    refused: (access: Access, name: string, method: string) => string,
  ) => {
    for (const [name, method, path, access] of EVERYTHING) {
      tried += 1;
      const answer = await shop.send(method, { path: nowhere(path), as });
      const title = [401, 403].includes(answer.status) ? titleOf(answer) : "";
      const wanted = refused(access, name, method);
      if (answer.status >= 500 || title !== wanted)
        wrong.push(`${who}: ${method} ${name} ${answer.status} “${title}”, not “${wanted}”`);
    }
  };
  for (const role of ROLES)
    await expectOf(role, await shop.signIn(role), (access) => (reaches(role, access) ? "" : "Not yours to do"));
  const nobody = (access: Access): string => (access === "anyone" ? "" : "Sign in");
  await expectOf("nobody", { "x-working-as": "" }, nobody);
  const good = await shop.signIn("technician");
  const forged = good["cookie"].replace(/.(?=\.)/, (c) => (c === "A" ? "B" : "A"));
  await expectOf("a forged session", { ...good, cookie: forged }, nobody);
  await expectOf(
    "a session whose signature is another’s",
    { ...good, cookie: `${good["cookie"].slice(0, -4)}AAAA` },
    nobody,
  );
  // Stolen without its page: it reads, and changes nothing.
  const stolen = { cookie: good["cookie"], "x-working-as": "Teal" };
  await expectOf("a stolen cookie", stolen, (access, name, method) => {
    if (!reaches("technician", access)) return "Not yours to do";
    return method === "GET" || (STOPS as readonly string[]).includes(name) ? "" : "Forbidden";
  });
  await shop.send("POST", { path: "/api/sign-out", as: good });
  await expectOf("a session that has ended, replayed", good, nobody);
  await shop.end();
  console.log(`${tried} requests, every operation by every role and by sessions that are none: ${wrong.length} wrong`);
  for (const w of wrong.slice(0, 20)) console.log(w);
  return wrong.length === 0;
}

/** Two hundred streams for minutes, while changes are told to all of them: memory stays as it is. */
async function manyStreams(minutes: number): Promise<boolean> {
  const shop = await Peopled.start();
  const [looks, works] = [await shop.signIn("look"), await shop.signIn("technician")];
  let heard = 0;
  const closes = await Promise.all(
    Array.from({ length: STREAMS }, () => shop.server.stream("/api/changes", looks, () => (heard += 1))),
  );
  const change = (): Promise<Answer> => {
    const body = { kind: "note", text: "heard", at: new Date().toISOString() };
    return shop.send("POST", { path: "/api/axes/1/events", as: works, body });
  };
  const ends = performance.now() + minutes * 60_000;
  const settled = performance.now() + Math.min(30_000, minutes * 15_000);
  let [changes, refused, first, most] = [0, 0, 0, 0];
  while (performance.now() < ends) {
    if ((await change()).status === 201) changes += 1;
    else refused += 1;
    await new Promise((go) => setTimeout(go, 200));
    if (performance.now() < settled) continue;
    first ||= shop.server.memory();
    most = Math.max(most, shop.server.memory());
  }
  await new Promise((go) => setTimeout(go, 1000));
  const last = shop.server.memory();
  for (const close of closes) close();
  await shop.end();
  const told = heard / Math.max(1, changes * STREAMS);
  console.log(
    `${STREAMS} streams for ${minutes} min, ${changes} changes (${refused} refused): ${(100 * told).toFixed(1)} % heard; memory ${first.toFixed(0)} MB once they stood, ${last.toFixed(0)} at the end, ${most.toFixed(0)} at most`,
  );
  return refused === 0 && told > 0.999 && last < first + MOST_GROWN_MB;
}

/** A flood of sign-ins with wrong PINs: how much longer a reading takes, half by half in turn. */
async function flood(): Promise<boolean> {
  const shop = await Peopled.start();
  const works = await shop.signIn("technician");
  const me = JSON.parse((await shop.server.ask("GET", { path: "/api/me" })).text) as Me;
  const personId = me.names.find((n) => n.name === "Pipit")?.id;
  let [floods, tries] = [false, 0];
  let over = false;
  const floodOn = async (): Promise<void> => {
    while (!over) {
      if (!floods) {
        await new Promise((go) => setTimeout(go, 5));
        continue;
      }
      const body = { personId, secret: `000${tries % 1000}` };
      await shop.send("POST", { path: "/api/sign-in", as: { "x-working-as": "" }, body });
      tries += 1;
    }
  };
  const flooding = Array.from({ length: FLOOD_CLIENTS }, floodOn);
  /** What is kept and noted as a reading is: one line, one record, one answer. */
  const read = async (): Promise<number> => {
    const body = { kind: "note", text: "reading", at: new Date().toISOString() };
    const from = performance.now();
    const { status } = await shop.send("POST", { path: "/api/axes/2/events", as: works, body });
    if (status !== 201) throw new Error(`A reading was refused: ${status}`);
    return performance.now() - from;
  };
  const [calm, flooded]: [number[], number[]] = [[], []];
  for (let i = 0; i < READINGS; i += 1) {
    floods = i % 10 >= 5;
    if (i % 5 === 0) await new Promise((go) => setTimeout(go, 60));
    (floods ? flooded : calm).push(await read());
  }
  over = true;
  await Promise.all(flooding);
  await shop.end();
  const ratio = stats.median(flooded) / stats.median(calm);
  console.log(
    `a flood of ${tries} sign-ins by ${FLOOD_CLIENTS} clients: a reading takes ${stats.median(calm).toFixed(1)} ms without and ${stats.median(flooded).toFixed(1)} with it, ratio ${ratio.toFixed(2)} (${MOST_SLOWER} at most)`,
  );
  return ratio <= MOST_SLOWER;
}

/** The parts of the soak in which people sign in. */
export async function soakPeople(minutes: number): Promise<boolean> {
  const good = [await everyDoor(), await flood(), await manyStreams(minutes)];
  return good.every(Boolean);
}
