import { inject, Injectable } from "@angular/core";
import type { DeviceSnapshot } from "@iron/contract";
import { Observable, timer, type Subscription } from "rxjs";
import { Api } from "./api";
import { Door } from "./door";
import { problemFrom } from "./problems";

const RETRY_MS = 3000;

export type DeviceNews =
  | { readonly kind: "snapshot"; readonly snapshot: DeviceSnapshot }
  | { readonly kind: "waiting" }
  | { readonly kind: "none" };

/** The stream of an axis’ indicator. The browser reconnects by itself; `waiting` says that it does. */
@Injectable({ providedIn: "root" })
export class DeviceStream {
  private readonly api = inject(Api);
  private readonly door = inject(Door);

  of(axisId: number): Observable<DeviceNews> {
    return new Observable((observer) => {
      let source: EventSource;
      let asking: Subscription | null = null;
      let worked = false;
      const open = (): void => {
        source = new EventSource(`/api/axes/${axisId}/device/stream?ngsw-bypass`);
        source.onmessage = (event: MessageEvent<string>) => {
          worked = true;
          observer.next({ kind: "snapshot", snapshot: JSON.parse(event.data) as DeviceSnapshot });
        };
        source.onerror = () => {
          if (source.readyState !== EventSource.CLOSED) observer.next({ kind: "waiting" });
          else if (this.door.me()?.door === "people") refused();
          else observer.next({ kind: "none" });
        };
      };
      // There is no indicator, or nobody is signed in any more: then it goes on with whoever comes in.
      const refused = (): void => {
        observer.next({ kind: "waiting" });
        const again = (): void => void (asking = this.door.entered().subscribe(open));
        if (!this.door.me()?.person) again();
        else
          asking = this.api.call("device", { params: { id: axisId } }).subscribe({
            next: () => {
              const at = worked ? 0 : RETRY_MS;
              worked = false;
              asking = timer(at).subscribe(open);
            },
            error: (error: unknown) => {
              if (problemFrom(error).status === 404) observer.next({ kind: "none" });
              else asking = timer(RETRY_MS).subscribe(again);
            },
          });
      };
      open();
      return () => {
        source.close();
        asking?.unsubscribe();
      };
    });
  }
}
