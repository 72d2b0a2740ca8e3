import { Directive, ElementRef, inject } from "@angular/core";

/**
 * A press that brings the next thing under the same finger: the second of a double one meant the first, and is none.
 * @example <button ipSingle (click)="sign()">Sign the step</button>
 */
@Directive({ selector: "button[ipSingle]" })
export class Single {
  constructor() {
    const button = inject<ElementRef<HTMLButtonElement>>(ElementRef).nativeElement;
    // Before whatever else hears of it; a browser counts the presses of one place that follow each other at once.
    const hear = (event: MouseEvent): void => {
      if (event.detail < 2) return;
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    button.addEventListener("click", hear, { capture: true });
  }
}
