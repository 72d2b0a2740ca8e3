import { inject, Injectable, untracked } from "@angular/core";
import { Router } from "@angular/router";

/** The page that one is on, or on the way to, by its path. */
export function placeOf(router: Router): string {
  const going = untracked(router.currentNavigation)?.extractedUrl.toString();
  return (going ?? router.url).split(/[?#]/)[0];
}

/**
 * Goes on with what was asked for once the answer is there: only for who still waits for it. Whoever went elsewhere
 * meanwhile is left there.
 *
 * @example
 * const onward = this.onward.fromHere();
 * this.api.call("createMachine", { body }).subscribe(({ id }) => onward(`/machines/${id}`));
 */
@Injectable({ providedIn: "root" })
export class Onward {
  private readonly router = inject(Router);

  fromHere(): (to: string) => void {
    const here = placeOf(this.router);
    return (to) => {
      if (placeOf(this.router) === here) void this.router.navigateByUrl(to);
    };
  }
}
