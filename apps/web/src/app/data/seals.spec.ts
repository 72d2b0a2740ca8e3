import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { readSeal, sealedText, type Me } from "@iron/contract";
import { createHash, createPublicKey, verify, webcrypto } from "node:crypto";
import { answer, setUpBed } from "../../testing/place";
import { Door } from "./door";
import { SEAL_KEEP, Seals, type HeldKey } from "./seals";

const me = (over: Partial<Me> = {}): Me => ({
  ...{ door: "people", person: { id: 1, name: "Ilse", sign: "IB", role: "technician" }, chooses: false, names: [] },
  ...{ token: "t1", seals: [], quietMinutes: 10 },
  ...over,
});
const made = { by: "Ilse", address: "/api/jobs/3/acts", body: '{"words":"Späne"}' };
const until = async (what: () => boolean): Promise<void> => {
  for (let i = 0; i < 2000 && !what(); i += 1) await new Promise((r) => setTimeout(r));
};

describe("what waits is sealed by a key of the session it was made in", () => {
  let http: HttpTestingController;
  let kept: Map<string, HeldKey>;
  const begin = (): void => {
    const keep = {
      all: () => Promise.resolve([...kept.values()]),
      put: (k: HeldKey) => Promise.resolve(void kept.set(k.person, k)),
      remove: (person: string) => Promise.resolve(void kept.delete(person)),
    };
    http = setUpBed({ provide: SEAL_KEEP, useValue: keep });
  };
  beforeEach(() => {
    kept = new Map();
    Object.defineProperty(globalThis.crypto, "subtle", { value: webcrypto.subtle, configurable: true });
    begin();
  });
  afterEach(() => {
    Reflect.deleteProperty(globalThis.crypto, "subtle");
    http.verify();
  });
  /** Signs in, and lets the server know the key. */
  async function enter(): Promise<{ seals: Seals; spki: Buffer }> {
    const seals = TestBed.inject(Seals);
    TestBed.inject(Door).take(me());
    TestBed.tick();
    let asked = http.match("/api/me/seal");
    await until(() => (asked = [...asked, ...http.match("/api/me/seal")]).length > 0);
    expect(asked).toHaveLength(1);
    const spki = Buffer.from((asked[0].request.body as { key: string }).key, "base64");
    answer(asked[0], me({ seals: [createHash("sha256").update(spki).digest("base64url")] }));
    await until(() => kept.size > 0);
    return { seals, spki };
  }

  it("so that anybody who has its public half can tell: checked by Node’s own cryptography", async () => {
    const { seals, spki } = await enter();
    const seal = readSeal((await seals.seal(made)) ?? "");
    if (!seal) throw new Error("no seal");
    expect(seal.key).toBe(createHash("sha256").update(spki).digest("base64url"));
    expect(seal.body).toBe(createHash("sha256").update(made.body).digest("base64url"));
    const key = {
      key: createPublicKey({ key: spki, format: "der", type: "spki" }),
      dsaEncoding: "ieee-p1363" as const,
    };
    const text = (address: string): Buffer => Buffer.from(sealedText({ ...seal, method: "POST", address }));
    const signature = Buffer.from(seal.signature, "base64url");
    expect(verify("sha256", text(made.address), key, signature)).toBe(true);
    expect(verify("sha256", text("/api/jobs/4/acts"), key, signature)).toBe(false);
    // The private half can be read by no page.
    expect(kept.get("Ilse")?.key.extractable).toBe(false);
    // What is known of who is here is kept with it, for a page that is opened without a server.
    expect(localStorage.getItem("iron-patience.me")).toContain(seal.key);
  });

  it("outlives the page, and not its session; what another made it seals not", async () => {
    const { seals, spki } = await enter();
    expect(seals.seal({ ...made, by: "Rowan" })).toBeNull();
    const id = createHash("sha256").update(spki).digest("base64url");
    TestBed.resetTestingModule();
    begin();
    const next = TestBed.inject(Seals);
    TestBed.inject(Door).take(me({ seals: [id] }));
    TestBed.tick();
    expect(readSeal((await next.seal(made)) ?? "")?.key).toBe(id);
    TestBed.inject(Door).take(me({ person: null }));
    TestBed.tick();
    await until(() => kept.size === 0);
    expect([next.seal(made), kept.size]).toEqual([null, 0]);
  });

  it("where nobody signs in, and where the browser has no keys, nothing is sealed and nothing waits for it", () => {
    const seals = TestBed.inject(Seals);
    TestBed.inject(Door).take(me({ door: "open", person: null }));
    TestBed.tick();
    expect(seals.seal(made)).toBeNull();
    Reflect.deleteProperty(globalThis.crypto, "subtle");
    TestBed.inject(Door).take(me());
    TestBed.tick();
    expect(seals.seal(made)).toBeNull();
  });
});
