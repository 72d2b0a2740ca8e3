import { inject, Injectable, NgZone } from "@angular/core";
import { filter, first, fromEvent, merge, switchMap, throttleTime, timer, startWith } from "rxjs";
import { toObservable } from "@angular/core/rxjs-interop";
import { Door } from "../data/door";
import { Driving } from "../data/driving";

const MINUTE_MS = 60_000;

/** A tablet that nobody touches for a while asks who it is, once nothing moves by it; what is on it stays. */
@Injectable({ providedIn: "root" })
export class Quiet {
  private readonly door = inject(Door);
  private readonly zone = inject(NgZone);
  /** Once nothing moves. */
  private readonly still = toObservable(inject(Driving).any).pipe(
    filter((moves) => !moves),
    first(),
  );
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
              // A touch begins the time anew, also while it is over and something moves.
              switchMap(() => timer((me?.quietMinutes ?? 10) * MINUTE_MS).pipe(switchMap(() => this.still))),
            ),
          ),
        )
        .subscribe(() => this.zone.run(() => this.door.leave())),
    );
  }
}
