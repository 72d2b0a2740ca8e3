import {
  ACCESS,
  ACCESS_ELSEWHERE,
  ADDRESSES,
  reaches,
  ROLES,
  type DeviceSnapshot,
  type Machine,
  type MachineWithAxes,
  type Me,
  type Person,
  type Role,
} from "@iron/contract";
import supertest from "supertest";
import { NAMES, peopleApp, secretOf, signedIn } from "../testing/test-people";
import { testApp, type TestApp } from "../testing/test-app";
import { waitAfter } from "./lockout";
import { isSecret, keepSecret } from "./secrets";

/** Everything the server answers under /api, and who it is open to. */
const EVERYTHING = [
  ...Object.entries(ACCESS).map(([name, access]) => {
    const [method, path] = ADDRESSES[name as keyof typeof ADDRESSES];
    return [name, method, path, access] as const;
  }),
  ...ACCESS_ELSEWHERE.map(([method, path, access]) => [path, method, path, access] as const),
];
/** Nothing is there: who is let through is told so, who is not is told that. */
const nowhere = (path: string): string => path.replaceAll(/:\w+/g, "999999");

describe("who may do what", () => {
  let t: TestApp;
  beforeAll(async () => {
    t = await peopleApp();
  });
  afterAll(() => t.close());

  it("nobody who has not signed in reaches anything but the door", async () => {
    const open: string[] = [];
    for (const [name, method, path] of EVERYTHING) {
      const { status } = await supertest(t.app.express)[method](nowhere(path)).set("x-working-as", "Teal").send({});
      if (status !== 401) open.push(`${name} ${status}`);
    }
    // A sign-in without a PIN is refused for that; the set-up is over.
    // Of an axis that nobody has, a stop says that there is none; nor is there a calendar by a wrong address.
    expect(open.sort()).toEqual([
      "/api/calendars/:secret 404",
      ...["health 200", "me 200", "setUpKeeper 422", "signIn 422", "signOut 200"],
      ...["stopCircle 404", "stopDevice 404"],
    ]);
  });

  it("an address that stands in no table is shut", async () => {
    for (const path of ["/api/nothing", "/API/nothing", "/api"])
      expect((await supertest(t.app.express).get(path)).status).toBe(401);
    const { api } = await signedIn(t, "look");
    await api.get("/api/nothing").expect(404);
  });

  it.each(ROLES)("%s: every operation that is refused or not, by the one table", async (role) => {
    const { api } = await signedIn(t, role);
    const wrong: string[] = [];
    for (const [name, method, path, access] of EVERYTHING) {
      if (name === "signOut" || path.endsWith("/stream") || path === "/api/changes") continue;
      const answer = await api[method](nowhere(path)).send({});
      const refused = answer.status === 403 && (answer.body as { title?: string }).title === "Not yours to do";
      if (refused === reaches(role, access)) wrong.push(`${name} ${answer.status}`);
    }
    expect(wrong).toEqual([]);
  });

  it("what a role may not do leaves nothing", async () => {
    const { api } = await signedIn(t, "technician");
    const machine = { nickname: "Wren", bay: "1", kind: "lathe", hoursPerWeek: 40, note: "", letters: ["X"] };
    const refused = await api.post("/api/machines").send(machine).expect(403);
    expect(refused.body.detail).toBe("That is for a planner; Teal is here to work as technician.");
    expect((await api.get("/api/floor").expect(200)).body.machines).toEqual([]);
    const planner = await signedIn(t, "planner");
    await planner.api.post("/api/machines").send(machine).expect(201);
  });
});

describe("a stop", () => {
  it("is done for whoever sees an axis move, and tells nothing of it", async () => {
    // As slow as life: it moves for half a minute, unless it is stopped.
    const t = await peopleApp({ simulationSpeed: 1 });
    const planner = await signedIn(t, "planner");
    const machine = { nickname: "Wren", bay: "1", kind: "lathe", hoursPerWeek: 40, note: "", letters: ["X"] };
    const made = (await planner.api.post("/api/machines").send(machine).expect(201)).body as Machine;
    const detail = (await planner.api.get(`/api/machines/${made.id}`).expect(200)).body as MachineWithAxes;
    const { id } = detail.axes[0];
    const moves = async () => ((await planner.api.get(`/api/axes/${id}/device`)).body as DeviceSnapshot).moving;
    const bare = supertest.agent(t.app.express).set("x-working-as", "");
    const others = await signedIn(t, "look");
    // Nobody; a page of an earlier session; under a name that is not theirs; who may look only.
    const askers = [
      bare,
      supertest.agent(t.app.express).set({ cookie: planner.cookie, "x-working-as": "Pipit" }),
      supertest.agent(t.app.express).set({ cookie: others.cookie, "x-working-as": "Pipit" }),
      others.api,
    ];
    for (const asker of askers) {
      await planner.api.post(`/api/axes/${id}/device/jog`).send({ byMm: 5, feedMmMin: 10 }).expect(200);
      expect(await moves()).toBe(true);
      expect((await asker.post(`/api/axes/${id}/device/stop`).send({}).expect(200)).body).toEqual({ stopped: true });
      expect(await moves()).toBe(false);
    }
    const page = { "x-working-as": "", origin: "https://elsewhere.example" };
    await supertest(t.app.express).post(`/api/axes/${id}/device/stop`).set(page).send({}).expect(403);
    await t.close();
  });
});

