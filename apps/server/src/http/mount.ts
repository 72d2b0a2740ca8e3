import type { OPERATIONS, OperationName } from "@iron/contract";
import { ACCESS, OPERATIONS as ALL, STOPS } from "@iron/contract";
import type { Express, Request } from "express";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import * as z from "zod";
import { Again } from "../people/again";
import type { ChangeRecord } from "../people/record";
import type { Seals } from "../people/seals";
import { whoIsWorking } from "../people/who";

type Parsed<T> = T extends z.ZodType ? z.output<T> : undefined;
type Op<N extends OperationName> = (typeof OPERATIONS)[N];

export interface Call<N extends OperationName> {
  readonly params: Parsed<Op<N>["params"]>;
  readonly query: Parsed<Op<N>["query"]>;
  readonly body: Parsed<Op<N>["body"]>;
  /** First name of who is working. */
  readonly who: string;
  /** For what is done at the door itself. */
  readonly request: Request;
  /** What is signed with a name asks for the PIN again. */
  readonly again: Again;
}

/** A file answered instead of JSON. */
export interface FileAnswer {
  readonly fileName: string;
  readonly media: string;
  /** In parts where it may be long: the next is asked for once the one before is gone. */
  readonly text: string | Buffer | AsyncIterable<string | Buffer>;
}

type Answer<N extends OperationName> = Op<N>["response"] extends z.ZodType ? z.output<Op<N>["response"]> : FileAnswer;
export type Handlers = {
  readonly [N in OperationName]: (call: Call<N>) => Promise<Answer<N>>;
};

/** What happens at the door stands in a record of its own; who only looks changes nothing. */
function isChange(name: OperationName): boolean {
  if (ALL[name].method === "get" || NOTED_AT_THE_DOOR.includes(name)) return false;
  return (STOPS as readonly OperationName[]).includes(name) || !["look", "anyone"].includes(ACCESS[name]);
}
const NOTED_AT_THE_DOOR: readonly OperationName[] = [
  ...(["addPerson", "updatePerson", "giveSecret", "endSession", "updateDoor"] as const),
];

interface MountOptions {
  readonly checkAnswers: boolean;
  readonly record: ChangeRecord;
  readonly seals: Seals;
}

/** Mounts every operation of the contract: the schemas check what comes in before a handler sees it. */
export function mountOperations(app: Express, handlers: Handlers, { checkAnswers, record, seals }: MountOptions): void {
  for (const [name, operation] of Object.entries(ALL)) {
    const changes = isChange(name as OperationName);
    const handler = handlers[name as OperationName] as (call: unknown) => Promise<unknown>;
    app[operation.method](operation.path, async (request, response) => {
      const schema = operation.body as z.ZodType | null;
      const who = whoIsWorking(request);
      const body = schema ? schema.parse(request.body) : undefined;
      const answer = await handler({
        params: operation.params.parse(request.params),
        query: operation.query.parse(request.query),
        ...{ body, who, request, again: new Again(request, seals) },
      });
      if (changes) await record.note({ operation: name as OperationName, request, who, body });
      const answers = operation.response as z.ZodType | null;
      if (answers) {
        response.set("Cache-Control", "no-store");
        response.status(operation.created ? 201 : 200).json(checkAnswers ? answers.parse(answer) : answer);
      } else {
        const file = answer as FileAnswer;
        response.attachment(file.fileName).type(file.media);
        if (typeof file.text === "string" || Buffer.isBuffer(file.text)) response.send(file.text);
        else await pipeline(Readable.from(file.text), response);
      }
    });
  }
}
