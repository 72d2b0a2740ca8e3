import type { OperationName } from "./addresses";

/** Says under which session something was made that waited: {@link Seal}. */
export const SEAL_HEADER = "x-made-under";

/** What may wait on a device until there is a server again, and is sealed while it waits. */
export const QUEUED = ["actOnJob", "visitPoint", "beginSound"] as const satisfies readonly OperationName[];
/** What else waits: photos. */
export const QUEUED_ELSEWHERE = ["/api/jobs/:id/photos", "/api/lube-points/:id/photos"] as const;

/**
 * A signature by a key that was made on a device when somebody signed in there, and never leaves it: it says that what
 * is sent was made in that session, as it stands and where it is sent to.
 */
export interface Seal {
  /** Thumbprint of the public key: SHA-256 of its SPKI, base64url. */
  readonly key: string;
  /** When it was made, ms since 1970 by the device’s clock. */
  readonly at: number;
  /** SHA-256 of the body’s bytes, base64url. */
  readonly body: string;
  /** ECDSA over P-256 with SHA-256 of {@link sealedText}, r and s one after the other (IEEE P1363), base64url. */
  readonly signature: string;
}

/**
 * What a seal signs.
 *
 * @param sent - method, address with what is asked for, instant and hash of what is sealed
 * @returns text to sign
 * @example
 * sealedText({ method: "POST", address: "/api/jobs/3/acts", at: 0, body: "abc" }) // "iron-patience seal 1\nPOST\n/api/jobs/3/acts\n0\nabc"
 */
export function sealedText(
  sent: { readonly method: string; readonly address: string } & Pick<Seal, "at" | "body">,
): string {
  return ["iron-patience seal 1", sent.method, sent.address, sent.at, sent.body].join("\n");
}

/**
 * @param seal - a seal
 * @returns it as a header
 * @example writeSeal({ key: "k", at: 5, body: "b", signature: "s" }) // "k.5.b.s"
 */
export function writeSeal({ key, at, body, signature }: Seal): string {
  return [key, at, body, signature].join(".");
}

const SEAL = /^([\w-]{43})\.(\d{1,15})\.([\w-]{43})\.([\w-]{86})$/;

/**
 * @param header - what came in {@link SEAL_HEADER}
 * @returns the seal; null where it is none
 * @example readSeal("anything") // null
 */
export function readSeal(header: string): Seal | null {
  const [, key, at, body, signature] = SEAL.exec(header) ?? [];
  return key === undefined ? null : { key, at: Number(at), body, signature };
}
