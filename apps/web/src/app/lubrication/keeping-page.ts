import { TickBox } from "../shared/tick-box";
import { DayField } from "../shared/day-field";
import { ChangeDetectionStrategy, Component, computed, inject, signal, viewChildren } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import {
  BoundError,
  formatNumber,
  quantityWithU,
  INTERVAL_SCHOOLS,
  kmPerHour,
  programTravel,
  type IntervalSchool,
} from "@iron/core";
import { keepSettingsEditSchema, parseDecimal, type KeepSettings, type MachineMeter } from "@iron/contract";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { problemFrom } from "../data/problems";
import { anyWrong, ChoiceField, NumberField, TextField } from "../shared/fields";
import { CsvImport } from "./csv-import";
import { RoundsNav } from "./rounds-nav";
import { Trouble } from "../shared/trouble";
import { ChoicesPipe } from "../shared/choices.pipe";

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
/** Speed of rapid that a program’s time is reckoned with, mm/min (common practice, no source). */
const RAPID_MM_MIN = 15_000;
const SCHOOL_WORDS: Record<IntervalSchool, string> = {
  all: "calendar, hours and distance, whichever comes first",
  calendar: "by the calendar alone",
  hours: "by running hours alone",
  distance: "by travelled distance alone",
};

/** Minutes and holidays, machine windows, the school of intervals, guns, and files in and out. */
@Component({
  selector: "ip-keeping",
  imports: [
    ButtonDirective,
    TickBox,
    DayField,
    RoundsNav,
    CsvImport,
    Trouble,
    ChoiceField,
    TextField,
    NumberField,
    ChoicesPipe,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  templateUrl: "./keeping-page.html",
})
export class KeepingPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly weekdays = WEEKDAYS;
  protected readonly schools = INTERVAL_SCHOOLS.map((id) => ({ id, words: SCHOOL_WORDS[id] }));
  protected readonly draft = signal<KeepSettings | null>(null);
  protected readonly machines = signal<readonly MachineMeter[]>([]);
  protected readonly wrong = signal("");
  protected readonly formWrong = signal("");
  protected readonly holidayWrong = signal("");
  protected readonly gunWrong = signal("");
  private readonly numbers = viewChildren(NumberField);
  /** Something was typed among the minutes. */
  protected readonly touched = signal(false);
  /** As the server has it. */
  private readonly saved = signal<KeepSettings | null>(null);
  protected readonly changed = computed(
    () =>
      JSON.stringify(this.saved()) !== JSON.stringify(this.draft()) ||
      (this.touched() && this.numbers().some((n) => n.wrong())),
  );
  protected readonly conflict = signal(false);
  protected readonly holiday = signal("");
  protected readonly holidayWords = signal("");
  protected readonly gun = signal({ name: "", strokes: "10", grams: "" });
  protected readonly guns = computed(() =>
    (this.draft()?.gunFigures ?? []).map((g) => ({
      name: g.name,
      words: `${quantityWithU("mass", g.gramsPerStroke, g.expandedGrams, "metric").join(" ")} a stroke`,
    })),
  );

  protected readonly programFor = signal<number | null>(null);
  protected readonly programWrong = signal("");
  protected readonly travel = computed(() =>
    (this.draft()?.travel ?? []).map((x) => ({
      ...x,
      machine: this.machines().find((m) => m.machineId === x.machineId)?.nickname ?? "",
      words: `${formatNumber(x.kmPerHour, 2)} km an hour of running`,
    })),
  );

  constructor() {
    this.load();
  }

  protected load(): void {
    this.wrong.set("");
    this.api.call("keepSettings").subscribe({
      next: (settings) => this.show(settings),
      error: (error: unknown) => this.wrong.set(problemFrom(error).detail),
    });
    this.api.call("meters").subscribe({
      next: (list) => this.machines.set(list),
      error: () => undefined,
    });
  }

  private show(settings: KeepSettings): void {
    this.saved.set(settings);
    this.draft.set(settings);
    this.formWrong.set("");
    this.conflict.set(false);
  }

  /** Back to what the server has. */
  protected leave(): void {
    const saved = this.saved();
    if (saved) this.show(saved);
    for (const number of this.numbers()) number.reset();
  }

  private change(part: Partial<KeepSettings>): void {
    this.draft.update((d) => d && { ...d, ...part });
  }

  protected minutes(day: number, value: number): void {
    this.change({ minutesByWeekday: (this.draft()?.minutesByWeekday ?? []).map((m, i) => (i === day ? value : m)) });
  }

  protected school(id: string): void {
    const school = INTERVAL_SCHOOLS.find((s) => s === id);
    if (school) this.change({ school });
  }

  protected addHoliday(): void {
    const date = this.holiday();
    if (!date) {
      this.holidayWrong.set("Name the day of the holiday.");
      return;
    }
    const others = (this.draft()?.holidays ?? []).filter((h) => h.date !== date);
    this.change({
      holidays: [...others, { date, words: this.holidayWords() }].sort((a, b) => a.date.localeCompare(b.date)),
    });
    this.holidayWrong.set("");
    this.holidayWords.set("");
  }

  protected dropHoliday(date: string): void {
    this.change({ holidays: (this.draft()?.holidays ?? []).filter((h) => h.date !== date) });
  }

  protected mayStop(machineId: number, day: number): boolean {
    return this.draft()?.windows.find((w) => w.machineId === machineId)?.days[day] ?? true;
  }

  protected setWindow(machineId: number, day: number, may: boolean): void {
    const windows = this.draft()?.windows ?? [];
    const own = windows.find((w) => w.machineId === machineId)?.days ?? Array.from({ length: 7 }, () => true);
    const days = own.map((d, i) => (i === day ? may : d));
    const others = windows.filter((w) => w.machineId !== machineId);
    this.change({ windows: days.every(Boolean) ? others : [...others, { machineId, days }] });
  }

  /** A weighing is kept at once, and nothing else with it. */
  protected weigh(): void {
    const { name, strokes, grams } = this.gun();
    const [n, g] = [parseDecimal(strokes), parseDecimal(grams)];
    if (!name.trim() || n === undefined || g === undefined) {
      this.gunWrong.set("A weighing wants the gun’s name, its strokes and the grams that came out.");
      return;
    }
    if (!Number.isInteger(n) || n < 1 || n > 200 || g <= 0 || g > 4000) {
      this.gunWrong.set(
        `${strokes} strokes and ${grams} g cannot be: strokes are a whole number from 1 to 200, grams above 0 and up to 4000.`,
      );
      return;
    }
    const guns = this.saved()?.guns ?? [];
    const there = guns.find((x) => x.name === name.trim());
    const weighing = { strokes: n, grams: g };
    this.gun.set({ name: name.trim(), strokes, grams: "" });
    this.keepGuns(
      there
        ? guns.map((x) => (x === there ? { ...x, weighings: [...x.weighings, weighing] } : x))
        : [...guns, { name: name.trim(), weighings: [weighing] }],
    );
  }

  protected dropGun(name: string): void {
    this.keepGuns((this.saved()?.guns ?? []).filter((g) => g.name !== name));
  }

  private keepGuns(guns: KeepSettings["guns"]): void {
    const saved = this.saved();
    if (!saved) return;
    this.gunWrong.set("");
    const { gramsPerStroke: _, gunFigures: __, ...edit } = { ...saved, guns };
    this.api.call("updateKeepSettings", { body: edit }).subscribe({
      next: (now) => {
        this.saved.set(now);
        // What else is being changed here stays as typed.
        const { guns, gunFigures, gramsPerStroke, version } = now;
        this.change({ guns, gunFigures, gramsPerStroke, version });
        this.notices.say("Kept. Doses in strokes are reckoned with it.");
      },
      error: (error: unknown) => {
        const problem = problemFrom(error);
        if (problem.status === 409 && problem.current) this.saved.set(problem.current as KeepSettings);
        this.gunWrong.set(
          problem.status === 409 ? "Somebody else has changed this meanwhile. Do it once more." : problem.detail,
        );
      },
    });
  }

  /** A part program: what each axis travels in an hour of running it. */
  protected program(field: HTMLInputElement): void {
    const file = field.files?.[0];
    const machineId = this.programFor();
    this.programWrong.set("");
    if (!file || machineId === null) {
      this.programWrong.set(file ? "Choose the machine first." : "");
      return;
    }
    if (file.size > 5_000_000) {
      this.programWrong.set(`${file.name} is larger than 5 MB.`);
      return;
    }
    void file.text().then((text) => {
      field.value = "";
      try {
        const travel = programTravel(text, RAPID_MM_MIN);
        const rows = Object.entries(kmPerHour(travel)).map(([letter, km]) => ({
          machineId,
          letter,
          kmPerHour: km,
          from: file.name.slice(0, 80),
        }));
        const others = (this.draft()?.travel ?? []).filter(
          (x) => x.machineId !== machineId || !rows.some((r) => r.letter === x.letter),
        );
        this.change({ travel: [...others, ...rows] });
        this.programWrong.set(travel.notes.join(" "));
      } catch (error) {
        if (!(error instanceof BoundError)) throw error;
        this.programWrong.set(`${file.name}: ${error.message}`);
      }
    });
  }

  protected dropTravel(machineId: number, letter: string): void {
    this.change({
      travel: (this.draft()?.travel ?? []).filter((x) => x.machineId !== machineId || x.letter !== letter),
    });
  }

  protected keep(): void {
    const draft = this.draft();
    if (!draft || anyWrong(this.numbers)) return;
    this.formWrong.set("");
    const { gramsPerStroke: _, gunFigures: __, ...edit } = draft;
    const checked = keepSettingsEditSchema.safeParse(edit);
    if (!checked.success) {
      this.formWrong.set(`${checked.error.issues[0].message} Nothing was kept.`);
      return;
    }
    this.api.call("updateKeepSettings", { body: edit }).subscribe({
      next: (settings) => {
        this.show(settings);
        this.notices.say("Kept. The rounds are planned by it.");
      },
      error: (error: unknown) => {
        const problem = problemFrom(error);
        const current = problem.current as KeepSettings | undefined;
        if (problem.status === 409 && current) {
          // What was typed stays; kept again, it goes over the other’s.
          this.change({ version: current.version });
          this.saved.set(current);
          this.conflict.set(true);
        }
        this.formWrong.set(problem.status === 409 ? "" : problem.detail);
      },
    });
  }
}
