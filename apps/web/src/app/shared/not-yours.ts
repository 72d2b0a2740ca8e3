import { ChangeDetectionStrategy, Component, computed, inject, input } from "@angular/core";
import { ACCESS, type OperationName } from "@iron/contract";
import { Door } from "../data/door";

/** Says whose a thing is to do, where somebody else looks; nothing where they may. */
@Component({
  selector: "ip-not-yours",
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (says(); as says) {
      <p class="quiet" role="status">{{ says }}</p>
    }
  `,
})
export class NotYours {
  readonly does = input.required<OperationName>();
  private readonly door = inject(Door);
  protected readonly says = computed(() => {
    const does = this.does();
    const person = this.door.me()?.person;
    if (!person || this.door.may(does)) return "";
    const here = person.role === "look" ? "to look" : `as ${person.role}`;
    return `To change what stands here is for a ${ACCESS[does]}; ${person.name} is here ${here}.`;
  });
}
