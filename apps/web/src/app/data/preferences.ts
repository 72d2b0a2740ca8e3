import { effect, Injectable, signal, type WritableSignal } from "@angular/core";
import type { UnitSystem } from "@iron/core";

/** What this browser remembers: units, shift, who works here. Nothing of the shop’s records. */
@Injectable({ providedIn: "root" })
export class Preferences {
  readonly system = kept<UnitSystem>("system", "metric", (v) => v === "metric" || v === "inch");
  readonly shift = kept<"day" | "night">("shift", "day", (v) => v === "day" || v === "night");
  readonly who = kept<string>("who", "Technician", (v) => v.length > 0 && v.length <= 40);
  readonly autoTake = kept<"on" | "off">("auto-take", "off", (v) => v === "on" || v === "off");

  constructor() {
    effect(() => {
      document.documentElement.dataset["shift"] = this.shift();
    });
  }

  toggleUnits(): void {
    this.system.update((s) => (s === "metric" ? "inch" : "metric"));
  }
}

function kept<T extends string>(key: string, initial: T, valid: (value: string) => boolean): WritableSignal<T> {
  const name = `iron-patience.${key}`;
  let stored: string | null = null;
  try {
    stored = localStorage.getItem(name);
  } catch {
    // Storage may be off; the choice then lasts as long as the page.
  }
  const value = signal<T>(stored !== null && valid(stored) ? (stored as T) : initial);
  effect(() => {
    const now = value();
    try {
      localStorage.setItem(name, now);
    } catch {
      // As above.
    }
  });
  return value;
}
