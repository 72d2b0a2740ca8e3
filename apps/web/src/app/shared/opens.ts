import { afterNextRender, Directive, ElementRef, inject } from "@angular/core";

/** What opens on a press is seen: it is scrolled to, and its first field has the keyboard. */
@Directive({ selector: "[ipOpens]" })
export class Opens {
  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterNextRender(() => {
      host.scrollIntoView({ block: "nearest" });
      host.querySelector<HTMLElement>("input, select, textarea")?.focus({ preventScroll: true });
    });
  }
}
