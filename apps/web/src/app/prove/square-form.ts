import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from "@angular/core";
import { FormArray, FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { Router, RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { geometryCreateSchema, type GeometryCreate } from "@iron/contract";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { saidIn } from "../data/problems";
import { ChoiceField, NumberField, TextField } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { bySchema, gate, unplaced } from "../shared/schema-form";
import { TickBox } from "../shared/tick-box";
import { Trouble } from "../shared/trouble";

const of = <T>(value: T): FormControl<T> => new FormControl(value, { nonNullable: true });
const row = (atMm: number) => new FormGroup({ atMm: of(atMm), mm: of(0) });
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
    sideA: of(300),
    sideB: of(400),
    diagonalA: of(500),
    diagonalB: of(500),
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

/** What is sent of what stands in the form. */
function createOf(value: Value, way: string): GeometryCreate {
  const letters = [value.first, value.second] as const;
  const { note, setting, sweep, flippedSetting, flipped, isFlipped, resolutionMm, uMm } = value;
  if (way === "diagonals") {
    const sidesMm = [value.sideA, value.sideB] as const;
    return {
      note,
      taken: { kind: "diagonals", letters, sidesMm, diagonalsMm: [value.diagonalA, value.diagonalB], uMm },
    };
  }
  return {
    note,
    taken: {
      kind: "sweep",
      letters,
      setting,
      sweep,
      flippedSetting: isFlipped ? flippedSetting : [],
      flipped: isFlipped ? flipped : [],
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
  private readonly maySend = gate();
  protected readonly loaded = new Loaded(() => this.api.call("machine", { params: { id: this.machineId() } }));
  protected readonly refusal = signal("");
  protected readonly busy = signal(false);
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
    this.refusal.set("");
    if (!this.maySend(form)) {
      this.refusal.set(unplaced(form));
      return;
    }
    this.busy.set(true);
    const body = createOf(form.getRawValue(), this.way());
    this.api.call("keepGeometry", { params: { id: this.machineId() }, body }).subscribe({
      next: () => void this.router.navigate(["/machines", this.machineId(), "stands"]),
      error: (failure: unknown) => {
        this.busy.set(false);
        saidIn(this.refusal)(failure);
      },
    });
  }
}
