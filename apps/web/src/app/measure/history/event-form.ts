import { ChangeDetectionStrategy, Component, inject } from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { axisEventCreateSchema, type AxisEvent } from "@iron/contract";
import { dayOf, noonOf } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { Api } from "../../data/api";
import { VersionedSave } from "../../data/versioned-save";
import { AxisContext } from "../../machine/axis/axis-context";
import { DayField } from "../../shared/day-field";
import { ChoiceField, choicesOf, TextField } from "../../shared/fields";
import { bySchema, gate } from "../../shared/schema-form";

interface Typed {
  readonly kind: AxisEvent["kind"];
  readonly text: string;
  /** Year, month and day. */
  readonly at: string;
}

/** What happened to an axis, noted: it explains a step in the curve later. */
@Component({
  selector: "ip-event-form",
  imports: [ButtonDirective, ChoiceField, DayField, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="no-print" [formGroup]="form" (ngSubmit)="note()" aria-label="Something that happened">
      <div class="fields">
        <ip-choice-field label="Kind" formControlName="kind" [choices]="kinds" />
        <ip-day-field label="Day" formControlName="at" />
        <ip-text-field
          class="wide"
          label="What was done or happened"
          formControlName="text"
          [error]="sending.message()"
        />
      </div>
      <div class="acts">
        <button pButton severity="secondary" type="submit" [disabled]="sending.busy()">Note it</button>
      </div>
    </form>
  `,
})
export class EventForm {
  private readonly api = inject(Api);
  private readonly context = inject(AxisContext);
  private readonly maySend = gate();
  protected readonly kinds = choicesOf(["repair", "adjustment", "crash", "move", "lubrication", "note"]);
  protected readonly form = new FormGroup(
    {
      kind: new FormControl<AxisEvent["kind"]>("repair", { nonNullable: true }),
      at: new FormControl(dayOf(new Date()), { nonNullable: true }),
      text: new FormControl("", { nonNullable: true }),
    },
    { validators: bySchema(axisEventCreateSchema, eventOf) },
  );
  protected readonly sending = new VersionedSave<never>();

  protected note(): void {
    const axis = this.context.axis();
    if (!axis || !this.maySend(this.form)) return;
    const body = eventOf(this.form.getRawValue());
    this.sending.send(
      () => this.api.call("createEvent", { params: { id: axis.id }, body }),
      () => {
        this.form.controls.text.reset();
        this.context.reload();
      },
    );
  }
}

/** Of today it is the moment, of another day its noon. */
function eventOf({ kind, text, at: day }: Typed): Omit<AxisEvent, "id" | "by"> {
  const at = day === dayOf(new Date()) ? new Date() : noonOf(day);
  return { kind, text, at: Number.isNaN(at.getTime()) ? "" : at.toISOString() };
}
