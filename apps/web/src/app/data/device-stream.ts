import { Injectable } from "@angular/core";
import type { DeviceSnapshot } from "@iron/contract";
import { Observable } from "rxjs";

export type DeviceNews =
  | { readonly kind: "snapshot"; readonly snapshot: DeviceSnapshot }
  | { readonly kind: "waiting" }
  | { readonly kind: "none" };

/** The stream of an axis’ indicator. The browser reconnects by itself; `waiting` says that it does. */
@Injectable({ providedIn: "root" })
export class DeviceStream {
  of(axisId: number): Observable<DeviceNews> {
    return new Observable((observer) => {
      const source = new EventSource(`/api/axes/${axisId}/device/stream?ngsw-bypass`);
      source.onmessage = (event: MessageEvent<string>) => {
        observer.next({
          kind: "snapshot",
          snapshot: JSON.parse(event.data) as DeviceSnapshot,
        });
      };
      source.onerror = () => {
        const closed = source.readyState === EventSource.CLOSED;
        observer.next({ kind: closed ? "none" : "waiting" });
      };
      return () => source.close();
    });
  }
}
