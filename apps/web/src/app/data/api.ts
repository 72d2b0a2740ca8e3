import { HttpClient } from "@angular/common/http";
import { inject, Injectable } from "@angular/core";
import type { Case, Job, JobAct, LubePointRecord, LubeVisitInput, OPERATIONS, OperationName } from "@iron/contract";
import { Observable } from "rxjs";
import type { z } from "zod";

type Op<N extends OperationName> = (typeof OPERATIONS)[N];
type Out<T> = T extends z.ZodType ? z.output<T> : never;
type In<T> = T extends z.ZodType ? z.input<T> : undefined;
type Getting = {
  [N in OperationName]: Op<N>["method"] extends "get" ? N : never;
}[OperationName];
type Posting = {
  [N in OperationName]: Op<N>["method"] extends "post" ? N : never;
}[OperationName];
type Putting = {
  [N in OperationName]: Op<N>["method"] extends "put" ? N : never;
}[OperationName];

/**
 * The server’s operations, typed by the contract: the first argument names the operation and so the
 * types of what is sent and answered; the second is its address.
 */
@Injectable({ providedIn: "root" })
export class Api {
  private readonly http = inject(HttpClient);

  get<N extends Getting>(_: N, path: string): Observable<Out<Op<N>["response"]>> {
    return this.http.get<Out<Op<N>["response"]>>(`/api${path}`);
  }

  post<N extends Posting>(_: N, path: string, body: In<Op<N>["body"]>): Observable<Out<Op<N>["response"]>> {
    return this.http.post<Out<Op<N>["response"]>>(`/api${path}`, body ?? {});
  }

  put<N extends Putting>(_: N, path: string, body: In<Op<N>["body"]>): Observable<Out<Op<N>["response"]>> {
    return this.http.put<Out<Op<N>["response"]>>(`/api${path}`, body);
  }

  /** A photo goes as it is, not as JSON. */
  photo(caseId: number, file: Blob, caption: string, finding: string | null): Observable<Case> {
    const query = new URLSearchParams({ caption });
    if (finding) query.set("finding", finding);
    return this.http.post<Case>(`/api/cases/${caseId}/photos?${query}`, file, {
      headers: { "content-type": file.type },
    });
  }

  /** The key makes sending it twice harmless; it goes under the name of who took it. */
  keyedPhoto(photo: {
    readonly of: "job" | "point";
    readonly id: number;
    readonly file: Blob;
    readonly step: string;
    readonly caption: string;
    readonly key: string;
    readonly by: string;
  }): Observable<Job | LubePointRecord> {
    const { of, id, file, step, caption, key, by } = photo;
    const query = new URLSearchParams({ caption, key, ...(of === "job" ? { step } : {}) });
    const path = of === "job" ? `jobs/${id}` : `lube-points/${id}`;
    return this.http.post<Job | LubePointRecord>(`/api/${path}/photos?${query}`, file, {
      headers: { "content-type": file.type, "x-working-as": encodeURIComponent(by) },
    });
  }

  /** A visit goes under the name of who made it. */
  visitPoint(pointId: number, visit: LubeVisitInput, by: string): Observable<LubePointRecord> {
    return this.http.post<LubePointRecord>(`/api/lube-points/${pointId}/visits`, visit, {
      headers: { "x-working-as": encodeURIComponent(by) },
    });
  }

  /** Sent under the name of who did it, who may no longer be the one at the screen. */
  actOnJob(jobId: number, act: JobAct, by: string): Observable<Job> {
    return this.http.post<Job>(`/api/jobs/${jobId}/acts`, act, {
      headers: { "x-working-as": encodeURIComponent(by) },
    });
  }

  text(path: string): Observable<string> {
    return this.http.get(`/api${path}`, { responseType: "text" });
  }
}
