import {
  DestroyRef,
  Directive,
  effect,
  type EmbeddedViewRef,
  inject,
  input,
  TemplateRef,
  untracked,
  ViewContainerRef,
} from "@angular/core";
import type { OperationName } from "@iron/contract";
import { Door } from "../data/door";

/**
 * Offers a thing only to who may do it: the table of the contract by which the server refuses. What is half filled in
 * is kept, for when its own is back.
 * @example <button *ipMay="'retireMachine'">Retire the machine</button>
 */
@Directive({ selector: "[ipMay]" })
export class May {
  readonly ipMay = input.required<OperationName>();
  private readonly door = inject(Door);
  private readonly place = inject(ViewContainerRef);
  private readonly template = inject<TemplateRef<unknown>>(TemplateRef);
  private view: EmbeddedViewRef<unknown> | null = null;

  constructor() {
    effect(() => {
      const shut = this.door.shut();
      const may = this.door.may(this.ipMay());
      // Behind the door nothing changes: it is not known yet who comes.
      if (!shut || this.view === null) untracked(() => this.offer(may));
    });
    inject(DestroyRef).onDestroy(() => this.view?.destroy());
  }

  private offer(may: boolean): void {
    const offered = this.place.length > 0;
    if (may === offered) return;
    if (!may) this.place.detach();
    else if (this.view) this.place.insert(this.view);
    else this.view = this.place.createEmbeddedView(this.template);
  }
}
