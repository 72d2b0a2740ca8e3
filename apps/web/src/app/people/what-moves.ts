import { ChangeDetectionStrategy, Component, inject, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { Driving, type Driven } from "../data/driving";
import { saidIn } from "../data/problems";

/** What still moves while it is asked who it is: whoever stands there may stop it. */
@Component({
  selector: "ip-what-moves",
  imports: [ButtonDirective],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (one of driving.now(); track one.what) {
      <p class="moves" role="alert">
        <span>{{ one.what }} moves.</span>
        <button type="button" pButton (click)="stop(one)">Stop it</button>
      </p>
    }
    @if (failed()) {
      <p class="bad" role="alert">Not stopped: {{ failed() }}</p>
    }
  `,
  styles: `
    :host {
      position: fixed;
      z-index: 10001;
      inset: auto 0 0;
      background: var(--sheet);
    }
    p {
      margin: 0;
      padding: var(--space-3) var(--space-5);
    }
    .moves {
      display: flex;
      gap: var(--space-4);
      align-items: center;
      border-top: 2px solid var(--graphite);
      font-size: var(--type-4);
    }
    .moves .p-button {
      min-height: 64px;
      min-width: 160px;
      justify-content: center;
      font-size: var(--type-4);
    }
  `,
})
export class WhatMoves {
  protected readonly driving = inject(Driving);
  protected readonly failed = signal("");

  protected stop(one: Driven): void {
    this.failed.set("");
    one.stop().subscribe({ error: saidIn(this.failed) });
  }
}
