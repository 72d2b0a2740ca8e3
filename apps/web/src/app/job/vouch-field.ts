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
      @if (door.stale()) {
        <p class="quiet">
          No connection: who is signed in here is proven by that; another’s PIN is asked for once the server answers.
        </p>
      }
    } @else {
      <ip-text-field class="narrow" label="Who vouches, first name" [most]="40" [formControl]="control()" />
    }
  `,
})
export class VouchField {
  readonly control = input.required<FormControl<string>>();
  protected readonly door = inject(Door);
  protected readonly names = computed(() => {
    const me = this.door.me();
    return me?.door === "people" ? me.names.map(({ name }) => ({ id: name, label: name })) : null;
  });
}
