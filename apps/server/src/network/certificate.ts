import { createHash, X509Certificate } from "node:crypto";
import { chmodSync, existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { isIP } from "node:net";
import { hostname, networkInterfaces } from "node:os";
import { join } from "node:path";
import { generate } from "selfsigned";
import { StartError } from "../store/start-error";

/** What a TLS server needs, and what its tablets have to trust. */
export interface Certificate {
  readonly key: string;
  readonly cert: string;
  /** The shop’s own authority, PEM; null where the certificate is one that was brought along. */
  readonly authority: string | null;
}

const FOLDER = "tls";
const DAY_MS = 86_400_000;
/** A certificate of an authority that somebody added lives 825 days at most on some tablets (from memory). */
const SERVER_DAYS = 800;
const AUTHORITY_DAYS = 3650;
/** A new one is made while the old one still holds. */
const RENEW_DAYS = 30;

/** Names and addresses this machine is reached by. */
export function namesHere(more: readonly string[]): readonly string[] {
  const addresses = Object.values(networkInterfaces())
    .flat()
    .flatMap((i) => (i && !i.address.startsWith("fe80") ? [i.address] : []));
  return [...new Set(["localhost", hostname().toLowerCase(), ...addresses, ...more.map((n) => n.toLowerCase())])];
}

/** SHA-256 of a certificate, in pairs, to be compared by eye. */
export function fingerprintOf(pem: string): string {
  const hex = createHash("sha256").update(new X509Certificate(pem).raw).digest("hex").toUpperCase();
  return (hex.match(/../g) ?? []).join(" ");
}

/** Reads a certificate that was brought along. @throws StartError in words */
export function ownCertificate(certFile: string, keyFile: string): Certificate {
  const read = (what: string, file: string): string => {
    try {
      return readFileSync(file, "utf8");
    } catch (error) {
      throw new StartError(`The ${what} ${file} cannot be read.`, { cause: error });
    }
  };
  return { cert: read("certificate", certFile), key: read("key", keyFile), authority: null };
}

/**
 * The certificate that is made for the shop: signed by an authority of its own, which tablets trust once. It is made anew
 * when the machine has another name or address, or shortly before it ends; the authority stays.
 */
export async function madeCertificate(data: string, more: readonly string[], now: Date): Promise<Certificate> {
  const folder = join(data, FOLDER);
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const kept = (name: string): string | null => {
    const path = join(folder, name);
    return existsSync(path) ? readFileSync(path, "utf8") : null;
  };
  const keep = (name: string, text: string): void => {
    const path = join(folder, name);
    writeFileSync(path, text, { mode: 0o600 });
    chmodSync(path, 0o600);
  };
  let [authority, authorityKey] = [kept("authority.crt"), kept("authority.key")];
  if (!authority || !authorityKey || endsSoon(authority, now)) {
    const made = await makeAuthority(now);
    [authority, authorityKey] = [made.cert, made.private];
    keep("authority.crt", authority);
    keep("authority.key", authorityKey);
  }
  const names = namesHere(more);
  const [cert, key] = [kept("server.crt"), kept("server.key")];
  if (cert && key && signedBy(cert, authority) && !endsSoon(cert, now) && names.every((n) => isFor(cert, n)))
    return { cert, key, authority };
  const made = await makeServer({ names, now, ca: { cert: authority, key: authorityKey } });
  keep("server.crt", made.cert);
  keep("server.key", made.private);
  return { cert: made.cert, key: made.private, authority };
}

const endsSoon = (pem: string, now: Date): boolean =>
  Date.parse(new X509Certificate(pem).validTo) - now.getTime() < RENEW_DAYS * DAY_MS;

const signedBy = (pem: string, authority: string): boolean =>
  new X509Certificate(pem).verify(new X509Certificate(authority).publicKey);

function isFor(pem: string, name: string): boolean {
  const certificate = new X509Certificate(pem);
  return (isIP(name) ? certificate.checkIP(name) : certificate.checkHost(name)) !== undefined;
}

const COMMON = { keyType: "ec", curve: "P-256", algorithm: "sha256" } as const;
/** A clock that is a little behind takes it all the same. */
const from = (now: Date): Date => new Date(now.getTime() - DAY_MS);
const until = (now: Date, days: number): Date => new Date(now.getTime() + days * DAY_MS);

function makeAuthority(now: Date): ReturnType<typeof generate> {
  return generate([{ name: "commonName", value: `Iron Patience on ${hostname()} ${now.toISOString().slice(0, 10)}` }], {
    ...COMMON,
    notBeforeDate: from(now),
    notAfterDate: until(now, AUTHORITY_DAYS),
    extensions: [
      { name: "basicConstraints", cA: true, pathLenConstraint: 0, critical: true },
      { name: "keyUsage", keyCertSign: true, cRLSign: true, critical: true },
    ],
  });
}

function makeServer({
  names,
  now,
  ca,
}: {
  readonly names: readonly string[];
  readonly now: Date;
  readonly ca: { readonly cert: string; readonly key: string };
}): ReturnType<typeof generate> {
  return generate([{ name: "commonName", value: hostname() }], {
    ...COMMON,
    ca,
    notBeforeDate: from(now),
    notAfterDate: until(now, SERVER_DAYS),
    extensions: [
      { name: "basicConstraints", cA: false, critical: true },
      { name: "keyUsage", digitalSignature: true, critical: true },
      { name: "extKeyUsage", serverAuth: true },
      {
        name: "subjectAltName",
        altNames: names.map((n) => (isIP(n) ? { type: 7 as const, ip: n } : { type: 2 as const, value: n })),
      },
    ],
  });
}
