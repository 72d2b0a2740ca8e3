import { ChangeDetectionStrategy, Component, computed, inject } from "@angular/core";
import type { CaseContext } from "@iron/core";
import type { Place } from "@iron/contract";
import { AxisContext } from "../machine/axis/axis-context";
import { NumberField } from "../shared/fields";
import { BEGAN_AFTER, ONLY_WHEN, WHERE, WORK_HERE } from "./case.view";
import { CaseStore } from "./case-store";
import { Toggles } from "./toggles";

type Flag = (typeof BEGAN_AFTER)[number]["id"] | (typeof WORK_HERE)[number]["id"];

/** Where along the travel, when, and since what: two taps. */
@Component({
  selector: "ip-where-when",
  imports: [NumberField, Toggles],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    @let file = store.open();
    @if (file) {
      <ip-toggles label="Where" [options]="places" [value]="place()" (one)="at($event)" />
      @if (store.told().place; as where) {
        @if (where.kind === "spot") {
          <ip-number-field
            label="At"
            quantity="length"
            [none]="true"
            [least]="0"
            [most]="context.axis()?.config?.travelMm ?? 0"
            [value]="where.atMm"
            (read)="store.setTold({ place: { kind: 'spot', atMm: $event } })"
          />
        }
      }
      <ip-toggles label="Only when" [options]="whens" [value]="only()" (one)="store.setContext({ only: $event })" />
      <ip-toggles several label="Since, or after" [options]="after" [value]="begun()" (picked)="flag(after, $event)" />
      <ip-toggles several label="The work here is" [options]="work" [value]="worked()" (picked)="flag(work, $event)" />
      <div class="fields">
        <ip-number-field
          label="Weeks since somebody worked on it"
          [none]="true"
          [least]="0"
          [most]="5000"
          [value]="file.context.weeksSinceWork"
          (read)="store.setContext({ weeksSinceWork: $event })"
        />
        <ip-number-field
          label="Age of the axis, years"
          [none]="true"
          [least]="0"
          [most]="80"
          [value]="file.context.ageYears"
          (read)="store.setContext({ ageYears: $event })"
        />
      </div>
    }
  `,
})
export class WhereWhen {
  protected readonly context = inject(AxisContext);
  protected readonly store = inject(CaseStore);
  protected readonly places = WHERE;
  protected readonly whens = ONLY_WHEN;
  protected readonly after = BEGAN_AFTER;
  protected readonly work = WORK_HERE;
  protected readonly place = computed(() => {
    const kind = this.store.told().place?.kind;
    return kind ? [kind] : [];
  });
  protected readonly only = computed(() => {
    const only = this.store.current()?.context.only;
    return only ? [only] : [];
  });

  // Once for each change: an array made anew at every look would never come to rest.
  protected readonly begun = computed(() => this.so(BEGAN_AFTER));
  protected readonly worked = computed(() => this.so(WORK_HERE));

  private so<T extends Flag>(of: readonly { readonly id: T }[]): readonly T[] {
    const context = this.store.current()?.context;
    return of.map((one) => one.id).filter((id) => context?.[id] === true);
  }

  protected at(kind: Place["kind"] | null): void {
    this.store.setTold({ place: kind ? { kind, atMm: null } : null });
  }

  /** What is pressed is so; what is not pressed is not known, unless another of them is. */
  protected flag<T extends Flag>(of: readonly { readonly id: T }[], chosen: readonly T[]): void {
    const change: Partial<CaseContext> = Object.fromEntries(
      of.map(({ id }) => [id, chosen.includes(id) ? true : chosen.length ? false : null]),
    );
    this.store.setContext(change);
  }
}
