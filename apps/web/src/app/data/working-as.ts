import type { HttpInterceptorFn } from "@angular/common/http";
import { inject } from "@angular/core";
import { Preferences } from "./preferences";

/** Says who is working with every request that changes something. */
export const workingAs: HttpInterceptorFn = (request, next) => {
  if (request.method === "GET" || request.headers.has("x-working-as")) return next(request);
  const who = encodeURIComponent(inject(Preferences).who());
  return next(request.clone({ setHeaders: { "x-working-as": who } }));
};