describe("signing in", () => {
  let t: TestApp;
  beforeEach(async () => {
    t = await peopleApp();
  });
  afterEach(() => t.close());
  const bare = () => supertest(t.app.express);
  const tryPin = (personId: number | undefined, secret: string) =>
    bare().post("/api/sign-in").set("x-working-as", "").send({ personId, secret });
  const idOf = async (role: Role): Promise<number | undefined> =>
    ((await bare().get("/api/me")).body as Me).names.find((n) => n.name === NAMES[role])?.id;

  it("the cookie is for the server alone; the file of the shop holds neither it nor the PIN", async () => {
    const answer = await tryPin(await idOf("technician"), secretOf("technician")).expect(200);
    const cookie = String(answer.headers["set-cookie"]);
    expect(cookie).toMatch(/HttpOnly/i);
    expect(cookie).toMatch(/SameSite=Strict/i);
    const sid = decodeURIComponent(cookie).split(/[=.]/)[1].replace("s:", "");
    const kept = JSON.stringify([
      await t.db.selectFrom("session").selectAll().execute(),
      await t.db.selectFrom("person").selectAll().execute(),
    ]);
    expect(sid.length).toBeGreaterThan(20);
    expect(kept).not.toContain(sid);
    expect(kept).not.toContain(secretOf("technician"));
  });

  it("a write needs the page’s token, and is under the name of who signed in, whatever is said", async () => {
    const { api, cookie, me } = await signedIn(t, "planner");
    const machine = { nickname: "Wren", bay: "1", kind: "lathe", hoursPerWeek: 40, note: "", letters: ["X"] };
    const send = (headers: Record<string, string>) =>
      bare()
        .post("/api/machines")
        .set({ cookie, "x-working-as": "Pipit", ...headers })
        .send(machine);
    await send({}).expect(403);
    await send({ "x-token": "0".repeat(me.token?.length ?? 0) }).expect(403);
    const other = await send({ "x-token": me.token ?? "", "x-working-as": "Knott" }).expect(403);
    expect(other.body.detail).toBe("Knott did this, and Pipit is signed in: it waits for Knott to sign in.");
    expect((await api.get("/api/floor")).body.machines).toEqual([]);
    await send({ "x-token": me.token ?? "" }).expect(201);
  });

  it("a session is none any more once it is ended, its person is retired, or got another PIN", async () => {
    const keeper = await signedIn(t, "keeper");
    const ends: readonly ((id: number) => Promise<unknown>)[] = [
      async () => {
        const { body } = await keeper.api.get("/api/sessions").expect(200);
        const theirs = (body as { id: number; name: string }[]).filter((s) => s.name === NAMES.technician);
        for (const { id } of theirs) await keeper.api.post(`/api/sessions/${id}/end`).expect(200);
      },
      (id) => keeper.api.post(`/api/people/${id}/secret`).expect(200),
    ];
    for (const end of ends) {
      const id = (await idOf("technician")) ?? 0;
      await t.db
        .updateTable("person")
        .set({ secret: await keepSecret("714901"), given: 0 })
        .where("id", "=", id)
        .execute();
      const teal = await signedIn(t, "technician");
      await teal.api.get("/api/floor").expect(200);
      await end(id);
      const gone = await teal.api.get("/api/floor").expect(401);
      expect(gone.body.detail).toBe("Sign in first.");
    }
  });

  it("the sid of before is none after signing in, and a forged or replayed one is nobody’s", async () => {
    const { cookie, api } = await signedIn(t, "technician");
    const [name, value] = cookie.split("=");
    for (const forged of [`${name}=s%3Anobody.${value.slice(-43)}`, `${name}=${value.slice(0, -2)}xx`, `${name}=`])
      await bare().get("/api/floor").set("cookie", forged).expect(401);
    const again = await bare()
      .post("/api/sign-in")
      .set({ cookie, "x-working-as": "", "x-token": (await api.get("/api/me")).body.token })
      .send({ personId: await idOf("technician"), secret: secretOf("technician") })
      .expect(200);
    expect(String(again.headers["set-cookie"])).not.toContain(value);
    await api.get("/api/floor").expect(401);
    const fresh = String(again.headers["set-cookie"]).split(";")[0];
    await bare().get("/api/floor").set("cookie", fresh).expect(200);
    await bare()
      .post("/api/sign-out")
      .set({ cookie: fresh, "x-working-as": "", "x-token": again.body.token })
      .expect(200);
    await bare().get("/api/floor").set("cookie", fresh).expect(401);
  });

  it("wrong tries are counted down, then it waits, though the PIN were right; many at once are no way past", async () => {
    const id = await idOf("technician");
    const said = await tryPin(id, "000000").expect(401);
    expect(said.body.detail).toBe("That is not Teal’s PIN. 4 tries are left, then it waits.");
    const answers = await Promise.all(Array.from({ length: 12 }, () => tryPin(id, "000001")));
    expect(answers.map((a) => a.status).sort()).toEqual([401, 401, 401, ...Array<number>(9).fill(429)]);
    const right = await tryPin(id, secretOf("technician")).expect(429);
    expect(right.body.detail).toMatch(/^Too many wrong tries for Teal\. Try again in \d+ seconds, or have the keeper/);
    // Somebody else at the same device is not held up.
    await tryPin(await idOf("planner"), secretOf("planner")).expect(200);
  });

  it("a lock-out grows to an hour", () => {
    expect([4, 5, 6, 7, 40].map((n) => waitAfter(n, 5) / 1000)).toEqual([0, 30, 60, 120, 3600]);
  });

  it("more tries than people make are not looked at", async () => {
    // Without a PIN: hashing forty of them is half a minute’s work for a busy machine, and is not what is asked here.
    const tried = () => bare().post("/api/sign-in").set("x-working-as", "").send({});
    const answers = await Promise.all(Array.from({ length: 60 }, tried));
    expect(answers.filter((a) => a.status === 422)).toHaveLength(40);
    expect(answers.filter((a) => a.status === 429)).toHaveLength(20);
  });

  it("who has a PIN that was given chooses one first; a weak one is refused in words", async () => {
    const keeper = await signedIn(t, "keeper");
    const { given } = (await keeper.api.post(`/api/people/${await idOf("look")}/secret`).expect(200)).body;
    const { api, me, cookie: before } = await signedIn(t, "look", given as string);
    expect(me.chooses).toBe(true);
    expect((await api.get("/api/floor").expect(403)).body.detail).toBe("Choose a PIN of your own first.");
    for (const [wanted, why] of [
      ["12345", "At least 6 digits or letters."],
      ["123456", "123456 and its like are tried first: take another."],
      ["252525", "252525 and its like are tried first: take another."],
      [given as string, "That is the one you have: choose another."],
    ])
      expect((await api.post("/api/me/secret").send({ secret: given, wanted }).expect(422)).body.detail).toBe(why);
    const answer = await api.post("/api/me/secret").send({ secret: given, wanted: "730164" }).expect(200);
    const cookie = String(answer.headers["set-cookie"]).split(";")[0];
    await bare().get("/api/floor").set("cookie", cookie).expect(200);
    await bare().get("/api/floor").set("cookie", before).expect(401);
  });
});

