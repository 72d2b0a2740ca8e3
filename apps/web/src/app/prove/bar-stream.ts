import { Injectable } from "@angular/core";
import type { BarBatch } from "@iron/contract";
import { Observable } from "rxjs";

export type BarNews =
  { readonly kind: "batch"; readonly batch: BarBatch } | { readonly kind: "open" } | { readonly kind: "waiting" };

/** Samples of a plane’s bar. The browser reconnects by itself; what was sent meanwhile is missing, and is seen to be. */
@Injectable({ providedIn: "root" })
export class BarStream {
  of(planeId: number): Observable<BarNews> {
    return new Observable((observer) => {
      const source = new EventSource(`/api/circle-planes/${planeId}/stream?ngsw-bypass`);
      source.onmessage = (event: MessageEvent<string>) =>
        observer.next({ kind: "batch", batch: JSON.parse(event.data) as BarBatch });
      source.onopen = () => observer.next({ kind: "open" });
      source.onerror = () => observer.next({ kind: "waiting" });
      return () => source.close();
    });
  }
}
