import { ADDRESSES, QUEUED, QUEUED_ELSEWHERE, readSeal, SEAL_HEADER, sealedText } from "@iron/contract";
import type { Request } from "express";
import { createHash, createPublicKey, verify } from "node:crypto";
import { problem } from "../http/problem-error";
import { instant, type Clock } from "../shop/clock";
import type { Db } from "../store/database";
import type { People, PersonRow } from "./people";
import { LONGEST_MS } from "./session-store";

/** A device’s clock may be so far off, ms; further off, and who made it is asked again. */
const OFF_MS = 300_000;

/** What was made in a session, and waited. */
export interface Sealed {
  readonly person: PersonRow;
  /** When it was made, by the device’s clock. */
  readonly at: string;
  /** SHA-256 of the body that was sealed, base64url. */
  readonly body: string;
  /** Who is signed in where it is sent from. */
  readonly carrier: PersonRow;
}

const sealable = [...QUEUED.map((name) => ADDRESSES[name][1]), ...QUEUED_ELSEWHERE].map(
  (path) => new RegExp(`^${path.replace(":id", "\\d+")}$`),
);

export const hashOf = (bytes: Buffer | string): string => createHash("sha256").update(bytes).digest("base64url");

/** Keys that devices seal with what waits while no server answers, each of one session. */
export class Seals {
  constructor(
    private readonly db: Db,
    private readonly clock: Clock,
    private readonly people: People,
  ) {}

  /** Keeps the public half of a key. @throws ProblemError 422 where it is none */
  async keep(sessionId: number, key: string): Promise<void> {
    const der = Buffer.from(key, "base64");
    if (!isOfOurKind(der))
      throw problem(422, {
        ...{ title: "Not valid", detail: "The key is no public key of ECDSA on P-256." },
        errors: [{ path: "key", message: "The key is no public key of ECDSA on P-256." }],
      });
    await this.db
      .insertInto("session_seal")
      .values({ id: hashOf(der), session_id: sessionId, key, at: instant(this.clock) })
      .onConflict((c) => c.column("id").doNothing())
      .execute();
  }

  async of(sessionId: number): Promise<string[]> {
    const rows = await this.db
      .selectFrom("session_seal")
      .select("id")
      .where("session_id", "=", sessionId)
      .orderBy("at", "desc")
      .execute();
    return rows.map((row) => row.id);
  }

  /**
   * By whom a request was made that waited: of a session that stood then, as it was made, to where it was meant. Null
   * where that is not proven: then it waits for whoever made it.
   */
  async read(request: Request, carrier: PersonRow): Promise<Sealed | null> {
    const seal = readSeal(request.get(SEAL_HEADER) ?? "");
    if (!seal || !sealable.some((path) => path.test(request.path))) return null;
    const row = await this.db
      .selectFrom("session_seal")
      .innerJoin("session", "session.id", "session_seal.session_id")
      .select(["session.person_id", "session.since", "session.ended_at", "session_seal.key", "session_seal.at"])
      .where("session_seal.id", "=", seal.key)
      .executeTakeFirst();
    if (!row) return null;
    const till = Math.min(Date.parse(row.since) + LONGEST_MS, row.ended_at ? Date.parse(row.ended_at) : Infinity);
    const now = this.clock.now().getTime();
    if (seal.at < Date.parse(row.at) - OFF_MS || seal.at > till || seal.at > now + OFF_MS) return null;
    const text = sealedText({ method: request.method, address: request.originalUrl, at: seal.at, body: seal.body });
    const key = { key: createPublicKey(spki(row.key)), dsaEncoding: "ieee-p1363" as const };
    if (!verify("sha256", Buffer.from(text), key, Buffer.from(seal.signature, "base64url"))) return null;
    const person = await this.people.find(row.person_id);
    return person && { person, at: new Date(seal.at).toISOString(), body: seal.body, carrier };
  }

  /** A PIN was asked for what this signs: from then on its seal alone does not prove it. */
  async asked(sealed: Sealed): Promise<void> {
    await this.db
      .insertInto("asked_again")
      .values({ body_hash: sealed.body, at: instant(this.clock) })
      .onConflict((c) => c.column("body_hash").doNothing())
      .execute();
  }

  async wasAsked(sealed: Sealed): Promise<boolean> {
    const row = this.db.selectFrom("asked_again").select("at").where("body_hash", "=", sealed.body);
    return (await row.executeTakeFirst()) !== undefined;
  }
}

const spki = (base64: string) => ({ key: Buffer.from(base64, "base64"), format: "der", type: "spki" }) as const;

function isOfOurKind(der: Buffer): boolean {
  try {
    const { asymmetricKeyType, asymmetricKeyDetails } = createPublicKey(spki(der.toString("base64")));
    return asymmetricKeyType === "ec" && asymmetricKeyDetails?.namedCurve === "prime256v1";
  } catch {
    return false;
  }
}
