import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from "@angular/core";
import { FormArray, FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { Router, RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { geometryCreateSchema, type GeometryCreate } from "@iron/contract";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
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
const rows = (...places: readonly number[]): Rows => new FormArray(places.map(row));

function formOf(letters: readonly string[], way: string) {
  const form = new FormGroup({
    first: of(letters[0]),
    second: of(letters[1]),
    setting: rows(0, 200),
    sweep: rows(0, 100, 200, 300),
    isFlipped: of(true),
    flippedSetting: rows(0, 200),
    flipped: rows(0, 100, 200, 300),
    squareU: of(0.002),
    resolutionMm: of(0.001),
    sideA: of<number | null>(null),
    sideB: of<number | null>(null),
    diagonalA: of<number | null>(null),
    diagonalB: of<number | null>(null),
    uMm: of(0.003),
    note: of(""),
  });
  form.addValidators(bySchema(geometryCreateSchema, (value: Value) => createOf(value, way), fieldOf));
  form.updateValueAndValidity();
  return form;
}

type Form = ReturnType<typeof formOf>;
type Value = ReturnType<Form["getRawValue"]>;

/** A certificate says so much over 300 mm. */
const CERTIFIED_MM = 300;

/** What is sent of what stands in the form; where something is not read yet the schema says so at its field. */
function createOf(value: Value, way: string): unknown {
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
      squareU: value.squareU / CERTIFIED_MM,
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
  private readonly router = inject(Router);
  protected readonly sending = new SendForm();
  protected readonly loaded = new Loaded(() => this.api.call("machine", { params: { id: this.machineId() } }));
  private readonly axes = computed(() => (this.loaded.value()?.axes ?? []).filter((a) => a.retiredAt === null));
  protected readonly letters = computed(() =>
    this.axes().map((a) => ({ id: a.config.letter, label: a.config.letter })),
  );
  protected readonly form = computed(() => {
    const letters = this.letters().map((l) => l.id);
    return letters.length > 1 ? formOf(letters, this.way()) : null;
  });
  protected readonly legs = [
    { name: "setting", title: "On the leg along the first axis, as it was set" },
    { name: "sweep", title: "On the other leg, along the second axis" },
  ] as const;
  protected readonly flippedLegs = [
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
    list.push(row(last + 100));
  }

  protected keep(): void {
    const form = this.form();
    if (!form) return;
    const params = { id: this.machineId() };
    this.sending.send(
      form,
      () => this.api.call("keepGeometry", { params, body: createOf(form.getRawValue(), this.way()) as GeometryCreate }),
      () => this.router.navigate(["/machines", this.machineId(), "stands"]),
    );
  }
}
