import { effect, inject, Injectable, InjectionToken, untracked } from "@angular/core";
import { sealedText, writeSeal, type Me } from "@iron/contract";
import { firstValueFrom } from "rxjs";
import { Api } from "./api";
import { Door } from "./door";
import { keptBlobs, type KeptBlobs } from "./kept-blobs";

/** The key of a session: its private half never leaves this browser, and can be read by no page. */
export interface HeldKey {
  readonly person: string;
  /** Thumbprint of the public half, as the server knows it. */
  readonly id: string;
  readonly key: CryptoKey;
}

/** Where the key outlives the page. */
export const SEAL_KEEP = new InjectionToken<KeptBlobs<HeldKey>>("where the key is kept", {
  providedIn: "root",
  factory: () => keptBlobs<HeldKey>("iron-patience-seals", "seals", (held) => held.person),
});

/** What is sealed: as it is sent, and by whom it was made. */
export interface Sealable {
  readonly by: string;
  readonly address: string;
  readonly body: string | Blob;
}

const KIND = { name: "ECDSA", namedCurve: "P-256" };

/**
 * Seals what waits with a key of the session that it is made in: then it is proven whose it is, whoever is signed in
 * when the server answers again. Whoever leaves takes the key along: nobody seals in their name.
 */
@Injectable({ providedIn: "root" })
export class Seals {
  private readonly api = inject(Api);
  private readonly door = inject(Door);
  private readonly store = inject(SEAL_KEEP);
  private held: HeldKey | null = null;
  /** Whose key is being fetched or made. */
  private taking: { readonly person: string; readonly done: Promise<void> } | null = null;

  constructor() {
    effect(() => {
      const me = this.door.me();
      untracked(() => this.follow(me));
    });
  }

  private follow(me: Me | null): void {
    // By HTTP, as on the loopback of an older browser, there are no keys.
    if (!me || typeof crypto === "undefined" || !("subtle" in crypto)) return;
    const person = me.door === "people" && !me.chooses ? me.person?.name : undefined;
    if (this.held && this.held.person !== person) this.held = null;
    if (person === undefined) {
      void this.forget();
      return;
    }
    if (this.held || this.taking?.person === person) return;
    const taking = { person, done: this.take(person, me.seals) };
    this.taking = taking;
    const over = (): void => {
      if (this.taking === taking) this.taking = null;
    };
    taking.done.then(over, over);
  }

  private async forget(): Promise<void> {
    this.taking = null;
    const kept = await this.store.all().catch(() => []);
    for (const { person } of kept) await this.store.remove(person).catch(() => undefined);
  }

  /** The one of this session is taken up again; else one is made. Without one what waits asks for its own person. */
  private async take(person: string, known: readonly string[]): Promise<void> {
    const kept = await this.store.all().catch(() => []);
    let held = kept.find((k) => k.person === person && known.includes(k.id)) ?? null;
    if (!held && !this.door.stale()) {
      const pair = await crypto.subtle.generateKey(KIND, false, ["sign"]);
      const spki = await crypto.subtle.exportKey("spki", pair.publicKey);
      const id = urlSafe(await crypto.subtle.digest("SHA-256", spki));
      const me = await firstValueFrom(this.api.call("keepSeal", { body: { key: base64(spki) } }));
      // A page that is opened without a server knows by it that the key is of this session.
      if (this.door.me()?.person?.name === person) this.door.take(me);
      held = { person, id, key: pair.privateKey };
      await this.store.put(held).catch(() => undefined);
    }
    if (this.door.me()?.person?.name === person) this.held = held;
  }

  /** A seal for what is made now; null at once where there can be none. */
  seal(made: Sealable): Promise<string | null> | null {
    const { held, taking } = this;
    if (held?.person === made.by) return this.by(held, made);
    if (taking?.person !== made.by) return null;
    const later = (): Promise<string | null> | null => (this.held ? this.by(this.held, made) : null);
    return taking.done.then(later, () => null);
  }

  private async by({ id, key }: HeldKey, { address, body }: Sealable): Promise<string> {
    const at = Date.now();
    const bytes = typeof body === "string" ? new TextEncoder().encode(body) : await body.arrayBuffer();
    const sealed = { method: "POST", address, at, body: urlSafe(await crypto.subtle.digest("SHA-256", bytes)) };
    const text = new TextEncoder().encode(sealedText(sealed));
    const signature = await crypto.subtle.sign({ name: "ECDSA", hash: "SHA-256" }, key, text);
    return writeSeal({ key: id, at, body: sealed.body, signature: urlSafe(signature) });
  }
}

const base64 = (bytes: ArrayBuffer): string => btoa(String.fromCharCode(...new Uint8Array(bytes)));
const urlSafe = (bytes: ArrayBuffer): string =>
  base64(bytes).replaceAll("+", "-").replaceAll("/", "_").replaceAll("=", "");
