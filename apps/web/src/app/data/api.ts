import { HttpClient, HttpContext } from "@angular/common/http";
import { inject, Injectable } from "@angular/core";
import {
  ADDRESSES,
  type Case,
  type Job,
  type LubricationPointRecord,
  type OPERATIONS,
  type OperationName,
  SEAL_HEADER,
} from "@iron/contract";
import type { Observable } from "rxjs";
import type * as z from "zod";
import { LOOKED_AFTER } from "./looked-after";

type Op<N extends OperationName> = (typeof OPERATIONS)[N];
type Out<T> = T extends z.ZodType ? z.output<T> : string;
type Keys<T extends z.ZodObject> = keyof T["shape"];
export type Address<N extends OperationName> = (Keys<Op<N>["params"]> extends never
  ? unknown
  : { readonly params: Readonly<Record<Keys<Op<N>["params"]>, string | number>> }) &
  (Keys<Op<N>["query"]> extends never ? unknown : { readonly query?: z.input<Op<N>["query"]> });
type Sending<N extends OperationName> = Address<N> &
  (Op<N>["body"] extends z.ZodType ? { readonly body: z.input<Op<N>["body"]> } : unknown) & {
    /** Who did it, where that may no longer be the one at the screen. */
    readonly by?: string;
    /** What proves that it was made in their session. */
    readonly seal?: string | undefined;
    /** Whoever asks outlives the page and looks after what fails. */
    readonly lookedAfter?: boolean;
  };
/** What may be left out when nothing is asked for. */
type Given<P> = object extends P ? [parts?: P] : [parts: P];
interface AnyParts {
  readonly params?: Readonly<Record<string, string | number>>;
  readonly query?: object;
  readonly body?: unknown;
  readonly by?: string;
  readonly seal?: string | undefined;
  readonly lookedAfter?: boolean;
}

/** Called by name: path, method and types are the contract’s. */
@Injectable({ providedIn: "root" })
export class Api {
  private readonly http = inject(HttpClient);

  /** @example api.call("holdPoint", { params: { id }, body }) */
  call<N extends OperationName>(name: N, ...[parts]: Given<Sending<N>>): Observable<Out<Op<N>["response"]>> {
    const { params, query, body, by, seal, lookedAfter }: AnyParts = parts ?? {};
    const [method, , media] = ADDRESSES[name] as readonly [string, string, string?];
    return this.http.request<Out<Op<N>["response"]>>(method, addressOf(name, params, query), {
      ...(method === "get" ? {} : { body: body ?? {} }),
      ...(lookedAfter ? { context: new HttpContext().set(LOOKED_AFTER, true) } : {}),
      ...(media ? { responseType: "text" as never } : {}),
      ...(by === undefined ? {} : { headers: saidBy(by, seal) }),
    });
  }

  /** Where an operation is, for a link, a file or a stream. */
  address<N extends OperationName>(name: N, parts: Address<N>): string {
    const { params, query } = parts as AnyParts;
    return addressOf(name, params, query);
  }

  /** A photo goes as it is, not as JSON. */
  photo(
    caseId: number,
    file: Blob,
    { caption, finding }: { readonly caption: string; readonly finding: string | null },
  ): Observable<Case> {
    const query = new URLSearchParams({ caption });
    if (finding) query.set("finding", finding);
    return this.http.post<Case>(`/api/cases/${caseId}/photos?${query}`, file, {
      headers: { "content-type": file.type },
    });
  }

  /** The key makes sending it twice harmless; it goes under the name of who took it. */
  keyedPhoto(photo: KeyedPhoto): Observable<Job | LubricationPointRecord> {
    const { file, by, seal } = photo;
    return this.http.post<Job | LubricationPointRecord>(this.photoAddress(photo), file, {
      headers: { "content-type": file.type, ...saidBy(by, seal) },
    });
  }

  photoAddress({ of, id, step, caption, shows, key }: KeyedPhoto): string {
    const query = new URLSearchParams({ caption, key, ...(of === "job" ? { step } : {}), ...(shows ? { shows } : {}) });
    return `/api/${of === "job" ? `jobs/${id}` : `lube-points/${id}`}/photos?${query}`;
  }
}

/** A photo of a step or of a lubrication point, on its way. */
export interface KeyedPhoto {
  readonly of: "job" | "point";
  readonly id: number;
  readonly file: Blob;
  /** Step of a job; else empty. */
  readonly step: string;
  readonly caption: string;
  /** The check of a point that it shows; left out: the point. */
  readonly shows?: string | undefined;
  readonly key: string;
  readonly by: string;
  /** Proves that it was made in their session. */
  readonly seal?: string | undefined;
}

/** A name may hold letters that no header may. */
function saidBy(by: string, seal?: string): Record<string, string> {
  return { "x-working-as": encodeURIComponent(by), ...(seal === undefined ? {} : { [SEAL_HEADER]: seal }) };
}

function addressOf(name: OperationName, params: AnyParts["params"], query: AnyParts["query"]): string {
  const path = ADDRESSES[name][1].replace(/:(\w+)/g, (_, key: string) => encodeURIComponent(params?.[key] ?? ""));
  const asked = Object.entries(query ?? {}).filter(([, value]) => value !== undefined && value !== null);
  if (asked.length === 0) return path;
  return `${path}?${new URLSearchParams(asked.map(([key, value]) => [key, String(value)]))}`;
}
