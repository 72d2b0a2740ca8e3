import { TickBox } from "../shared/tick-box";
import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import { Router, RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { formatDeviation, formatPosition, TEST_WORDS, tipAngleFactor } from "@iron/core";
import {
  parseDecimal,
  parseReadingsCsv,
  planOfRows,
  SURFACES,
  type IndicatorRecord,
  type RunSetup,
} from "@iron/contract";
import { catchError, of } from "rxjs";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { Preferences } from "../data/preferences";
import { problemFrom } from "../data/problems";
import { AxisContext } from "../machine/axis/axis-context";
import { type Choice, ChoiceField, TextField } from "../shared/fields";
import { ChoicesPipe } from "../shared/choices.pipe";

const SHOWN = 60;
const LARGEST = 2_000_000;

/** Readings from a CSV file: read here, shown, and kept only when confirmed. */
@Component({
  selector: "ip-import-readings",
  imports: [ButtonDirective, TickBox, RouterLink, ChoiceField, TextField, ChoicesPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./import-readings.html",
  styleUrl: "./measure.css",
})
export class ImportReadings {
  protected readonly context = inject(AxisContext);
  protected readonly preferences = inject(Preferences);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  private readonly file = signal<{ name: string; text: string } | null>(null);
  protected readonly fileName = computed(() => this.file()?.name ?? "");
  protected readonly wrong = signal("");
  protected readonly keeping = signal(false);
  protected readonly keepsZero = signal(false);
  private readonly indicators = toSignal(this.api.call("indicators").pipe(catchError(() => of([]))), {
    initialValue: [] as IndicatorRecord[],
  });
  protected readonly usable = computed(() => this.indicators().filter((i) => !i.retiredAt));
  private readonly chosen = signal<number | null>(null);
  protected readonly indicator = computed<IndicatorRecord | null>(
    () => this.usable().find((i) => i.id === this.chosen()) ?? this.usable()[0] ?? null,
  );
  protected readonly surfaces = SURFACES;
  protected readonly surface = signal<RunSetup["surface"]>("gauge block");
  protected readonly senses: readonly Choice<1 | -1>[] = [
    { id: 1, words: "rose" },
    { id: -1, words: "fell" },
  ];
  protected readonly sense = signal<1 | -1>(1);
  private readonly typedTip = signal<string | null>(null);
  protected readonly tipText = computed(() => this.typedTip() ?? String(this.indicator()?.tipAngleDeg ?? 0));
  protected readonly tip = computed(() => {
    const deg = parseDecimal(this.tipText());
    const bad = deg === undefined || deg < 0 || deg >= 80;
    return bad
      ? {
          deg: null,
          said: `Tip angle “${this.tipText().trim()}” cannot be: it is a number from 0° to below 80°.`,
        }
      : { deg, said: `readings × ${tipAngleFactor(deg).toFixed(3)}` };
  });
  protected readonly warmText = signal("");
  protected readonly warm = computed(() => {
    const text = this.warmText().trim();
    if (text === "") return { celsius: null, wrong: "" };
    const celsius = parseDecimal(text);
    return celsius === undefined || celsius < -20 || celsius > 60
      ? {
          celsius: null,
          wrong: `“${text}” °C cannot be: it is a number from −20 to 60 °C in a shop.`,
        }
      : { celsius, wrong: "" };
  });
  protected readonly ready = computed(
    () =>
      this.parsed()?.errors.length === 0 &&
      !this.keeping() &&
      this.indicator() !== null &&
      this.tip().deg !== null &&
      !this.warm().wrong,
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
      words: `${TEST_WORDS[plan.kind].name}: ${parsed.rows.length} readings at ${plan.targetsMm.length} ${plan.targetsMm.length === 1 ? "place" : "places"}, ${plan.runs} runs.`,
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

  protected pick(files: FileList | null): void {
    const file = files?.[0];
    if (!file) return;
    if (file.size > LARGEST) {
      this.wrong.set(`${file.name} has ${(file.size / 1e6).toFixed(1)} MB: at most 2 MB are taken.`);
      return;
    }
    this.wrong.set("");
    void file.text().then(
      (text) => this.file.set({ name: file.name, text }),
      () => this.wrong.set(`${file.name} could not be read.`),
    );
  }

  protected choose(id: number): void {
    this.chosen.set(id);
    this.typedTip.set(null);
  }

  protected typeTip(text: string): void {
    this.typedTip.set(text);
  }

  protected keep(): void {
    const file = this.file();
    const indicator = this.indicator();
    const axis = this.context.axis();
    const tipAngleDeg = this.tip().deg;
    if (!file || !indicator || !axis || tipAngleDeg === null || !this.ready()) return;
    const { name, kind, resolutionMm, unit, rangeMm } = indicator;
    const setup: RunSetup = {
      indicator: {
        name,
        kind,
        resolutionMm,
        unit,
        tipAngleDeg: indicator.tipAngleDeg,
        rangeMm,
      },
      tipAngleDeg,
      sense: this.sense(),
      surface: this.surface(),
      temperatureC: this.warm().celsius,
      note: `from ${file.name}`.slice(0, 500),
    };
    this.keeping.set(true);
    this.api
      .call("importRun", {
        params: { id: axis.id },
        body: {
          fileName: file.name,
          text: file.text,
          setup,
          keepsZero: this.keepsZero(),
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
          void this.router.navigateByUrl(`${this.context.base()}/runs/${result.runId}`);
        },
        error: (error: unknown) => {
          this.keeping.set(false);
          this.wrong.set(problemFrom(error).detail);
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
