import { z } from "zod";

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

export function operation<
  M extends Operation["method"],
  P extends z.ZodObject,
  Q extends z.ZodObject,
  B extends z.ZodType | null = null,
  R extends z.ZodType | null = null,
>(
  method: M,
  path: string,
  summary: string,
  parts: {
    params?: P;
    query?: Q;
    body?: B;
    response?: R;
    media?: string;
    created?: boolean;
  },
): Omit<Operation, "method" | "params" | "query" | "body" | "response"> & {
  readonly method: M;
  readonly params: P;
  readonly query: Q;
  readonly body: B;
  readonly response: R;
} {
  return {
    method,
    path,
    summary,
    params: (parts.params ?? empty) as P,
    query: (parts.query ?? empty) as Q,
    body: (parts.body ?? null) as B,
    response: (parts.response ?? null) as R,
    media: parts.media,
    created: parts.created,
  };
}
