import { computed, DestroyRef, effect, inject, Injectable, signal, type Signal } from "@angular/core";
import type { Observable } from "rxjs";

/** What this page moves, and how it is stopped. */
export interface Driven {
  /** As it stands on its button: “the simulated X axis”. */
  readonly what: string;
  readonly stop: () => Observable<unknown>;
}

/** What pages of this device move at this moment: the door neither comes down on it nor hides its Stop. */
@Injectable({ providedIn: "root" })
export class Driving {
  private readonly all = signal<readonly Driven[]>([]);
  readonly now = this.all.asReadonly();
  readonly any = computed(() => this.all().length > 0);

  /** Tells of what a page moves as long as `driven` says so; ends with its page. Called where a page is made. */
  follow(driven: Signal<Driven | null>): void {
    let told: Driven | null = null;
    const tell = (next: Driven | null): void => {
      const before = told;
      told = next;
      this.all.update((all) => [...all.filter((d) => d !== before), ...(next ? [next] : [])]);
    };
    effect(() => tell(driven()));
    inject(DestroyRef).onDestroy(() => tell(null));
  }
}
