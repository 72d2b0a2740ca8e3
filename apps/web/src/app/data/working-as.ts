import type { HttpInterceptorFn } from "@angular/common/http";
import { inject } from "@angular/core";
import { PAGE_HEADER } from "@iron/contract";
import { newKey } from "./new-key";
import { Preferences } from "./preferences";

/** This page, as its changes name it. */
export const PAGE = newKey();

/** Says who is working with every request that changes something. */
export const workingAs: HttpInterceptorFn = (request, next) => {
  if (request.method === "GET") return next(request);
  const from = { [PAGE_HEADER]: PAGE };
  if (request.headers.has("x-working-as")) return next(request.clone({ setHeaders: from }));
  const who = encodeURIComponent(inject(Preferences).who());
  return next(request.clone({ setHeaders: { "x-working-as": who, ...from } }));
};
