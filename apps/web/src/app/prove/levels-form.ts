import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from "@angular/core";
import { FormArray, FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { Router, RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { geometryCreateSchema, type Geometry, type GeometryCreate, type GeometryTaken } from "@iron/contract";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { saidIn } from "../data/problems";
import { ChoiceField, NumberField, TextField } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { bySchema, gate, unplaced, valueOf } from "../shared/schema-form";
import { Trouble } from "../shared/trouble";
import { usualLevels } from "./stands.view";

type Taken = Extract<GeometryTaken, { kind: "levels" }>;

const of = <T>(value: T): FormControl<T> => new FormControl(value, { nonNullable: true });
const footOf = (f: Taken["feet"][number]) => new FormGroup({ name: of(f.name), xMm: of(f.xMm), yMm: of(f.yMm) });
const readingOf = (r: Taken["readings"][number]) =>
  new FormGroup({
    along: of(r.along),
    xMm: of(r.xMm),
    yMm: of(r.yMm),
    mmPerM: of(0),
    turnedMmPerM: of<number | null>(r.turnedMmPerM === null ? null : 0),
  });

/** As the last time, or four feet at the corners of a bed of this size. */
function formOf({ levels }: Geometry) {
  const last = levels.at(-1)?.taken;
  const { feet, readings } = last ?? usualLevels(1600, 900);
  const form = new FormGroup({
    feet: new FormArray(feet.map(footOf)),
    readings: new FormArray(readings.map(readingOf)),
    divisionMmPerM: of(last?.divisionMmPerM ?? 0.02),
    pitchMm: of(last?.pitchMm ?? null),
    soft: of(""),
    note: of(""),
  });
  form.addValidators(bySchema(geometryCreateSchema, createOf, (path) => path.replace(/^taken\./, "")));
  form.updateValueAndValidity();
  return form;
}

type Form = ReturnType<typeof formOf>;

function createOf({ note, soft, ...rest }: ReturnType<Form["getRawValue"]>): GeometryCreate {
  return { note, taken: { kind: "levels", ...rest, soft: soft === "" ? null : soft } };
}

/** A level laid in several places, turned end for end in each; and the feet that it stands on. */
@Component({
  selector: "ip-levels-form",
  imports: [
    ButtonDirective,
    ChoiceField,
    LoadingLines,
    NumberField,
    ReactiveFormsModule,
    RouterLink,
    TextField,
    Trouble,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./levels-form.html",
  styles: `
    .line {
      display: flex;
      flex-wrap: wrap;
      gap: var(--space-1) var(--space-3);
      align-items: flex-end;
      border-top: 1px solid var(--rule);
      padding: var(--space-2) 0;
    }
    .line > .field {
      flex: 1 1 105px;
    }
    ol {
      padding-left: var(--space-4);
    }
    li {
      margin-bottom: var(--space-2);
    }
  `,
})
export class LevelsForm {
  readonly machineId = input.required<string>();
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly maySend = gate();
  protected readonly loaded = new Loaded(() => this.api.call("geometry", { params: { id: this.machineId() } }));
  protected readonly refusal = signal("");
  protected readonly busy = signal(false);
  protected readonly form = computed(() => {
    const all = this.loaded.value();
    return all ? formOf(all) : null;
  });
  private readonly value = valueOf(() => this.form() ?? formOf({ square: [], levels: [] }));
  protected readonly feet = computed(() => this.value().feet.map((f) => ({ id: f.name, label: `foot ${f.name}` })));
  protected readonly ways = [
    { id: "X", label: "along X" },
    { id: "Y", label: "along Y" },
  ] as const;

  constructor() {
    effect(() => {
      this.machineId();
      untracked(() => this.loaded.again());
    });
  }

  protected addFoot(form: Form): void {
    const { feet } = form.controls;
    feet.push(footOf({ ...feet.at(-1).getRawValue(), name: String(feet.length + 1) }));
  }

  protected addReading(form: Form): void {
    const { readings } = form.controls;
    readings.push(readingOf({ ...readings.at(-1).getRawValue() }));
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
    this.api.call("keepGeometry", { params: { id: this.machineId() }, body: createOf(form.getRawValue()) }).subscribe({
      next: () => void this.router.navigate(["/machines", this.machineId(), "stands"]),
      error: (failure: unknown) => {
        this.busy.set(false);
        saidIn(this.refusal)(failure);
      },
    });
  }
}
