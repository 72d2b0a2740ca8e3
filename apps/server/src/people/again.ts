import type { Request } from "express";
import { problem } from "../http/problem-error";

/** How long a PIN that was given again holds, ms: for one signature. */
const HOLDS_MS = 120_000;

/** The PIN again, for what is signed with a name. Where nobody signs in there is none to give. */
export class Again {
  constructor(private readonly request: Request) {}

  /** @throws ProblemError 403 where this name was not proven just now; `errors` says whose PIN is wanted */
  prove(name: string): void {
    const { person, session } = this.request;
    if (!person) return;
    const { again } = session;
    if (again?.name === name && Date.now() - Date.parse(again.at) < HOLDS_MS) return;
    throw problem(403, {
      title: "PIN again",
      detail: `${name}, your PIN again: this is signed with your name.`,
      errors: [{ path: "again", message: name }],
    });
  }

  /** It was for this one signature. */
  spend(): void {
    if (this.request.person) this.request.session.again = undefined;
  }
}
