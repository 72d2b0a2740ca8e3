import { Directive, effect, inject, input, TemplateRef, untracked, ViewContainerRef } from "@angular/core";
import type { OperationName } from "@iron/contract";
import { Door } from "../data/door";

/**
 * Offers a thing only to who may do it: the table of the contract by which the server refuses.
 * @example <button *ipMay="'retireMachine'">Retire the machine</button>
 */
@Directive({ selector: "[ipMay]" })
export class May {
  readonly ipMay = input.required<OperationName>();
  private readonly door = inject(Door);
  private readonly view = inject(ViewContainerRef);
  private readonly template = inject<TemplateRef<unknown>>(TemplateRef);

  constructor() {
    effect(() => {
      const may = this.door.may(this.ipMay());
      untracked(() => {
        if (!may) this.view.clear();
        else if (this.view.length === 0) this.view.createEmbeddedView(this.template);
      });
    });
  }
}
