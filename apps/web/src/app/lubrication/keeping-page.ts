import { ChangeDetectionStrategy, Component, computed, inject, signal, viewChildren } from "@angular/core";
import {
  lubricationSettingsEditSchema,
  type LubricationSettings,
  type LubricationSettingsEdit,
  type MachineMeter,
} from "@iron/contract";
import { INTERVAL_METHODS, type IntervalMethod } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { Notices } from "../data/notices";
import { VersionedSave } from "../data/versioned-save";
import { BothVersions, differing, type SaidField } from "../shared/both-versions";
import { anyUnread, ChoiceField, NumberField, TextField } from "../shared/fields";
import { TickBox } from "../shared/tick-box";
import { Trouble } from "../shared/trouble";
import { CsvImport } from "./csv-import";
import { GunWeighings } from "./gun-weighings";
import { HolidayList } from "./holiday-list";
import { RoundsNav } from "./rounds-nav";
import { TravelList } from "./travel-list";
import { LoadingLines } from "../shared/loading";
import { May } from "../shared/may";
import { NotYours } from "../shared/not-yours";

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const METHOD_TEXT: Record<IntervalMethod, string> = {
  all: "calendar, hours and distance, whichever comes first",
  calendar: "by the calendar alone",
  hours: "by running hours alone",
  distance: "by travelled distance alone",
};

/** Minutes and holidays, machine windows, the method of intervals, guns, and files in and out. */
@Component({
  selector: "ip-keeping",
  imports: [
    NotYours,
    May,
    LoadingLines,
    BothVersions,
    ButtonDirective,
    ChoiceField,
    CsvImport,
    GunWeighings,
    HolidayList,
    NumberField,
    RoundsNav,
    TextField,
    TickBox,
    TravelList,
    Trouble,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  templateUrl: "./keeping-page.html",
})
export class KeepingPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly weekdays = WEEKDAYS;
  protected readonly methods = INTERVAL_METHODS.map((id) => ({ id, label: METHOD_TEXT[id] }));
  protected readonly machines = signal<readonly MachineMeter[]>([]);
  protected readonly formError = signal("");
  private readonly numbers = viewChildren(NumberField);
  /** Something was typed among the minutes. */
  protected readonly touched = signal(false);
  protected readonly edit = new VersionedSave<LubricationSettings>();
  protected readonly draft = signal<LubricationSettings | null>(null);
  /** As the server has it. */
  protected readonly loaded = Loaded.now(
    () => this.api.call("lubricationSettings"),
    (settings) => this.show(settings),
  );
  protected readonly saved = this.loaded.value;
  protected readonly changed = computed(
    () =>
      JSON.stringify(this.saved()) !== JSON.stringify(this.draft()) ||
      (this.touched() && this.numbers().some((n) => n.textError())),
  );
  /** Bays as they are typed. */
  protected readonly bays = signal("");
  protected readonly conflicts = computed(() => {
    const [mine, theirs] = [this.draft(), this.edit.theirs()];
    return mine && theirs ? differing<LubricationSettings>(mine, theirs, this.said()) : [];
  });
  private readonly said = computed<readonly SaidField<LubricationSettings>[]>(() => {
    const name = (id: number): string => this.machines().find((m) => m.machineId === id)?.nickname ?? "";
    return [
      ...WEEKDAYS.map((label, i) => ({ label, value: (s: LubricationSettings) => `${s.minutesByWeekday[i]} min` })),
      { label: "Intervals go", value: (s) => METHOD_TEXT[s.method] },
      { label: "The walk", value: (s) => s.bays.join(", ") },
      { label: "Holidays", value: (s) => s.holidays.map((h) => h.date).join(", ") },
      {
        label: "May be stopped",
        value: (s) =>
          s.windows.map((w) => `${name(w.machineId)} ${WEEKDAYS.filter((_, i) => w.days[i]).join(" ")}`).join("; "),
      },
      {
        label: "Travel",
        value: (s) => s.travel.map((x) => `${name(x.machineId)} ${x.letter} ${x.kmPerHour} km/h`).join("; "),
      },
    ];
  });

  constructor() {
    this.loadMachines();
  }

  protected load(): void {
    this.loaded.again();
    this.loadMachines();
  }

  private loadMachines(): void {
    this.api.call("meters").subscribe({
      next: (list) => this.machines.set(list),
      error: () => undefined,
    });
  }

  private show(settings: LubricationSettings): void {
    this.saved.set(settings);
    this.draft.set(settings);
    this.bays.set(settings.bays.join(", "));
    this.edit.begin(settings);
    this.formError.set("");
  }

  /** Back to what the server has. */
  protected leave(): void {
    const saved = this.saved();
    if (saved) this.show(saved);
    for (const number of this.numbers()) number.reset();
  }

  protected takeTheirs(): void {
    const theirs = this.edit.theirs();
    if (theirs) this.show(theirs);
  }

  protected change(part: Partial<LubricationSettings>): void {
    this.draft.update((d) => d && { ...d, ...part });
  }

  protected minutes(day: number, value: number): void {
    this.change({ minutesByWeekday: (this.draft()?.minutesByWeekday ?? []).map((m, i) => (i === day ? value : m)) });
  }

  /** Bays as typed: what stands between commas. */
  protected setBays(text: string): void {
    this.bays.set(text);
    this.change({
      bays: text
        .split(",")
        .map((b) => b.trim())
        .filter(Boolean),
    });
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

  /** A weighing was kept: what else is being changed here stays as typed. */
  protected weighed(now: LubricationSettings): void {
    const { guns, gunFigures, gramsPerStroke, version } = now;
    this.saved.set(now);
    this.edit.begin(now);
    this.change({ guns, gunFigures, gramsPerStroke, version });
  }

  protected keep(): void {
    const draft = this.draft();
    if (!draft || anyUnread(this.numbers)) return;
    const { gramsPerStroke: _, gunFigures: __, ...typed } = draft;
    const checked = lubricationSettingsEditSchema.safeParse(typed);
    this.formError.set(checked.success ? "" : `${checked.error.issues[0].message} Nothing was kept.`);
    if (!checked.success) return;
    const body: Omit<LubricationSettingsEdit, "version"> = typed;
    this.edit.send(
      (version) => this.api.call("updateLubricationSettings", { body: { ...body, version } }),
      (settings) => {
        this.show(settings);
        this.notices.say("Kept. The rounds are planned by it.");
      },
    );
  }
}
