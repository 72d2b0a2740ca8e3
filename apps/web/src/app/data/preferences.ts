import { computed, effect, Injectable, signal, type Signal, type WritableSignal } from "@angular/core";
import type { UnitSystem } from "@iron/core";

/** What this browser remembers: units, shift, who works here. Nothing of the shop’s records. */
@Injectable({ providedIn: "root" })
export class Preferences {
  readonly system = kept<UnitSystem>("system", "metric", (v) => v === "metric" || v === "inch");
  /** As the device has it, until one chooses otherwise. */
  private readonly chosen = kept<Shift | "system">("light", "system", (v) => v === "day" || v === "night");
  private readonly systemShift = shiftOfSystem();
  readonly shift = computed<Shift>(() => {
    const chosen = this.chosen();
    return chosen === "system" ? this.systemShift() : chosen;
  });
  readonly who = kept<string>("who", "Technician", (v) => v.length > 0 && v.length <= 40);
  readonly autoTake = kept<"on" | "off">("auto-take", "off", (v) => v === "on" || v === "off");

  constructor() {
    effect(() => {
      document.documentElement.dataset["shift"] = this.shift();
    });
  }

  /** Day for night and back; who comes back to what the device has, follows the device again. */
  toggleShift(): void {
    const wanted = this.shift() === "day" ? "night" : "day";
    this.chosen.set(wanted === this.systemShift() ? "system" : wanted);
  }

  toggleUnits(): void {
    this.system.update((s) => (s === "metric" ? "inch" : "metric"));
  }
}

type Shift = "day" | "night";

/** The device’s own light or dark, as it changes. */
function shiftOfSystem(): Signal<Shift> {
  const dark = globalThis.matchMedia?.("(prefers-color-scheme: dark)");
  const shift = signal<Shift>(dark?.matches ? "night" : "day");
  dark?.addEventListener("change", (event) => shift.set(event.matches ? "night" : "day"));
  return shift;
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
