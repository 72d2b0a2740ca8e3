import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { comparedText, formatDeviation, typedValues, type Direction } from "@iron/core";
import { parseTypedTable, type CorrectionEnter } from "@iron/contract";
import { AddressPipe } from "../data/address.pipe";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { Preferences } from "../data/preferences";
import { problemFrom } from "../data/problems";
import { AxisContext } from "../machine/axis/axis-context";
import { TextField } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { momentText } from "../shared/times.text";
import { Trouble } from "../shared/trouble";
import { TableSays } from "./table-says";
import { rulesText, typingSheet } from "./table.view";
import { May } from "../shared/may";

/** One version of a table: its typing sheet, how it was entered, and what was read with it since. */
@Component({
  selector: "ip-table",
  imports: [
    May,
    AddressPipe,
    ButtonDirective,
    LoadingLines,
    ReactiveFormsModule,
    RouterLink,
    TableSays,
    TextField,
    Trouble,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./table-page.html",
  styleUrls: ["./circle.css", "../shared/folds.css", "./table-page.css"],
})
export class TablePage {
  readonly tableId = input.required<string>();
  protected readonly context = inject(AxisContext);
  private readonly api = inject(Api);
  private readonly preferences = inject(Preferences);
  protected readonly busy = signal(false);
  protected readonly refusal = signal<readonly string[]>([]);
  protected readonly loaded = new Loaded(() => this.api.call("correction", { params: { id: this.tableId() } }));
  protected readonly back = new FormGroup({
    up: new FormControl("", { nonNullable: true }),
    down: new FormControl("", { nonNullable: true }),
  });
  protected readonly view = computed(() => {
    const one = this.loaded.value();
    if (!one) return null;
    const system = this.preferences.system();
    const { table } = one.made;
    const sheet = (direction: Direction) => typingSheet(table, direction, system);
    return {
      one,
      made: `${momentText(one.at)}, ${one.by}${one.given.note ? `: ${one.given.note}` : ""}`,
      rules: rulesText(table, system),
      sheets: table.down
        ? [
            { name: "Approached from minus", blocks: sheet("+") },
            { name: "Approached from plus", blocks: sheet("-") },
          ]
        : [{ name: "", blocks: sheet("+") }],
      two: table.down !== null,
      zero: [...typedValues(table, "+"), ...(table.down ? typedValues(table, "-") : [])].every((v) => v === 0),
      state: one.active
        ? `In the control since ${momentText(one.entered?.at ?? one.at)}, ${one.entered?.by ?? ""}${one.entered?.how === "read back" ? ", read back number by number" : ""}.`
        : one.entered
          ? "It was in the control, and is no more."
          : "It was never entered.",
      worked: one.workedOnAt
        ? `The axis was worked on since, ${momentText(one.workedOnAt)}: this table is for what was there before. Take it out of the control and read the travel again.`
        : "",
      after: one.after.map((a) => ({
        runId: a.runId,
        when: momentText(a.at),
        wrong: a.compared.as !== "as-made",
        says: comparedText(a.compared, system),
        range: `${formatDeviation(a.meanRangeMm, { system })} from end to end; promised were about ${formatDeviation(one.prediction.unseenRangeMm ?? one.prediction.after.meanRange, { system })}.`,
      })),
    };
  });

  constructor() {
    effect(() => {
      this.tableId();
      untracked(() => this.loaded.again());
    });
  }

  protected tell(): void {
    this.enter({ how: "simulated control" });
  }

  protected readBack(): void {
    const { up, down } = this.back.getRawValue();
    const [first, second] = [parseTypedTable(up), parseTypedTable(down)];
    const errors = [...first.errors, ...second.errors];
    if (errors.length > 0) {
      this.refusal.set(errors.map((e) => `Line ${e.line}: ${e.message}`));
      return;
    }
    // A file of both has both columns.
    const above = first.down ?? (this.view()?.two ? second.up : null);
    this.enter({ how: "read back", up: [...first.up], down: above ? [...above] : null });
  }

  protected print(): void {
    window.print();
  }

  private enter(body: CorrectionEnter): void {
    this.busy.set(true);
    this.refusal.set([]);
    this.api.call("enterCorrection", { params: { id: this.tableId() }, body }).subscribe({
      next: (one) => {
        this.busy.set(false);
        this.loaded.value.set(one);
      },
      error: (failure: unknown) => {
        this.busy.set(false);
        const { detail, errors } = problemFrom(failure);
        this.refusal.set(errors?.length ? errors.map((e) => e.message) : [detail]);
      },
    });
  }
}
