import { ChangeDetectionStrategy, Component } from "@angular/core";
import { InputText } from "primeng/inputtext";
import { FieldBase } from "../shared/field-base";

/** A passphrase that is chosen: not seen, and not kept by the browser. */
@Component({
  selector: "ip-secret-field",
  imports: [InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: "field" },
  template: `
    <label [for]="id">{{ label() }}</label>
    <input
      pInputText
      type="password"
      autocomplete="new-password"
      maxlength="128"
      [id]="id"
      [disabled]="off()"
      [value]="held() ?? ''"
      [attr.aria-invalid]="refused() ? true : null"
      [attr.aria-describedby]="id + '-said'"
      (input)="tell($any($event.target).value)"
      (blur)="blurred()"
    />
    <span class="said" [id]="id + '-said'">
      @if (refused(); as message) {
        <span class="wrong" role="alert">{{ message }}</span>
      } @else {
        <span class="hint">{{ hint() }}</span>
      }
    </span>
  `,
})
export class SecretField extends FieldBase<string> {}
