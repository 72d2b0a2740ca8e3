import { HttpClient, HttpContext, type HttpInterceptorFn, type HttpRequest } from "@angular/common/http";
import { computed, inject, Injectable, Injector } from "@angular/core";
import { Router } from "@angular/router";
import { ADDRESSES, AT_ONCE, STOPS, type OperationName } from "@iron/contract";
import { catchError, finalize, throwError } from "rxjs";
import { LOOKED_AFTER } from "./looked-after";
import { newKey } from "./new-key";
import { Notices } from "./notices";
import { placeOf } from "./onward";
import { Preferences } from "./preferences";
import { problemFrom } from "./problems";
import { refusals } from "./refusals";
import { fileOf, Waiting, type NotTaken } from "./waiting";

/** As it was sent, from where and by whom. */
export interface Sent {
  readonly method: string;
  readonly url: string;
  readonly body: unknown;
  readonly by: string;
  readonly page: string;
  readonly path: string;
}

interface Left extends Sent {
  readonly key: string;
  readonly message: string;
}

/** What was sent from a page that was left before it failed: told wherever one is, and kept till somebody has read it. */
@Injectable({ providedIn: "root" })
export class LeftBehind {
  private readonly http = inject(HttpClient);
  private readonly notices = inject(Notices);
  private readonly preferences = inject(Preferences);
  private readonly injector = inject(Injector);
  private readonly onItsWay = new Set<string>();
  private readonly left = refusals<Left>("iron-patience.behind", (one) => one.key);

  constructor() {
    const told = (one: Left): NotTaken => ({
      ...{ key: one.key, what: `${one.page}, ${one.by}`, message: one.message, path: one.path },
      says: JSON.stringify(one.body),
      file: () => fileOf(one),
      read: () => this.left.read(one.key),
      ...(one.by === this.preferences.who() ? { again: () => this.again(one) } : {}),
    });
    inject(Waiting).tell(computed(() => this.left.all().map(told)));
  }

  /** The page that something is sent from. */
  here(): Pick<Sent, "by" | "page" | "path"> {
    const page = document.title.replace(/ · Iron Patience$/, "");
    return { by: this.preferences.who(), page, path: this.place() };
  }

  place(): string {
    return placeOf(this.injector.get(Router));
  }

  /** It failed, and who sent it is elsewhere. */
  add(sent: Sent, failure: unknown): void {
    const { status, detail } = problemFrom(failure);
    const message = status === 0 ? "The server did not answer. It may be done all the same: look there first." : detail;
    this.left.add({ ...sent, key: newKey(), message });
    this.notices.offer(`From “${sent.page}”, not kept: ${status === 0 ? "the server did not answer." : detail}`, {
      label: "See what",
      press: () => void this.injector.get(Router).navigateByUrl("/waiting"),
    });
  }

  private again(one: Left): void {
    if (this.onItsWay.has(one.key)) return;
    this.onItsWay.add(one.key);
    const context = new HttpContext().set(LOOKED_AFTER, true);
    this.http
      .request(one.method, one.url, { body: one.body, context })
      .pipe(finalize(() => this.onItsWay.delete(one.key)))
      .subscribe({
        next: () => {
          this.left.read(one.key);
          this.notices.say("Sent again, and kept now.");
        },
        error: this.notices.error,
      });
  }
}

const addresses = (...names: readonly OperationName[]): readonly RegExp[] =>
  names.map((name) => new RegExp(`^${ADDRESSES[name][1].replace(/:\w+/g, "[^/]+")}$`));
/** Asked, and nothing kept by it: nobody misses the answer elsewhere. */
const ONLY_ASKED = addresses("usualPreview", "tryCorrection", "analyseLoad");
/** Done now or not at all, or not for another’s eyes: told, and no word of it stays on the device. */
const NOT_LATER = [...addresses(...AT_ONCE, ...STOPS, "addPerson", "giveSecret")];
/** Fails in words at the door. */
const AT_THE_DOOR = /^\/api\/(me|set-up|sign-in|sign-out)(\/|$)/;

const isOf = (all: readonly RegExp[], { url }: HttpRequest<unknown>): boolean => all.some((one) => one.test(url));

/** A save that fails is told, also to who has left the page that would have said it. */
export const leftBehind: HttpInterceptorFn = (request, next) => {
  const left = inject(LeftBehind);
  const notices = inject(Notices);
  const { method, url, body } = request;
  const queued = request.headers.has("x-working-as");
  if (method === "GET" || queued || request.context.get(LOOKED_AFTER)) return next(request);
  if (AT_THE_DOOR.test(url) || isOf(ONLY_ASKED, request)) return next(request);
  const from = left.here();
  return next(request).pipe(
    catchError((failure: unknown) => {
      if (left.place() !== from.path) {
        if (isOf(NOT_LATER, request) || body instanceof Blob) notices.error(failure);
        else left.add({ method, url, body, ...from }, failure);
        notices.told(failure);
      }
      return throwError(() => failure);
    }),
  );
};
