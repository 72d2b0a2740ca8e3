import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from "@angular/core";
import { FormArray, FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import type { UnitSystem } from "@iron/core";
import { geometryCreateSchema, type GeometryCreate } from "@iron/contract";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { Onward } from "../data/onward";
import { Preferences } from "../data/preferences";
import { ChoiceField, NumberField, TextField } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { bySchema } from "../shared/schema-form";
import { SendForm } from "../shared/send-form";
import { TickBox } from "../shared/tick-box";
import { Trouble } from "../shared/trouble";

const of = <T>(value: T): FormControl<T> => new FormControl(value, { nonNullable: true });
/** Nothing read yet is empty, never nothing: a row left empty is left out. */
const row = (atMm: number) => new FormGroup({ atMm: of(atMm), mm: of<number | null>(null) });
type Rows = FormArray<ReturnType<typeof row>>;
const rows = (count: number, stepMm: number): Rows =>
  new FormArray(Array.from({ length: count }, (_, i) => row(i * stepMm)));

/** Places a hand apart, and the length that a certificate speaks of: as a shop says them, mm. */
const STEP = { metric: 100, inch: 4 * 25.4 } as const;
const CERTIFIED = { metric: 300, inch: 12 * 25.4 } as const;
/** What is usual, in round figures of the units: a tenth is 2.54 µm. */
const USUAL = {
  metric: { squareU: 0.002, resolutionMm: 0.001, uMm: 0.003 },
  inch: { squareU: 0.00254, resolutionMm: 0.00127, uMm: 0.00254 },
} as const;

function formOf(letters: readonly string[], way: string, system: UnitSystem) {
  const step = STEP[system];
  const form = new FormGroup({
    first: of(letters[0]),
    second: of(letters[1]),
    setting: rows(2, 2 * step),
    sweep: rows(4, step),
    isFlipped: of(true),
    flippedSetting: rows(2, 2 * step),
    flipped: rows(4, step),
    squareU: of<number>(USUAL[system].squareU),
    resolutionMm: of<number>(USUAL[system].resolutionMm),
    sideA: of<number | null>(null),
    sideB: of<number | null>(null),
    diagonalA: of<number | null>(null),
    diagonalB: of<number | null>(null),
    uMm: of<number>(USUAL[system].uMm),
    note: of(""),
  });
  form.addValidators(bySchema(geometryCreateSchema, (value: Value) => createOf(value, way, system), fieldOf));
  form.updateValueAndValidity();
  return form;
}

type Form = ReturnType<typeof formOf>;
type Value = ReturnType<Form["getRawValue"]>;

/** What is sent of what stands in the form; where something is not read yet the schema says so at its field. */
function createOf(value: Value, way: string, system: UnitSystem): unknown {
  const letters = [value.first, value.second] as const;
  const { note, isFlipped, resolutionMm, uMm } = value;
  const read = (rows: Value["sweep"]) => rows.filter((r) => r.mm !== null);
  if (way === "diagonals") {
    const sidesMm = [value.sideA, value.sideB];
    const diagonalsMm = [value.diagonalA, value.diagonalB];
    return { note, taken: { kind: "diagonals", letters, sidesMm, diagonalsMm, uMm } };
  }
  return {
    note,
    taken: {
      kind: "sweep",
      letters,
      setting: read(value.setting),
      sweep: read(value.sweep),
      flippedSetting: isFlipped ? read(value.flippedSetting) : [],
      flipped: isFlipped ? read(value.flipped) : [],
      squareU: value.squareU / CERTIFIED[system],
      resolutionMm,
    },
  };
}

/** The field that an issue of what is sent is about. */
function fieldOf(path: string): string {
  const name = path.replace(/^taken\./, "");
  return (
    { "sidesMm.0": "sideA", "sidesMm.1": "sideB", "diagonalsMm.0": "diagonalA", "diagonalsMm.1": "diagonalB" }[name] ??
    name
  );
}

/** Out of square, by a square and an indicator or by two diagonals. */
@Component({
  selector: "ip-square-form",
  imports: [
    ButtonDirective,
    ChoiceField,
    LoadingLines,
    NumberField,
    ReactiveFormsModule,
    RouterLink,
    TextField,
    TickBox,
    Trouble,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./square-form.html",
  styles: `
    .readings {
      display: flex;
      gap: var(--space-4);
      align-items: flex-end;
      max-width: 460px;
    }
    .readings > * {
      flex: 1;
    }
    .readings > button {
      flex: 0;
    }
    ol {
      padding-left: var(--space-4);
    }
    li {
      margin-bottom: var(--space-2);
    }
  `,
})
export class SquareForm {
  readonly machineId = input.required<string>();
  /** “sweep” or “diagonals”. */
  readonly way = input.required<string>();
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  /** As it was when the form was begun: what stands in it stays when the units are changed. */
  private readonly system = untracked(inject(Preferences).system);
  protected readonly certified = this.system === "metric" ? "300 mm" : "12 in";
  protected readonly sending = new SendForm();
  protected readonly loaded = new Loaded(() => this.api.call("machine", { params: { id: this.machineId() } }));
  private readonly axes = computed(() => (this.loaded.value()?.axes ?? []).filter((a) => a.retiredAt === null));
  protected readonly letters = computed(() =>
    this.axes().map((a) => ({ id: a.config.letter, label: a.config.letter })),
  );
  protected readonly form = computed(() => {
    const letters = this.letters().map((l) => l.id);
    return letters.length > 1 ? formOf(letters, this.way(), this.system) : null;
  });
  protected readonly legs = [
    { name: "setting", title: "On the leg along the first axis, as it was set" },
    { name: "sweep", title: "On the other leg, along the second axis" },
  ] as const;
  protected readonly allLegs = [
    ...this.legs,
    { name: "flippedSetting", title: "Flipped: on the leg along the first axis" },
    { name: "flipped", title: "Flipped: on the other leg" },
  ] as const;

  constructor() {
    effect(() => {
      this.machineId();
      untracked(() => this.loaded.again());
    });
  }

  protected more(list: Rows): void {
    const last = list.at(-1).getRawValue().atMm;
    list.push(row(last + STEP[this.system]));
  }

  protected keep(): void {
    const form = this.form();
    if (!form) return;
    const params = { id: this.machineId() };
    const onward = this.onward.fromHere();
    this.sending.send(
      form,
      () =>
        this.api.call("keepGeometry", {
          params,
          body: createOf(form.getRawValue(), this.way(), this.system) as GeometryCreate,
        }),
      () => onward(`/machines/${params.id}/stands`),
    );
  }
}
