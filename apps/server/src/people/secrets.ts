import { createHash, randomBytes, randomInt, scrypt, timingSafeEqual } from "node:crypto";

/** 32 MB and some 80 ms a try on a shop’s PC (OWASP’s cheat sheet of password storage, from memory: N 2^15, r 8, p 3). */
const COST = { N: 2 ** 15, r: 8, p: 3 } as const;
const KEY_BYTES = 32;
const SALT_BYTES = 16;

interface Cost {
  readonly N: number;
  readonly r: number;
  readonly p: number;
}

function derive(secret: string, salt: Buffer, { N, r, p }: Cost): Promise<Buffer> {
  return new Promise((done, fail) => {
    const asked = { N, r, p, maxmem: 256 * N * r };
    scrypt(secret.normalize("NFKC"), salt, KEY_BYTES, asked, (error, key) => (error ? fail(error) : done(key)));
  });
}

/** A PIN or passphrase as it is kept: `scrypt:N:r:p:salt:key`. */
export async function keepSecret(secret: string, cost: Cost = COST): Promise<string> {
  const salt = randomBytes(SALT_BYTES);
  const key = await derive(secret, salt, cost);
  return ["scrypt", cost.N, cost.r, cost.p, salt.toString("base64"), key.toString("base64")].join(":");
}

/** Whether it is the one; takes as long where none is kept, so that nobody learns of whom there is one. */
export async function isSecret(secret: string, kept: string | null): Promise<boolean> {
  const [, N, r, p, salt, key] = (kept ?? "").split(":");
  if (!key) {
    await derive(secret, randomBytes(SALT_BYTES), COST);
    return false;
  }
  const cost = { N: Number(N), r: Number(r), p: Number(p) };
  return timingSafeEqual(await derive(secret, Buffer.from(salt, "base64"), cost), Buffer.from(key, "base64"));
}

/** A PIN to begin with. */
export const givenPin = (): string => String(randomInt(100_000_000, 1_000_000_000)).slice(1);

const LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789";
/** A code that is read off a console: no letters that are taken for digits. */
export const consoleCode = (): string => Array.from({ length: 10 }, () => LETTERS[randomInt(LETTERS.length)]).join("");

/** Whether a code from the console is the one, by a comparison that takes as long for every wrong one. */
export function isCode(said: string, code: string): boolean {
  const [a, b] = [said.trim().toUpperCase(), code].map((t) => createHash("sha256").update(t).digest());
  return timingSafeEqual(a, b);
}
