import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  input,
  output,
  signal,
  viewChild,
  type AfterViewInit,
} from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { InputText } from "primeng/inputtext";

let made = 0;

/** A PIN by big keys, for gloves, or a passphrase by the keyboard. */
@Component({
  selector: "ip-pin-pad",
  imports: [ButtonDirective, InputText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (submit)="$event.preventDefault(); send()">
      <div class="field">
        <label [for]="id">{{ label() }}</label>
        <input
          #field
          pInputText
          type="password"
          autocomplete="off"
          maxlength="128"
          [id]="id"
          [attr.inputmode]="letters() ? 'text' : 'none'"
          [attr.aria-describedby]="id + '-said'"
          [attr.aria-invalid]="message() ? true : null"
          [value]="typed()"
          (input)="typed.set($any($event.target).value)"
        />
      </div>
      <p class="said wrong" role="alert" [id]="id + '-said'">{{ message() }}</p>
      @if (!letters()) {
        <div class="pad">
          @for (key of keys; track key) {
            <button type="button" pButton severity="secondary" (click)="press(key)">{{ key }}</button>
          }
          <button type="button" pButton severity="secondary" aria-label="Take the last back" (click)="back()">←</button>
          <button type="button" pButton severity="secondary" (click)="press('0')">0</button>
          <button type="button" pButton text (click)="useLetters()">abc</button>
        </div>
      }
      <div class="acts">
        <button type="submit" pButton [disabled]="busy()">{{ does() }}</button>
        <ng-content />
      </div>
    </form>
  `,
  styles: `
    form {
      max-width: 320px;
    }
    .pad {
      display: grid;
      grid-template-columns: repeat(3, 1fr);
      gap: var(--space-2);
      margin-bottom: var(--space-4);
    }
    .pad .p-button {
      min-height: 64px;
      font-size: var(--type-4);
      justify-content: center;
    }
    .acts .p-button {
      min-height: 56px;
    }
    .said {
      min-height: 2.6em;
      margin: var(--space-1) 0;
    }
    .field {
      margin: 0;
    }
    input {
      font-size: var(--type-4);
      letter-spacing: 0.2em;
    }
  `,
})
export class PinPad implements AfterViewInit {
  readonly label = input.required<string>();
  readonly does = input("Go on");
  readonly busy = input(false);
  readonly message = input("");
  readonly given = output<string>();
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>("field");
  protected readonly id = `pin-${(made += 1)}`;
  protected readonly keys = ["1", "2", "3", "4", "5", "6", "7", "8", "9"];
  protected readonly typed = signal("");
  protected readonly letters = signal(false);

  ngAfterViewInit(): void {
    this.field().nativeElement.focus();
  }

  protected press(key: string): void {
    this.typed.update((t) => t + key);
  }

  protected back(): void {
    this.typed.update((t) => t.slice(0, -1));
  }

  /** A passphrase is typed: the device’s own keyboard comes up. */
  protected useLetters(): void {
    this.letters.set(true);
    setTimeout(() => this.field().nativeElement.focus());
  }

  protected send(): void {
    const secret = this.typed();
    if (this.busy()) return;
    if (!secret) {
      this.field().nativeElement.focus();
      return;
    }
    // What was wrong is not typed on.
    this.typed.set("");
    this.given.emit(secret);
  }
}
