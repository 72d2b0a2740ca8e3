import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from "@angular/core";
import { FormControl, ReactiveFormsModule } from "@angular/forms";
import { finding, HURTS, SAID_AS, symptomsFor, type AxisConfig, type FindingId } from "@iron/core";
import Fuse from "fuse.js";
import { AutoComplete } from "primeng/autocomplete";
import { Keys } from "../shared/keys";
import { asToggles, type Toggle } from "./case.view";

/** So many are offered: more would be read through. */
const OFFERED = 6;

/** Free words find a symptom: “howls”, “crunchy”, “skips”. */
@Component({
  selector: "ip-say-what",
  imports: [AutoComplete, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-autocomplete
      ariaLabel="In your own words"
      placeholder="In your own words: howls, crunchy, skips…"
      appendTo="body"
      optionLabel="label"
      fluid
      autoOptionFocus
      emptyMessage="No symptom is called that: choose below, or write it among the notes"
      [delay]="100"
      [suggestions]="found()"
      [formControl]="text"
      (completeMethod)="look($event.query)"
      (onSelect)="take(asToggle($event.value))"
    />
  `,
  styles: `
    :host {
      display: block;
    }
  `,
})
export class SayWhat {
  readonly axis = input.required<AxisConfig>();
  readonly picked = output<FindingId>();
  protected readonly keys = inject(Keys);
  protected readonly text = new FormControl<string | Toggle<FindingId>>("", { nonNullable: true });
  protected readonly found = signal<Toggle<FindingId>[]>([]);
  /** PrimeNG’s templates know nothing of what they are given. */
  protected readonly asToggle = (one: unknown): Toggle<FindingId> => one as Toggle<FindingId>;
  private readonly index = computed(() => {
    const axis = this.axis();
    const ids = [...new Set(HURTS.flatMap((hurt) => symptomsFor(axis, hurt)))];
    const rows = ids.map((id) => ({ id, text: finding(id).text, words: (SAID_AS[id] ?? "").split(", ") }));
    return new Fuse(rows, {
      keys: ["words", { name: "text", weight: 0.6 }],
      threshold: 0.35,
      ignoreLocation: true,
      minMatchCharLength: 3,
    });
  });

  protected look(query: string): void {
    const ids = this.index()
      .search(query, { limit: OFFERED })
      .map(({ item }) => item.id);
    this.found.set(asToggles(ids));
  }

  protected take(one: Toggle<FindingId>): void {
    this.text.setValue("", { emitEvent: false });
    this.found.set([]);
    this.picked.emit(one.id);
  }
}
