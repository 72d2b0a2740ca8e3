import { HttpErrorResponse, type HttpInterceptorFn, type HttpRequest } from "@angular/common/http";
import { inject, Injector } from "@angular/core";
import { ADDRESSES, AT_ONCE, STOPS, type Me, type OperationName } from "@iron/contract";
import { catchError, switchMap, throwError } from "rxjs";
import { Door } from "./door";
import { Preferences } from "./preferences";
import { problemFrom } from "./problems";

/** What is done at the door itself fails in words there. */
const OWN = (["me", "setUpKeeper", "signIn", "signOut", "sayAgain", "changeOwnSecret"] as const).map(
  (name): string => ADDRESSES[name][1],
);

const addresses = (names: readonly OperationName[]): readonly RegExp[] =>
  names.map((name) => new RegExp(`^${ADDRESSES[name][1].replace(":id", "\\d+")}$`));
/** A stop waits for nobody’s name. */
const STOPPING = addresses(STOPS);
/** What moves a machine or reads where it stands waits for nobody either: it is not done when somebody signs in. */
const NOW_ONLY = addresses(AT_ONCE);
const isOf = (all: readonly RegExp[], url: string): boolean => all.some((one) => one.test(url));

/**
 * Everything that changes something carries the page’s token. What is refused because nobody is signed in any more, or
 * because a signature wants the PIN again, waits until that is done and goes once more: nothing of it is lost, and
 * nothing goes under another’s name.
 */
export const atTheDoor: HttpInterceptorFn = (request, next) => {
  const injector = inject(Injector);
  const by = inject(Preferences).who();
  // Asked for late: the door itself asks the server.
  const door = (): Door => injector.get(Door);
  if (!request.url.startsWith("/api/")) return next(request);
  if (OWN.includes(request.url) || isOf(STOPPING, request.url))
    return next(signed(request, door().me()?.token ?? null));
  const send = () => next(signed(request, door().me()?.token ?? null));
  const onlyNow = isOf(NOW_ONLY, request.url);
  if (onlyNow && door().shut()) return throwError(() => notDone(request));
  /** It is kept where it waits, and goes by itself: nothing here holds it. */
  const queued = request.headers.has("x-working-as");
  const onceEntered = (): ReturnType<typeof next> =>
    door()
      .entered()
      .pipe(switchMap((me) => (isTheirs(request, me, by) ? send() : throwError(() => notYours(request, me, by)))));
  const sent = onlyNow
    ? send()
    : door()
        .ready(request.method !== "GET")
        .pipe(switchMap(send));
  return sent.pipe(
    catchError((failure: unknown) => {
      if (!(failure instanceof HttpErrorResponse)) return throwError(() => failure);
      const { status, title, errors } = problemFrom(failure);
      if (status === 401 && title === "Sign in") {
        door().lost();
        if (queued) return throwError(() => failure);
        return onlyNow ? throwError(() => notDone(request)) : onceEntered();
      }
      const name = errors?.find((e) => e.path === "again")?.message;
      // What another made is asked of them once they are here, not of who brings it.
      const brought =
        queued && decodeURIComponent(request.headers.get("x-working-as") ?? "") !== door().me()?.person?.name;
      if (status === 403 && name !== undefined && !brought)
        return door()
          .again(name)
          .pipe(switchMap((given) => (given ? send() : throwError(() => failure))));
      return throwError(() => failure);
    }),
  );
};

const isTheirs = (request: HttpRequest<unknown>, me: Me, by: string): boolean =>
  request.method === "GET" || me.person?.name === by;

/** Pressed when nobody was signed in any more. */
function notDone(request: HttpRequest<unknown>): HttpErrorResponse {
  const detail = "Nobody was signed in any more: this was not done. Press it again if it is still wanted.";
  return new HttpErrorResponse({
    ...{ status: 401, statusText: "Unauthorized", url: request.url },
    error: { type: "about:blank", title: "Not done", status: 401, detail },
  });
}

/** Somebody else signed in while it waited: they say whether it is theirs. */
function notYours(request: HttpRequest<unknown>, me: Me, by: string): HttpErrorResponse {
  const detail = `${by} sent this, and ${me.person?.name} is here now: send it again if it is to be yours.`;
  return new HttpErrorResponse({
    ...{ status: 401, statusText: "Unauthorized", url: request.url },
    error: { type: "about:blank", title: "Another’s work", status: 401, detail },
  });
}

function signed(request: HttpRequest<unknown>, token: string | null): HttpRequest<unknown> {
  return token === null || request.method === "GET" ? request : request.clone({ setHeaders: { "x-token": token } });
}
