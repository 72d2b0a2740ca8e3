import { inject, Injectable, NgZone } from "@angular/core";
import { fromEvent, merge, switchMap, throttleTime, timer, startWith } from "rxjs";
import { toObservable } from "@angular/core/rxjs-interop";
import { Door } from "../data/door";

const MINUTE_MS = 60_000;

/** A tablet that nobody touches for a while asks who it is; what is on it stays. */
@Injectable({ providedIn: "root" })
export class Quiet {
  private readonly door = inject(Door);
  private readonly zone = inject(NgZone);
  private readonly met = toObservable(this.door.me);

  watch(): void {
    const touched = merge(...["pointerdown", "keydown", "wheel"].map((e) => fromEvent(document, e)));
    this.zone.runOutsideAngular(() =>
      this.met
        .pipe(
          switchMap((me) =>
            touched.pipe(
              throttleTime(1000),
              startWith(null),
              switchMap(() => timer((me?.quietMinutes ?? 10) * MINUTE_MS)),
            ),
          ),
        )
        .subscribe(() => this.zone.run(() => this.door.leave())),
    );
  }
}
