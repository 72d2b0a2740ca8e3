import * as z from "zod";
import { ADDRESSES, type OperationName } from "./addresses";

const empty = z.object({});

/** One operation of the interface: what it takes and what it answers. */
export interface Operation {
  readonly method: "get" | "post" | "put";
  readonly path: string;
  readonly summary: string;
  readonly params: z.ZodObject;
  readonly query: z.ZodObject;
  readonly body: z.ZodType | null;
  readonly response: z.ZodType | null;
  /** What is answered when not JSON. */
  readonly media?: string;
  readonly created?: boolean;
}

/** Says what an operation takes and answers; where it is stands among the addresses, under the same name. */
export function operation<
  N extends OperationName,
  P extends z.ZodObject = typeof empty,
  Q extends z.ZodObject = typeof empty,
  B extends z.ZodType | null = null,
  R extends z.ZodType | null = null,
>(
  name: N,
  summary: string,
  parts: { params?: P; query?: Q; body?: B; response?: R; created?: boolean },
): Omit<Operation, "params" | "query" | "body" | "response"> & {
  readonly params: P;
  readonly query: Q;
  readonly body: B;
  readonly response: R;
} {
  const [method, path, media] = ADDRESSES[name] as readonly [Operation["method"], string, string?];
  return {
    method,
    path,
    summary,
    params: (parts.params ?? empty) as P,
    query: (parts.query ?? empty) as Q,
    body: (parts.body ?? null) as B,
    response: (parts.response ?? null) as R,
    media,
    created: parts.created,
  };
}
