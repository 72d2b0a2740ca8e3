import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { Router, RouterLink } from "@angular/router";
import type { MachineListAnswer } from "@iron/contract";
import { MACHINE_KIND_TEXT, MACHINE_KINDS } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { TableModule } from "primeng/table";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { Onward } from "../data/onward";
import { Preferences } from "../data/preferences";
import { problemFrom } from "../data/problems";
import { RowOf } from "../shared/row-of";
import { RowsPipe } from "../shared/rows.pipe";
import { TickBox } from "../shared/tick-box";
import { dayText } from "../shared/times.text";
import { Trouble } from "../shared/trouble";

const LARGEST = 1_000_000;
const EXAMPLE = [
  "machine;bay;kind;axes;hours_per_week;meter_hours;last_lubricated;central;note",
  "Siskin;31;router;X Y Z;30;1200;2026-03-02;none;",
  "Linnet;32;vertical-centre;X Y Z;80;;;ways;",
].join("\r\n");

/** A shop begins: its machines from a list, with their usual points, looked at first and kept in one act. */
@Component({
  selector: "ip-machine-list",
  imports: [ButtonDirective, RouterLink, RowOf, RowsPipe, TableModule, TickBox, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./machine-list.html",
})
export class MachineListPage {
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly preferences = inject(Preferences);
  private text = "";
  protected readonly example = `data:text/csv;charset=utf-8,${encodeURIComponent(EXAMPLE)}`;
  protected readonly kinds = MACHINE_KINDS.join(", ");
  protected readonly kindText = MACHINE_KIND_TEXT;
  protected readonly day = dayText;
  protected readonly shown = 20;
  protected readonly answer = signal<MachineListAnswer | null>(null);
  protected readonly error = signal("");
  protected readonly sending = signal(false);
  protected readonly leaveOut = signal<readonly string[]>([]);
  protected readonly wanted = computed(() =>
    (this.answer()?.machines ?? []).filter((m) => !m.there && !this.leaveOut().includes(m.nickname)),
  );
  protected readonly wrongText = computed(() => {
    const lines = new Set(this.answer()?.errors.map((e) => e.line)).size;
    return `${lines} ${lines === 1 ? "line is" : "lines are"} wrong and would be left out. Mend the file and choose it again, or go on without.`;
  });
  protected readonly heading = computed(() => {
    const wanted = this.wanted();
    const points = wanted.reduce((s, m) => s + m.points, 0);
    if (wanted.length === 0) return "No machine to add";
    return `${wanted.length} ${wanted.length === 1 ? "machine" : "machines"}, ${points} points`;
  });
  /** Whether the first weeks can be done at all. */
  protected readonly firstText = computed(() => {
    const minutes = this.wanted()
      .filter((m) => m.lastDone === null)
      .reduce((s, m) => s + m.minutes, 0);
    const available = this.answer()?.firstWeeks.available ?? 0;
    if (minutes === 0) return "";
    const hours = (x: number): string => `${Math.round(x / 60)} h`;
    const due = `What nobody is known to have seen to is due within the first weeks: ${hours(minutes)} of work; in four weeks people have ${hours(available)} for rounds.`;
    return minutes > available ? `${due} Say when machines were last done, or give the rounds more time.` : due;
  });

  protected pick(field: HTMLInputElement): void {
    const file = field.files?.[0];
    if (!file) return;
    this.answer.set(null);
    if (file.size > LARGEST) {
      this.error.set(`${file.name} is larger than 1 MB.`);
      return;
    }
    void file.text().then((text) => {
      this.text = text;
      this.leaveOut.set([]);
      this.look();
      // The same file can be chosen again after it was mended.
      field.value = "";
    });
  }

  protected look(): void {
    this.send(true, (answer) => this.answer.set(answer));
  }

  protected want(name: string, on: boolean): void {
    this.leaveOut.update((all) => (on ? all.filter((n) => n !== name) : [...all, name]));
  }

  protected keep(): void {
    const onward = this.onward.fromHere();
    this.send(false, ({ ids }) => {
      const made = ids.length === 1 ? "1 machine is" : `${ids.length} machines are`;
      this.notices.say(`${made} on the floor, with their usual points.`, () => this.takeBack(ids));
      onward("/floor");
    });
  }

  private takeBack(ids: number[]): void {
    this.api.call("machineListBack", { body: { ids } }).subscribe({
      next: ({ retired }) => {
        this.notices.say(`${retired === 1 ? "1 machine is" : `${retired} machines are`} off the floor again.`);
        // Whoever has gone elsewhere meanwhile is left there; the floor shows itself anew.
        if (this.router.url !== "/floor") return;
        void this.router
          .navigateByUrl("/machines/list", { skipLocationChange: true })
          .then(() => this.router.navigateByUrl("/floor"));
      },
      error: this.notices.error,
    });
  }

  private send(preview: boolean, done: (answer: MachineListAnswer) => void): void {
    this.sending.set(true);
    this.error.set("");
    const body = { text: this.text, preview, leaveOut: [...this.leaveOut()], units: this.preferences.system() };
    this.api.call("machineList", { body }).subscribe({
      next: (answer) => {
        this.sending.set(false);
        done(answer);
      },
      error: (error: unknown) => {
        this.sending.set(false);
        this.error.set(problemFrom(error).detail);
      },
    });
  }
}
