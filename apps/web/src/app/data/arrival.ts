import { ErrorHandler, inject } from "@angular/core";
import { Router, type NavigationError } from "@angular/router";
import { Notices } from "./notices";

class NotArrived extends Error {}

/** The code of a place; should it not come over the line, the error says that and nothing else. */
export const came = <T>(part: Promise<T>): Promise<T> =>
  part.catch((cause: unknown) => {
    throw new NotArrived("A part of the page did not arrive.", { cause });
  });

/** The page’s own first script says what did not arrive, and starts it anew: see index.html. */
const tell = (name: "ip-arrived" | "ip-not-arrived", wanted = ""): boolean =>
  dispatchEvent(new CustomEvent(name, { detail: wanted }));

/** A place was shown: starts are counted from none again. */
export const arrived = (): boolean => tell("ip-arrived");

/**
 * A place could not be gone to. When its code did not come over the line: with nothing shown yet the
 * page starts anew; else what is here stays, and the place is gone to when asked again, as a fresh load,
 * since a browser keeps in mind that a part failed.
 */
export function notArrived({ url, error }: NavigationError): void {
  if (!(error instanceof NotArrived)) inject(ErrorHandler).handleError(error);
  else if (!inject(Router).lastSuccessfulNavigation()) tell("ip-not-arrived", url);
  else
    inject(Notices).offer("That page did not arrive from the server. What is here is still here.", {
      label: "Ask again",
      press: () => location.assign(url),
    });
}
