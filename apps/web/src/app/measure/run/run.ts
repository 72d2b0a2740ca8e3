import { NgTemplateOutlet } from "@angular/common";
import { TickBox } from "../../shared/tick-box";
import { AddressPipe } from "../../data/address.pipe";
import type { Address } from "../../data/api";
import { Onward } from "../../data/onward";
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from "@angular/core";
import { RouterLink } from "@angular/router";
import { FormControl, ReactiveFormsModule } from "@angular/forms";
import { ButtonDirective } from "primeng/button";
import { SelectButton } from "primeng/selectbutton";
import type { Choice } from "../../shared/fields";
import { approachSentence, hasProgram } from "@iron/core";
import { Preferences } from "../../data/preferences";
import { Keys } from "../../shared/keys";
import { momentText } from "../../shared/times.text";
import { AxisContext } from "../../machine/axis/axis-context";
import { EntryPanel } from "./entry-panel";
import { JogPanel } from "./jog-panel";
import { ProgramPanel } from "./program-panel";
import { ReadingsTable } from "./readings-table";
import { ResultPanel } from "./result-panel";
import { RunStore } from "./run-store";
import { runView } from "./run.view";
import { Trouble } from "../../shared/trouble";
import { LiveReading } from "./live-reading";
import { GiveUp } from "./give-up";
import { LoadingLines } from "../../shared/loading";
import { May } from "../../shared/may";

type Way = "live" | "typed" | "dial";

@Component({
  selector: "ip-run",
  imports: [
    NgTemplateOutlet,
    May,
    LoadingLines,
    GiveUp,
    LiveReading,
    ButtonDirective,
    TickBox,
    AddressPipe,
    RouterLink,
    EntryPanel,
    JogPanel,
    ProgramPanel,
    ReactiveFormsModule,
    ReadingsTable,
    ResultPanel,
    SelectButton,
    Trouble,
  ],
  providers: [RunStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./run.html",
  styleUrl: "./run.css",
})
export class RunPlace {
  readonly runId = input.required<string>();
  protected readonly context = inject(AxisContext);
  protected readonly store = inject(RunStore);
  protected readonly preferences = inject(Preferences);
  private readonly onward = inject(Onward);
  private readonly chosenWay = signal<Way | null>(null);
  /** Where readings come from, as it is asked. */
  protected readonly asked = new FormControl<Way>("typed", { nonNullable: true });
  protected readonly ways = computed<Choice<Way>[]>(() => [
    ...(this.store.link() === "none" ? [] : [{ id: "live", label: "Live indicator" } as const]),
    { id: "typed", label: "Type readings" },
    { id: "dial", label: "Read a dial" },
  ]);
  protected readonly programOpen = signal(false);

  protected readonly view = computed(() => {
    const run = this.store.run();
    const config = this.context.axis()?.config;
    return run && config ? { run, config, ...runView(run, config, this.preferences.system()) } : null;
  });
  protected readonly way = computed<Way>(() => {
    const chosen = this.chosenWay() ?? (this.store.link() === "none" ? "typed" : "live");
    return chosen === "live" && this.store.link() === "none" ? "typed" : chosen;
  });
  /** Why the present position cannot be read yet, in words; empty when it can. */
  protected readonly approach = computed(() => {
    const judgement = this.store.judgement();
    const step = this.store.step();
    const config = this.context.axis()?.config;
    if (!judgement || !step || !config || this.store.snapshot()?.moving) return "";
    if (!this.store.snapshot()?.fresh) return "";
    return approachSentence(judgement, { step, axis: config, system: this.preferences.system() }) ?? "";
  });
  protected readonly givingUp = signal(false);
  protected readonly canProgram = computed(() => {
    const kind = this.store.run()?.plan.kind;
    return kind !== undefined && hasProgram(kind);
  });
  protected readonly started = computed(() => {
    const run = this.store.run();
    return run ? `${momentText(run.startedAt)}, ${run.by}` : "";
  });

  constructor() {
    effect(() => this.asked.setValue(this.way(), { emitEvent: false }));
    this.asked.valueChanges.subscribe((way) => this.chosenWay.set(way));
    effect(() => {
      const id = Number(this.runId());
      untracked(() => this.store.load(id));
    });
    inject(Keys).use(
      {
        key: " ",
        shown: "Space",
        does: "Take the reading",
        needs: "takeReading",
        press: () => this.take(),
      },
      {
        key: "z",
        shown: "Z",
        does: "Zero the indicator, when the step asks for it",
        needs: "zeroDevice",
        press: () => this.zero(),
      },
      {
        key: "Backspace",
        shown: "⌫",
        does: "Set the last reading aside",
        needs: "discardReading",
        press: () => this.discardLast(),
      },
      {
        key: "a",
        shown: "A",
        does: "Auto-take on or off",
        needs: "takeReading",
        press: () => this.toggleAuto(),
      },
    );
  }

  protected take(): void {
    if (this.way() === "live" && this.store.step() && !this.store.busy()) this.store.takeFromDevice();
  }

  protected zero(): void {
    if (this.store.step()?.action === "zero") this.take();
  }

  protected toggleAuto(): void {
    this.preferences.autoTake.update((v) => (v === "on" ? "off" : "on"));
  }

  protected discardLast(): void {
    const last = this.view()?.last;
    if (last) this.store.discard(last.id, "the last reading, set aside by hand");
  }

  protected exportOf(format: "csv" | "json"): Address<"exportRun"> {
    return { params: { id: this.runId() }, query: { format, system: this.preferences.system() } };
  }

  protected discard(readingId: number): void {
    this.store.discard(readingId, "set aside by hand");
  }

  protected abandon(why: string): void {
    const [onward, base] = [this.onward.fromHere(), this.context.base()];
    this.store.abandon(why, () => onward(`${base}/measure`));
  }
}
