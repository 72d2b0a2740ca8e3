import { ROLES, type Me, type Role } from "@iron/contract";
import supertest from "supertest";
import { keepSecret } from "../people/secrets";
import { testApp, type TestApp } from "./test-app";

/** Cheap to try: how dear the real one is, is tested by itself. */
const CHEAP = { N: 16, r: 1, p: 1 };

export const NAMES = { look: "Lark", technician: "Teal", planner: "Pipit", keeper: "Knott" } as const;
export const secretOf = (role: Role): string => (role === "keeper" ? "three dry ways" : `71490${ROLES.indexOf(role)}`);

/** A shop with somebody of each role, who sign in. */
export async function peopleApp(options: Parameters<typeof testApp>[0] = {}): Promise<TestApp> {
  const t = await testApp(options);
  for (const role of ROLES)
    await t.db
      .insertInto("person")
      .values({
        ...{ name: NAMES[role], sign: NAMES[role].slice(0, 2), role, secret: await keepSecret(secretOf(role), CHEAP) },
        ...{ given: 0, version: 0, retired_at: null, last_seen: null },
      })
      .execute();
  return t;
}

export interface SignedIn {
  readonly api: TestApp["api"];
  readonly me: Me;
  readonly cookie: string;
}

/** A device of its own on which somebody signs in. */
export async function signedIn(t: TestApp, role: Role, secret = secretOf(role)): Promise<SignedIn> {
  const known = (await supertest(t.app.express).get("/api/me").expect(200)).body as Me;
  const personId = known.names.find((n) => n.name === NAMES[role])?.id;
  const answer = await supertest(t.app.express)
    .post("/api/sign-in")
    .set("x-working-as", "")
    .send({ personId, secret })
    .expect(200);
  const me = answer.body as Me;
  const cookie = String(answer.headers["set-cookie"]).split(";")[0];
  const headers = { cookie, "x-token": me.token ?? "", "x-working-as": NAMES[role] };
  return { api: supertest.agent(t.app.express).set(headers) as TestApp["api"], me, cookie };
}
