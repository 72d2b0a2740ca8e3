import * as z from "zod";
import { idSchema, instantSchema, oneOf, said, versionSchema } from "../wire/common";
import { ROLES } from "../wire/access";
import { operation } from "../wire/operation";
import { secretTrouble } from "./secret";

const byId = z.object({ id: idSchema });
const SIGN = "The sign is one to four letters, like RK.";

/** How the server is entered: by everybody who reaches it, not before somebody keeps it, or by signing in. */
export const DOORS = ["open", "set-up", "people"] as const;

const nameSchema = said("Name", 40);
const signSchema = z
  .string({ error: SIGN })
  .trim()
  .max(4, SIGN)
  .regex(/^\p{L}{1,4}$/u, SIGN);
const roleSchema = oneOf("Role", ROLES);

/** PIN or passphrase that somebody chooses. */
const secretSchema = z
  .string({ error: "The PIN is missing." })
  .max(128, "A passphrase has 128 characters at most.")
  .superRefine((secret, context) => {
    const trouble = secretTrouble(secret);
    if (trouble) context.addIssue({ code: "custom", message: trouble });
  });
/** What somebody gives to be let in: whatever it is, it is only compared. */
const givenSchema = z
  .string({ error: "The PIN is missing." })
  .min(1, "The PIN is empty.")
  .max(128, "That is too long.");

const whoSchema = z.object({ id: z.number().int(), name: z.string(), sign: z.string() });
/** Whom a tablet may ask who it is. */
export type Somebody = z.infer<typeof whoSchema>;

export const meSchema = z.object({
  door: z.enum(DOORS),
  /** Who is signed in; null: nobody, or nobody has to. */
  person: whoSchema.extend({ role: roleSchema }).nullable(),
  /** The PIN was given by the keeper: one’s own is chosen first. */
  chooses: z.boolean(),
  /** Who can sign in. */
  names: z.array(whoSchema),
  /** Goes with everything that changes something, in the header X-Token; null while nobody is signed in. */
  token: z.string().nullable(),
  /** Thumbprints of the keys that this session seals what waits with; newest first, none while nobody is signed in. */
  seals: z.array(z.string()),
  /** After so long without a touch the tablet asks who it is, min. */
  quietMinutes: z.number().int(),
});
export type Me = z.infer<typeof meSchema>;

export const personSchema = whoSchema.extend({
  role: roleSchema,
  /** Has a PIN of their own, one that was given, or none yet. */
  secret: z.enum(["own", "given", "none"]),
  /** Too many wrong tries: until then no PIN is taken. */
  lockedUntil: instantSchema.nullable(),
  retiredAt: instantSchema.nullable(),
  lastSeen: instantSchema.nullable(),
  version: versionSchema,
});
export type Person = z.infer<typeof personSchema>;

export const personEditSchema = z.object({ name: nameSchema, sign: signSchema, role: roleSchema });
export type PersonEdit = z.infer<typeof personEditSchema>;

export const sessionSchema = z.object({
  id: z.number().int(),
  name: z.string(),
  /** Of the device it was begun on. */
  address: z.string(),
  device: z.string(),
  since: instantSchema,
  lastSeen: instantSchema,
  /** It is the one that asks. */
  own: z.boolean(),
});
export type SessionRecord = z.infer<typeof sessionSchema>;

const peopleSchema = z.object({ people: z.array(personSchema), quietMinutes: z.number().int() });
export type People = z.infer<typeof peopleSchema>;

export const PEOPLE_OPERATIONS = {
  me: operation("me", "Who is signed in, who could be, and how the server is entered", { response: meSchema }),
  setUpKeeper: operation("setUpKeeper", "Makes the keeper, by the code on the console; once", {
    body: personEditSchema.omit({ role: true }).extend({ code: givenSchema, secret: secretSchema }),
    response: meSchema,
  }),
  signIn: operation("signIn", "Sign in; 401 for a wrong PIN, 429 with how long to wait after too many", {
    body: z.object({ personId: idSchema, secret: givenSchema }),
    response: meSchema,
  }),
  signOut: operation("signOut", "Sign out", { response: meSchema }),
  sayAgain: operation("sayAgain", "The PIN again, before something is signed under a hold", {
    /** Whose, where another vouches than is signed in. */
    body: z.object({ secret: givenSchema, personId: idSchema.optional() }),
    response: meSchema,
  }),
  changeOwnSecret: operation("changeOwnSecret", "Another PIN or passphrase of one’s own; ends one’s other sessions", {
    body: z.object({ secret: givenSchema, wanted: secretSchema }),
    response: meSchema,
  }),
  keepSeal: operation("keepSeal", "A key of one’s own device that seals what waits there while no server answers", {
    body: z.object({
      /** Public, SPKI in base64: ECDSA on P-256. */
      key: z
        .string({ error: "The key is missing." })
        .max(200, "The key is longer than 200 characters.")
        .regex(/^[A-Za-z\d+/]{80,180}={0,2}$/, "The key is no SPKI in base64."),
    }),
    response: meSchema,
  }),
  people: operation("people", "Everybody, with role and state", { response: peopleSchema }),
  addPerson: operation("addPerson", "Add somebody; the first is the keeper, with a passphrase", {
    body: personEditSchema.extend({ secret: secretSchema.optional() }),
    response: personSchema.extend({ given: z.string().nullable() }),
    created: true,
  }),
  updatePerson: operation(
    "updatePerson",
    "Change name, sign or role, retire or call back; 409 when somebody was faster",
    {
      params: byId,
      body: personEditSchema.extend({ retired: z.boolean(), version: versionSchema }),
      response: personSchema,
    },
  ),
  giveSecret: operation("giveSecret", "A PIN to begin with, said once; ends the person’s sessions", {
    params: byId,
    response: z.object({ given: z.string() }),
  }),
  sessions: operation("sessions", "Who is signed in where", { response: z.array(sessionSchema) }),
  endSession: operation("endSession", "End a session", { params: byId, response: z.array(sessionSchema) }),
  updateDoor: operation("updateDoor", "After how long a tablet asks who it is", {
    body: z.object({
      quietMinutes: z
        .number({ error: "The quiet time must be a number." })
        .int("The quiet time must be whole minutes.")
        .min(1, "The quiet time must be from 1 to 240 min.")
        .max(240, "The quiet time must be from 1 to 240 min."),
    }),
    response: peopleSchema,
  }),
};
