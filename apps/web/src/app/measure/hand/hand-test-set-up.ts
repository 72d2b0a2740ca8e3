import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, untracked } from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { ButtonDirective } from "primeng/button";
import { formatSize, type HandTestKind, type HandTestPlan } from "@iron/core";
import { catchError, of } from "rxjs";
import { Api } from "../../data/api";
import { Preferences } from "../../data/preferences";
import { ChoiceField, NumberField } from "../../shared/fields";
import { byRule, gate } from "../../shared/schema-form";

/** What a row of readings needs to know besides the axis’ usual plan. */
export type HandTestExtra = Partial<Pick<HandTestPlan, "spanMm" | "depthMm" | "resolutionMm" | "gib">>;

/** Asks what cannot be guessed before a row of readings: the spans of a sweep, and with what it is read. */
@Component({
  selector: "ip-hand-test-set-up",
  imports: [ButtonDirective, ChoiceField, NumberField, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="fields" [formGroup]="form" (ngSubmit)="start()" [attr.aria-label]="'Begin: ' + name()">
      <ip-choice-field
        label="Read with"
        formControlName="indicator"
        [none]="indicators().length ? '' : 'an indicator nobody noted'"
        [choices]="withWhat()"
      />
      @if (kind() === "tram") {
        <ip-number-field label="Swept across" quantity="length" [least]="20" [most]="3000" formControlName="spanMm" />
        <ip-number-field
          label="Swept in depth"
          quantity="length"
          none
          hint="empty: two points"
          [least]="20"
          [most]="3000"
          formControlName="depthMm"
        />
      }
      <div class="acts">
        <button type="submit" pButton severity="secondary">
          Begin <span class="sr-only">{{ name() }}</span>
        </button>
      </div>
    </form>
  `,
  styleUrl: "./set.css",
})
export class HandTestSetUp {
  readonly kind = input.required<HandTestKind>();
  readonly name = input.required<string>();
  readonly begin = output<HandTestExtra>();
  private readonly preferences = inject(Preferences);
  private readonly all = toSignal(
    inject(Api)
      .call("indicators")
      .pipe(catchError(() => of([]))),
    { initialValue: [] },
  );
  protected readonly indicators = computed(() => this.all().filter((i) => !i.retiredAt));
  /** A tram’s span is asked, never guessed. */
  protected readonly form = new FormGroup({
    indicator: new FormControl<number | "">("", { nonNullable: true }),
    spanMm: new FormControl<number | null>(
      null,
      byRule((mm: number | null) => this.spanWanted(mm)),
    ),
    depthMm: new FormControl<number | null>(null),
  });
  private readonly maySend = gate();
  protected readonly withWhat = computed(() =>
    this.indicators().map((i) => ({ id: i.id, label: `${i.name}, steps of ${this.step(i.resolutionMm)}` })),
  );

  constructor() {
    effect(() => {
      const first = this.indicators().at(0);
      const { indicator } = this.form.controls;
      if (first && indicator.pristine) untracked(() => indicator.setValue(first.id));
    });
  }

  private step(mm: number): string {
    return formatSize(mm, this.preferences.system());
  }

  private spanWanted(mm: number | null): string {
    return mm === null ? `Say how far was swept: from ${this.step(20)} to ${this.step(3000)}.` : "";
  }

  protected start(): void {
    const { indicator: id, spanMm, depthMm } = this.form.getRawValue();
    const indicator = this.indicators().find((i) => i.id === id);
    const read = indicator ? { resolutionMm: indicator.resolutionMm } : {};
    if (this.kind() !== "tram") {
      this.begin.emit(read);
      return;
    }
    if (this.maySend(this.form)) this.begin.emit({ ...read, spanMm: spanMm ?? 0, depthMm: depthMm ?? 0 });
  }
}
