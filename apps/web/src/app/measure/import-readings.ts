import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { formatDeviation, formatPosition, TEST_TEXT } from "@iron/core";
import { parseReadingsCsv, planOfRows, type IndicatorRecord } from "@iron/contract";
import { catchError, of } from "rxjs";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { Onward } from "../data/onward";
import { Preferences } from "../data/preferences";
import { problemFrom } from "../data/problems";
import { AxisContext } from "../machine/axis/axis-context";
import { gate } from "../shared/schema-form";
import { TickBox } from "../shared/tick-box";
import { ReadWith, readWith, readWithForm, setupOf } from "./read-with";

const SHOWN = 60;
const LARGEST = 2_000_000;

/** Readings from a CSV file: read here, shown, and kept only when confirmed. */
@Component({
  selector: "ip-import-readings",
  imports: [ButtonDirective, ReactiveFormsModule, ReadWith, RouterLink, TickBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./import-readings.html",
  styleUrl: "./measure.css",
})
export class ImportReadings {
  protected readonly context = inject(AxisContext);
  protected readonly preferences = inject(Preferences);
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  private readonly notices = inject(Notices);
  private readonly file = signal<{ name: string; text: string } | null>(null);
  protected readonly fileName = computed(() => this.file()?.name ?? "");
  protected readonly error = signal("");
  protected readonly keeping = signal(false);
  protected readonly form = new FormGroup({
    readWith: readWithForm(null),
    keepsZero: new FormControl(false, { nonNullable: true }),
  });
  protected readonly ask = { label: "When the axis went to plus, the needle", one: "rose", other: "fell" };
  private readonly maySend = gate();
  private readonly keepsZero = toSignal(this.form.controls.keepsZero.valueChanges, { initialValue: false });
  private readonly indicators = toSignal(this.api.call("indicators").pipe(catchError(() => of([]))), {
    initialValue: [] as IndicatorRecord[],
  });
  protected readonly usable = computed(() => this.indicators().filter((i) => !i.retiredAt));
  protected readonly ready = computed(
    () => this.parsed()?.errors.length === 0 && !this.keeping() && this.usable().length > 0,
  );
  protected readonly parsed = computed(() => {
    const file = this.file();
    return file ? parseReadingsCsv(file.text) : null;
  });
  protected readonly preview = computed(() => {
    const parsed = this.parsed();
    if (!parsed || parsed.rows.length === 0) return null;
    const system = this.preferences.system();
    const plan = planOfRows(parsed.rows, this.keepsZero(), this.overTravelMm());
    return {
      message: `${TEST_TEXT[plan.kind].name}: ${parsed.rows.length} readings at ${plan.targetsMm.length} ${plan.targetsMm.length === 1 ? "place" : "places"}, ${plan.runs} ${plan.runs === 1 ? "run" : "runs"}.`,
      many: plan.targetsMm.length > 1,
      rows: parsed.rows.slice(0, SHOWN).map((r) => ({
        line: r.line,
        place: formatPosition(r.placeMm, { system }),
        approach: r.approach,
        run: r.run,
        reading: formatDeviation(r.readingMm, { system, signed: true }),
        state: r.state,
      })),
      more: Math.max(0, parsed.rows.length - SHOWN),
    };
  });

  constructor() {
    effect(() => {
      const first = this.usable().at(0);
      // What somebody has set already stays.
      if (first && this.form.controls.readWith.pristine) untracked(() => readWith(this.form.controls.readWith, first));
    });
  }

  protected pick(files: FileList | null): void {
    const file = files?.[0];
    if (!file) return;
    if (file.size > LARGEST) {
      this.error.set(`${file.name} has ${(file.size / 1e6).toFixed(1)} MB: at most 2 MB are taken.`);
      return;
    }
    this.error.set("");
    void file.text().then(
      (text) => this.file.set({ name: file.name, text }),
      () => this.error.set(`${file.name} could not be read.`),
    );
  }

  protected keep(): void {
    const file = this.file();
    const axis = this.context.axis();
    if (!file || !axis || !this.ready() || !this.maySend(this.form)) return;
    const { readWith: chosen, keepsZero } = this.form.getRawValue();
    const indicator = this.usable().find((i) => i.id === chosen.indicator);
    if (!indicator) return;
    const setup = setupOf(this.form.controls.readWith, indicator, `from ${file.name}`.slice(0, 500));
    const [onward, base] = [this.onward.fromHere(), this.context.base()];
    this.keeping.set(true);
    this.api
      .call("importRun", {
        params: { id: axis.id },
        body: {
          fileName: file.name,
          text: file.text,
          setup,
          keepsZero,
          overTravelMm: this.overTravelMm(),
        },
      })
      .subscribe({
        next: (result) => {
          this.notices.say(
            result.duplicate
              ? "These readings are already here: nothing was kept twice."
              : `${result.readings} readings kept.`,
          );
          this.context.reload();
          onward(`${base}/runs/${result.runId}`);
        },
        error: (error: unknown) => {
          this.keeping.set(false);
          this.error.set(problemFrom(error).detail);
        },
      });
  }

  /** Files do not say how far past the targets the axis went; the least that is certain. */
  private overTravelMm(): number {
    const parsed = this.parsed();
    const travel = this.context.axis()?.config.travelMm ?? 0;
    const places = parsed?.rows.map((r) => r.placeMm) ?? [];
    const room = Math.min(...places, ...places.map((p) => travel - p), 30);
    return room > 0 && Number.isFinite(room) ? room : 0.001;
  }
}
