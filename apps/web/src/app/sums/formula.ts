import { ChangeDetectionStrategy, Component, effect, ElementRef, inject, input } from "@angular/core";
import temml from "temml";

/** A formula set as MathML, which the browser draws and a screen reader speaks. */
@Component({
  selector: "ip-formula",
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: "",
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: var(--space-1) var(--space-4);
      overflow-x: auto;
      padding-block: var(--space-1);
    }
  `,
})
export class Formula {
  /** In TeX. */
  readonly tex = input.required<string>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  constructor() {
    effect(() =>
      this.host.nativeElement.replaceChildren(
        ...this.tex()
          .split(String.raw`\quad`)
          .map(set),
      ),
    );
  }
}

/** No browser breaks a formula: its parts are set by themselves, so that a phone shows them below each other. */
function set(part: string): HTMLElement {
  const room = document.createElement("span");
  temml.render(part, room);
  return room;
}
