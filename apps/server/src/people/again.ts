import type { Request } from "express";
import { problem } from "../http/problem-error";
import type { Seals } from "./seals";

/** How long a PIN that was given again holds, ms: for one signature. */
const HOLDS_MS = 120_000;

/** The PIN again, for what is signed with a name. Where nobody signs in there is none to give. */
export class Again {
  constructor(
    private readonly request: Request,
    private readonly seals: Seals,
  ) {}

  /**
   * What was signed while no server answered is proven by its seal, where it is older than a PIN holds: nobody could be
   * asked then. What a PIN was asked for once is not.
   *
   * @throws ProblemError 403 where this name was not proven just now; `errors` says whose PIN is wanted
   */
  async prove(name: string): Promise<void> {
    const { person, session, sealed } = this.request;
    if (!person) return;
    const { again } = session;
    if (again?.name === name && Date.now() - Date.parse(again.at) < HOLDS_MS) return;
    if (sealed?.person.name === name) {
      if (Date.now() - Date.parse(sealed.at) > HOLDS_MS && !(await this.seals.wasAsked(sealed))) return;
      await this.seals.asked(sealed);
    }
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
