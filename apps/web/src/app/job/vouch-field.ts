import { ChangeDetectionStrategy, Component, computed, inject, input } from "@angular/core";
import { ReactiveFormsModule, type FormControl } from "@angular/forms";
import { Door } from "../data/door";
import { ChoiceField, TextField } from "../shared/fields";

/** Whose name stands under a hold: by first name, or one who can sign in, where their PIN proves it. */
@Component({
  selector: "ip-vouch-field",
  imports: [ChoiceField, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (names(); as names) {
      <ip-choice-field class="narrow" label="Who vouches, by PIN" none="" [choices]="names" [formControl]="control()" />
    } @else {
      <ip-text-field class="narrow" label="Who vouches, first name" [most]="40" [formControl]="control()" />
    }
  `,
})
export class VouchField {
  readonly control = input.required<FormControl<string>>();
  private readonly door = inject(Door);
  protected readonly names = computed(() => {
    const me = this.door.me();
    return me?.door === "people" ? me.names.map(({ name }) => ({ id: name, label: name })) : null;
  });
}
