import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import { ButtonDirective } from "primeng/button";
import { formatSize, toMm, unitOf, type HandTestKind, type HandTestPlan } from "@iron/core";
import { parseDecimal } from "@iron/contract";
import { catchError, of } from "rxjs";
import { Api } from "../../data/api";
import { Preferences } from "../../data/preferences";
import { ChoiceField, TextField } from "../../shared/fields";

/** What a row of readings needs to know besides the axis’ usual plan. */
export type HandTestExtra = Partial<Pick<HandTestPlan, "spanMm" | "depthMm" | "resolutionMm" | "gib">>;

/** Asks what cannot be guessed before a row of readings: the spans of a sweep, and with what it is read. */
@Component({
  selector: "ip-hand-test-set-up",
  imports: [ButtonDirective, ChoiceField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="fields" (submit)="$event.preventDefault(); start()" novalidate [attr.aria-label]="'Begin: ' + name()">
      <ip-choice-field
        label="Read with"
        [none]="indicators().length ? '' : 'an indicator nobody noted'"
        [value]="indicator()?.id ?? ''"
        [choices]="withWhat()"
        (chosen)="chosen.set(+$event)"
      />
      @if (kind() === "tram") {
        <ip-text-field
          [label]="'Swept across, ' + unit()"
          mode="decimal"
          [value]="span()"
          (typed)="span.set($event); wrong.set('')"
        />
        <ip-text-field
          [label]="'Swept in depth, ' + unit() + ' (empty: two points)'"
          mode="decimal"
          [value]="depth()"
          (typed)="depth.set($event); wrong.set('')"
        />
        <span id="tram-wrong" class="wrong" role="alert">{{ wrong() }}</span>
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
  protected readonly chosen = signal(0);
  protected readonly indicator = computed(
    () => this.indicators().find((i) => i.id === this.chosen()) ?? this.indicators().at(0) ?? null,
  );
  protected readonly withWhat = computed(() =>
    this.indicators().map((i) => ({ id: i.id, words: `${i.name}, steps of ${this.step(i.resolutionMm)}` })),
  );
  protected readonly span = signal("");
  protected readonly depth = signal("");
  protected readonly wrong = signal("");
  protected readonly unit = computed(() => unitOf("length", this.preferences.system()));

  protected step(mm: number): string {
    return formatSize(mm, this.preferences.system());
  }

  protected start(): void {
    const resolutionMm = this.indicator()?.resolutionMm;
    const read = resolutionMm === undefined ? {} : { resolutionMm };
    if (this.kind() !== "tram") {
      this.begin.emit(read);
      return;
    }
    const inch = this.preferences.system() === "inch";
    const length = (text: string): number => {
      const value = parseDecimal(text);
      return value === undefined ? NaN : toMm(value, inch ? "in" : "mm");
    };
    const spanMm = length(this.span());
    const depthMm = this.depth().trim() === "" ? 0 : length(this.depth());
    const fits = (mm: number): boolean => mm >= 20 && mm <= 3000;
    if (!fits(spanMm) || (depthMm !== 0 && !fits(depthMm))) {
      const said = fits(spanMm) ? this.depth() : this.span();
      this.wrong.set(
        `${said.trim() ? `“${said.trim()}” cannot be` : "Say how far was swept"}: from ${this.step(20)} to ${this.step(3000)}.`,
      );
      return;
    }
    this.begin.emit({ ...read, spanMm, depthMm });
  }
}
