import { DestroyRef, inject, Injectable } from "@angular/core";
import { PAGE_HEADER } from "@iron/contract";
import { Door } from "./door";
import { Preferences } from "./preferences";
import { PAGE } from "./working-as";

/** What is sent while the page goes: nobody waits for its answer. */
@Injectable({ providedIn: "root" })
export class LastWords {
  private readonly preferences = inject(Preferences);
  private readonly door = inject(Door);

  /** Said as the page goes; not any more once what asks for it has gone. Called where inject() may be used. */
  before(said: () => void): void {
    window.addEventListener("pagehide", said);
    inject(DestroyRef).onDestroy(() => window.removeEventListener("pagehide", said));
  }

  put(address: string, body: unknown): void {
    const token = this.door.me()?.token;
    void fetch(address, {
      method: "PUT",
      keepalive: true,
      headers: {
        "content-type": "application/json",
        "x-working-as": encodeURIComponent(this.preferences.who()),
        [PAGE_HEADER]: PAGE,
        ...(token ? { "x-token": token } : {}),
      },
      body: JSON.stringify(body),
    }).catch(() => undefined);
  }
}
