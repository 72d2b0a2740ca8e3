import { ChangeDetectionStrategy, Component, input, output, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { TextField } from "../../shared/fields";
import { Opens } from "../../shared/opens";

/** Giving a test up, with or without a reason; its readings stay on record. */
@Component({
  selector: "ip-give-up",
  imports: [ButtonDirective, Opens, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./run.css",
  template: `
    <form
      ipOpens
      class="boxed no-print give-up"
      (submit)="$event.preventDefault(); given.emit(why().trim())"
      aria-label="Give the test up"
    >
      <ip-text-field
        label="Why it is given up: kept with its readings, may stay empty"
        [most]="300"
        [value]="why()"
        (typed)="why.set($event)"
      />
      <div class="acts">
        <button type="submit" pButton [disabled]="busy()">Give the test up</button>
        <button type="button" pButton severity="secondary" (click)="left.emit()">Go on with it</button>
      </div>
    </form>
  `,
})
export class GiveUp {
  readonly busy = input.required<boolean>();
  /** With why; empty where nobody says. */
  readonly given = output<string>();
  readonly left = output();
  protected readonly why = signal("");
}
