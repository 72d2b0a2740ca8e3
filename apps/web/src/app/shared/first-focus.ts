import { afterNextRender, Directive, ElementRef, inject } from "@angular/core";

/**
 * What is typed into first, as soon as it is there. A dialog’s own way waits until it has moved in, and takes the
 * focus from whoever was quicker.
 * @example <p-dialog [focusOnShow]="false"><ip-text-field ipFirstFocus … /></p-dialog>
 */
@Directive({ selector: "[ipFirstFocus]" })
export class FirstFocus {
  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterNextRender(() =>
      (host.matches("input, button") ? host : host.querySelector<HTMLElement>("input, button"))?.focus(),
    );
  }
}
