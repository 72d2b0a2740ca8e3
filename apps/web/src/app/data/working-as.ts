import { HttpResponse, type HttpInterceptorFn } from "@angular/common/http";
import { inject, Injectable } from "@angular/core";
import { CHANGES_HEADER, PAGE_HEADER } from "@iron/contract";
import { tap } from "rxjs";
import { newKey } from "./new-key";
import { Preferences } from "./preferences";

/** This page, as its changes name it. */
export const PAGE = newKey();

/** How far the changes were at this page’s first answer: what it shows is no older. */
@Injectable({ providedIn: "root" })
export class FirstAnswer {
  at: string | null = null;
}

/** Says who is working with every request that changes something. */
export const workingAs: HttpInterceptorFn = (request, next) => {
  if (request.method === "GET") {
    const first = inject(FirstAnswer);
    return next(request).pipe(
      tap((answer) => {
        if (answer instanceof HttpResponse) first.at ??= answer.headers.get(CHANGES_HEADER);
      }),
    );
  }
  const from = { [PAGE_HEADER]: PAGE };
  if (request.headers.has("x-working-as")) return next(request.clone({ setHeaders: from }));
  const who = encodeURIComponent(inject(Preferences).who());
  return next(request.clone({ setHeaders: { "x-working-as": who, ...from } }));
};
