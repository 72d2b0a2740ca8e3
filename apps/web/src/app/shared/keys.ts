import { computed, DestroyRef, inject, Injectable, signal } from "@angular/core";
import type { OperationName } from "@iron/contract";
import { Door } from "../data/door";

/** A key and what it does: the same entry drives the handler and the list under `?`. */
export interface KeyEntry {
  readonly key: string;
  readonly shown: string;
  readonly does: string;
  readonly press: () => void;
  /** What it is for: who may not do that has no such key. */
  readonly needs?: OperationName;
}

const TYPING = 'input, textarea, select, [contenteditable="true"], [role="textbox"]';

/** The one register of keys. No key works while a field has the focus or a dialog is open. */
@Injectable({ providedIn: "root" })
export class Keys {
  private readonly door = inject(Door);
  private readonly entries = signal<readonly KeyEntry[]>([]);
  /** Those of who is here. */
  readonly all = computed(() => this.entries().filter(({ needs }) => !needs || this.door.may(needs)));

  constructor() {
    document.addEventListener("keydown", (event) => this.press(event));
  }

  /** Registers keys until the calling component is destroyed. */
  use(...entries: readonly KeyEntry[]): void {
    this.entries.update((all) => [...all, ...entries]);
    inject(DestroyRef).onDestroy(() => this.entries.update((all) => all.filter((e) => !entries.includes(e))));
  }

  private press(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
    const target = event.target instanceof Element ? event.target : null;
    if (target?.closest(TYPING)) return;
    if (document.querySelector('[role="dialog"]')) return;
    if (event.key === " " && target?.closest('button, a, summary, [role="tab"]')) return;
    const entry = this.all().findLast((e) => e.key === event.key || e.key === event.key.toLowerCase());
    if (!entry) return;
    event.preventDefault();
    entry.press();
  }
}
