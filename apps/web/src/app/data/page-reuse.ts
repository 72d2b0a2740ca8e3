import { Injectable } from "@angular/core";
import { BaseRouteReuseStrategy, type ActivatedRouteSnapshot } from "@angular/router";

/**
 * The page of another machine, point or job is another page, not the same one with other contents: what was pressed or
 * typed on the first, and what is answered to it late, cannot come to the second. A route whose page looks after that
 * itself names the parameter it stays for.
 */
@Injectable()
export class PageReuse extends BaseRouteReuseStrategy {
  override shouldReuseRoute(future: ActivatedRouteSnapshot, now: ActivatedRouteSnapshot): boolean {
    const stays: unknown = future.routeConfig?.data?.["stays"];
    const isSame = (name: string): boolean => name === stays || future.params[name] === now.params[name];
    return super.shouldReuseRoute(future, now) && Object.keys(future.params).every(isSame);
  }
}
