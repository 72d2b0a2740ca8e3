import { sealedText, writeSeal, type Me } from "@iron/contract";
import { createHash, webcrypto } from "node:crypto";
import type { SignedIn } from "./test-people";

const { subtle } = webcrypto;
const url = (bytes: ArrayBuffer): string => Buffer.from(bytes).toString("base64url");
const hashOf = (bytes: Buffer | string): string => createHash("sha256").update(bytes).digest("base64url");

export interface Made {
  readonly method?: string;
  readonly address: string;
  readonly body: Buffer | string;
  /** How long ago it was made, ms. */
  readonly ago?: number;
}

/** Seals as a browser does, by the same interface: a key of the device that somebody is signed in on. */
export async function sealing({ api }: SignedIn): Promise<{ me: Me; seal: (made: Made) => Promise<string> }> {
  const pair = await subtle.generateKey({ name: "ECDSA", namedCurve: "P-256" }, false, ["sign", "verify"]);
  const spki = Buffer.from(await subtle.exportKey("spki", pair.publicKey));
  const kept = await api.post("/api/me/seal").send({ key: spki.toString("base64") });
  const key = hashOf(spki);
  const seal = async ({ method = "POST", address, body, ago = 240_000 }: Made): Promise<string> => {
    const sealed = { method, address, at: Date.now() - ago, body: hashOf(body) };
    const text = Buffer.from(sealedText(sealed));
    const signature = await subtle.sign({ name: "ECDSA", hash: "SHA-256" }, pair.privateKey, text);
    return writeSeal({ key, at: sealed.at, body: sealed.body, signature: url(signature) });
  };
  return { me: kept.body as Me, seal };
}
