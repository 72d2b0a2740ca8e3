import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from "@angular/core";
import { NgTemplateOutlet } from "@angular/common";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { forkJoin } from "rxjs";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { Preferences } from "../data/preferences";
import { saidIn } from "../data/problems";
import { TextField } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { StateMark } from "../shared/state-mark";
import { Trouble } from "../shared/trouble";
import { levelsView, pairViews } from "./stands.view";
import { May } from "../shared/may";

/** How a machine stands: its axes square to each other, itself level on its feet. */
@Component({
  selector: "ip-stands",
  imports: [May, ButtonDirective, LoadingLines, NgTemplateOutlet, RouterLink, StateMark, TextField, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./stands-page.html",
  styleUrls: ["../shared/folds.css", "./stands-page.css"],
})
export class StandsPage {
  readonly machineId = input.required<string>();
  private readonly api = inject(Api);
  private readonly preferences = inject(Preferences);
  protected readonly refusal = signal("");
  protected readonly busy = signal(false);
  /** Reading that is being set aside, and why. */
  protected readonly asideOf = signal<number | null>(null);
  private reason = "";
  protected readonly loaded = new Loaded(() => {
    const params = { id: this.machineId() };
    return forkJoin({
      machine: this.api.call("machine", { params }),
      stands: this.api.call("geometry", { params }),
      circles: this.api.call("circles", { params }),
    });
  });
  protected readonly pairs = computed(() => {
    const all = this.loaded.value();
    return all ? pairViews(all.stands.square, all.circles.limits.limits, this.preferences.system()) : [];
  });
  protected readonly levels = computed(() => {
    const all = this.loaded.value();
    return all ? levelsView(all.stands.levels, this.preferences.system()) : null;
  });

  constructor() {
    effect(() => {
      this.machineId();
      untracked(() => this.loaded.again());
    });
  }

  protected because(reason: string): void {
    this.reason = reason;
  }

  protected setAside(id: number): void {
    if (!this.reason.trim()) {
      this.refusal.set("Say in a word why it is set aside.");
      return;
    }
    this.busy.set(true);
    this.refusal.set("");
    this.api.call("setGeometryAside", { params: { id }, body: { reason: this.reason } }).subscribe({
      next: () => {
        this.busy.set(false);
        this.asideOf.set(null);
        this.reason = "";
        this.loaded.again();
      },
      error: (failure: unknown) => {
        this.busy.set(false);
        saidIn(this.refusal)(failure);
      },
    });
  }
}