describe("the keeper’s people", () => {
  let t: TestApp;
  afterEach(() => t.close());

  it("one person on this machine has no door; the second brings it", async () => {
    t = await testApp();
    const add = (body: object) => t.api.post("/api/people").send(body);
    const first = await add({ name: "Rowan", sign: "RK", role: "technician", secret: "714903" }).expect(422);
    expect(first.body.detail).toContain("The first person keeps the system");
    const pin = await add({ name: "Rowan", sign: "RK", role: "keeper", secret: "714903" }).expect(422);
    expect(pin.body.detail).toBe("A keeper has a passphrase: at least 10 characters, not digits alone.");
    await add({ name: "Rowan", sign: "RK", role: "keeper", secret: "three dry ways" }).expect(201);
    expect((await t.api.get("/api/me").expect(200)).body).toMatchObject({ door: "open", person: null });
    await t.api.get("/api/floor").expect(200);
    const second = await add({ name: "Ilse", sign: "IB", role: "technician" }).expect(201);
    expect(second.body).toMatchObject({
      name: "Ilse",
      secret: "given",
      given: expect.stringMatching(/^\d{8}$/) as string,
    });
    await t.api.get("/api/floor").expect(401);
    const { names } = (await t.api.get("/api/me").expect(200)).body as Me;
    expect(names.map((n) => n.name)).toEqual(["Ilse", "Rowan"]);
    expect((await t.db.selectFrom("door_event").selectAll().execute()).map((e) => e.what)).toEqual([
      "added as keeper",
      "added as technician",
    ]);
  });

  it("names and signs are told apart for good; the last keeper stays one; a change names its version", async () => {
    t = await peopleApp();
    const { api } = await signedIn(t, "keeper");
    const taken = await api.post("/api/people").send({ name: "teal", sign: "XY", role: "look" }).expect(422);
    expect(taken.body.errors).toEqual([{ path: "name", message: expect.stringContaining("called teal") as string }]);
    const sign = await api.post("/api/people").send({ name: "Tern", sign: "TE", role: "look" }).expect(422);
    expect(sign.body.detail).toBe("Teal signs Te: take another sign.");
    const { people } = (await api.get("/api/people").expect(200)).body as { people: Person[] };
    const change = (role: Role, edit: object) => {
      const person = people.find((p) => p.name === NAMES[role]) as Person;
      return api.put(`/api/people/${person.id}`).send({
        ...{ name: person.name, sign: person.sign, role: person.role, retired: false, version: person.version },
        ...edit,
      });
    };
    expect((await change("keeper", { role: "look" }).expect(409)).body.detail).toContain("only keeper");
    expect((await change("keeper", { retired: true }).expect(409)).body.detail).toContain("only keeper");
    expect((await change("keeper", { name: "Knut" }).expect(422)).body.detail).toContain(
      "Records carry the name Knott",
    );
    await change("technician", { retired: true }).expect(200);
    const later = await change("technician", { role: "planner" }).expect(409);
    expect(later.body.current).toMatchObject({ name: "Teal", retiredAt: expect.any(String) as string });
  });

  it("on a network nobody enters before it is set up by the code on the console, once", async () => {
    t = await testApp({ host: "0.0.0.0", names: ["shop.test"], tls: "proxy", setUpCode: "ABCDEFGHJK" });
    const as = { host: "shop.test", "x-forwarded-proto": "https", "x-working-as": "" };
    const bare = supertest(t.app.express);
    const past = await bare.get("/api/me").set({ host: "shop.test" }).expect(403);
    expect(past.body.detail).toContain("reached through its proxy, by https");
    expect((await bare.get("/api/me").set(as).expect(200)).body).toMatchObject({ door: "set-up", names: [] });
    const shut = await bare.get("/api/floor").set(as).expect(403);
    expect(shut.body.detail).toBe("Nobody keeps this server yet: set it up first.");
    await bare
      .post("/api/people")
      .set(as)
      .send({ name: "Mallow", sign: "M", role: "keeper", secret: "let me in now" })
      .expect(403);
    const setUp = (code: string) =>
      bare.post("/api/set-up").set(as).send({ code, name: "Rowan", sign: "RK", secret: "three dry ways" });
    expect((await setUp("ABCDEFGHJX").expect(401)).body.detail).toBe("That is not the code on the server’s console.");
    const made = await setUp(" abcdefghjk ").expect(200);
    expect(made.body).toMatchObject({ door: "people", person: { name: "Rowan", role: "keeper" } });
    const cookie = String(made.headers["set-cookie"]);
    expect(cookie).toMatch(/^__Host-iron=.*Secure/);
    await setUp("ABCDEFGHJK").expect(409);
    await bare
      .get("/api/floor")
      .set({ ...as, cookie: cookie.split(";")[0] })
      .expect(200);
  });
});

describe("a PIN as it is kept", () => {
  it("is 32 MB of work to try, with a salt of its own, and says so", async () => {
    const [a, b] = [await keepSecret("714903"), await keepSecret("714903")];
    expect(a).not.toBe(b);
    // OWASP’s cheat sheet of password storage, from memory: scrypt with N 2^15, r 8, p 3.
    expect(a).toMatch(/^scrypt:32768:8:3:/);
    expect(await isSecret("714903", a)).toBe(true);
    expect(await isSecret("714904", a)).toBe(false);
    expect(await isSecret("714903", null)).toBe(false);
  });

  it("agrees with the worked example of RFC 7914, section 12", async () => {
    // password, NaCl, N 1024, r 8, p 16: the first 32 of its 64 bytes.
    const key = Buffer.from("fdbabe1c9d3472007856e7190d01e9fe7c6ad7cbc8237830e77376634b373162", "hex").toString(
      "base64",
    );
    const kept = ["scrypt", 1024, 8, 16, Buffer.from("NaCl").toString("base64"), key].join(":");
    expect(await isSecret("password", kept)).toBe(true);
    expect(await isSecret("Password", kept)).toBe(false);
  });
});
