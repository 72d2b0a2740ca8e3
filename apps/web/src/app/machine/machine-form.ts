import { ChangeDetectionStrategy, Component, computed, input, output } from "@angular/core";
import { MACHINE_KIND_WORDS, MACHINE_KINDS } from "@iron/core";
import { machineEditSchema, type MachineEdit } from "@iron/contract";
import { InputText } from "primeng/inputtext";
import { Textarea } from "primeng/textarea";

/** The fields of a machine; whoever shows it keeps the draft. */
@Component({
  selector: "ip-machine-form",
  imports: [InputText, Textarea],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="fields">
      <div class="field">
        <label for="nickname">Nickname</label>
        <input
          pInputText
          id="nickname"
          autocomplete="off"
          maxlength="60"
          [value]="draft().nickname"
          (input)="edit({ nickname: $any($event.target).value })"
          [attr.aria-invalid]="errors().has('nickname')"
          aria-describedby="nickname-said"
        />
        <span id="nickname-said" class="wrong">{{ said("nickname") }}</span>
      </div>
      <div class="field">
        <label for="bay">Bay</label>
        <input
          pInputText
          id="bay"
          autocomplete="off"
          [value]="draft().bay"
          (input)="edit({ bay: $any($event.target).value })"
          [attr.aria-invalid]="errors().has('bay')"
          aria-describedby="bay-said"
        />
        <span id="bay-said" class="wrong">{{ said("bay") }}</span>
      </div>
      <div class="field">
        <label for="kind">Kind</label>
        <select id="kind" class="p-inputtext" (change)="edit({ kind: $any($event.target).value })">
          @for (kind of kinds; track kind) {
            <option [value]="kind" [selected]="kind === draft().kind">
              {{ kindWords[kind] }}
            </option>
          }
        </select>
      </div>
      <div class="field">
        <label for="hours">Working hours per week</label>
        <input
          pInputText
          id="hours"
          inputmode="decimal"
          [value]="hours()"
          (input)="editHours($any($event.target).value)"
          [attr.aria-invalid]="errors().has('hoursPerWeek')"
          aria-describedby="hours-said"
        />
        <span id="hours-said" class="wrong">{{ said("hoursPerWeek") }}</span>
      </div>
      <div class="field wide">
        <label for="m-note">Note</label>
        <textarea
          pTextarea
          class="p-inputtext"
          id="m-note"
          rows="2"
          [value]="draft().note"
          (input)="edit({ note: $any($event.target).value })"
        ></textarea>
        <span class="wrong">{{ said("note") }}</span>
      </div>
    </div>
  `,
  styles: `
    .wide {
      grid-column: 1 / -1;
    }
  `,
})
export class MachineForm {
  readonly draft = input.required<MachineEdit>();
  /** Show what is wrong, also in fields not yet touched. */
  readonly strict = input(false);
  readonly draftChange = output<MachineEdit>();
  protected readonly kinds = MACHINE_KINDS;
  protected readonly kindWords = MACHINE_KIND_WORDS;
  protected readonly errors = computed(() => machineErrors(this.draft()));
  protected readonly hours = computed(() =>
    Number.isFinite(this.draft().hoursPerWeek) ? String(this.draft().hoursPerWeek) : "",
  );

  protected said(field: keyof MachineEdit): string {
    const empty = this.draft()[field] === "";
    return empty && !this.strict() ? "" : (this.errors().get(field) ?? "");
  }

  protected edit(change: Partial<MachineEdit>): void {
    this.draftChange.emit({ ...this.draft(), ...change });
  }

  protected editHours(text: string): void {
    this.edit({
      hoursPerWeek: text.trim() === "" ? NaN : Number(text.replace(",", ".")),
    });
  }
}

export function machineErrors(draft: MachineEdit): ReadonlyMap<string, string> {
  const result = machineEditSchema.safeParse(draft);
  return new Map((result.error?.issues ?? []).map((i) => [i.path.join("."), i.message]));
}
