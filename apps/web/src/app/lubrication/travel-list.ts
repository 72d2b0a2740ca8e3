import { ChangeDetectionStrategy, Component, computed, input, output, signal } from "@angular/core";
import type { LubricationSettings, MachineMeter } from "@iron/contract";
import { BoundError, formatNumber, kmPerHour, programTravel } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { ChoicesPipe } from "../shared/choices.pipe";
import { ChoiceField } from "../shared/fields";

type Travel = LubricationSettings["travel"];
/** Speed of rapid that a program’s time is reckoned with, mm/min (common practice, no source). */
const RAPID_MM_MIN = 15_000;
const LARGEST_BYTES = 5_000_000;

/** What each axis travels in an hour of running, read from part programs. */
@Component({
  selector: "ip-travel-list",
  imports: [ButtonDirective, ChoiceField, ChoicesPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    <h2>Travel from part programs</h2>
    <p class="quiet">
      Distance counts from what a machine runs. Without a program an axis counts a twentieth of its rapid.
    </p>
    <ul class="walked">
      @for (one of rows(); track one.machineId + one.letter) {
        <li>
          {{ one.machine }} {{ one.letter }}: {{ one.text }}, {{ one.from }}
          <button
            type="button"
            pButton
            text
            (click)="drop(one.machineId, one.letter)"
            [attr.aria-label]="'Strike out ' + one.machine + ' ' + one.letter"
          >
            strike out
          </button>
        </li>
      } @empty {
        <li>no program yet</li>
      }
    </ul>
    <div class="acts">
      <ip-choice-field
        label="Program of"
        none="choose a machine"
        [value]="machineId() ?? ''"
        [choices]="machines() | choices: 'machineId' : 'nickname'"
        (chosen)="machineId.set(+$event || null)"
      />
      <div class="field">
        <label for="program-file">G-code file</label>
        <input id="program-file" type="file" class="p-inputtext" (change)="read($any($event.target))" />
      </div>
    </div>
    @if (message()) {
      <p class="wrong" role="alert">{{ message() }}</p>
    }
  `,
})
export class TravelList {
  readonly travel = input.required<Travel>();
  readonly machines = input.required<readonly MachineMeter[]>();
  readonly changed = output<Travel>();
  protected readonly machineId = signal<number | null>(null);
  protected readonly message = signal("");
  protected readonly rows = computed(() =>
    this.travel().map((x) => ({
      ...x,
      machine: this.machines().find((m) => m.machineId === x.machineId)?.nickname ?? "",
      text: `${formatNumber(x.kmPerHour, 2)} km an hour of running`,
    })),
  );

  protected read(field: HTMLInputElement): void {
    const file = field.files?.[0];
    const machineId = this.machineId();
    this.message.set("");
    if (!file) return;
    if (machineId === null) this.message.set("Choose the machine first.");
    else if (file.size > LARGEST_BYTES) this.message.set(`${file.name} is larger than 5 MB.`);
    else
      void file.text().then((text) => {
        field.value = "";
        this.take(text, file.name, machineId);
      });
  }

  private take(text: string, name: string, machineId: number): void {
    try {
      const travel = programTravel(text, RAPID_MM_MIN);
      const rows = Object.entries(kmPerHour(travel)).map(([letter, km]) => ({
        machineId,
        letter,
        kmPerHour: km,
        from: name.slice(0, 80),
      }));
      const others = this.travel().filter((x) => x.machineId !== machineId || !rows.some((r) => r.letter === x.letter));
      this.changed.emit([...others, ...rows]);
      this.message.set(travel.notes.join(" "));
    } catch (error) {
      if (!(error instanceof BoundError)) throw error;
      this.message.set(`${name}: ${error.message}`);
    }
  }

  protected drop(machineId: number, letter: string): void {
    this.changed.emit(this.travel().filter((x) => x.machineId !== machineId || x.letter !== letter));
  }
}
