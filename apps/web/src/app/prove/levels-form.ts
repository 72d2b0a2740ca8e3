import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from "@angular/core";
import { FormArray, FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import type { UnitSystem } from "@iron/core";
import { geometryCreateSchema, type Geometry, type GeometryCreate, type GeometryTaken } from "@iron/contract";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { Onward } from "../data/onward";
import { Preferences } from "../data/preferences";
import { ChoiceField, NumberField, TextField } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { bySchema, valueOf } from "../shared/schema-form";
import { SendForm } from "../shared/send-form";
import { Trouble } from "../shared/trouble";
import { usualLevels } from "./stands.view";

type Taken = Extract<GeometryTaken, { kind: "levels" }>;

const of = <T>(value: T): FormControl<T> => new FormControl(value, { nonNullable: true });
const footOf = (f: Taken["feet"][number]) => new FormGroup({ name: of(f.name), xMm: of(f.xMm), yMm: of(f.yMm) });
/** Nothing read yet is empty, never nothing; a place left empty is left out. */
const readingOf = (r: Pick<Taken["readings"][number], "along" | "xMm" | "yMm">) =>
  new FormGroup({
    along: of(r.along),
    xMm: of(r.xMm),
    yMm: of(r.yMm),
    mmPerM: of<number | null>(null),
    turnedMmPerM: of<number | null>(null),
  });

const isRead = (r: { readonly mmPerM: number | null; readonly turnedMmPerM: number | null }): boolean =>
  r.mmPerM !== null || r.turnedMmPerM !== null;

/** As the last time, or four feet at the corners of a bed of this size. */
function formOf({ levels }: Geometry, system: UnitSystem) {
  const last = levels.at(-1)?.taken;
  const usual = usualLevels(system);
  const [feet, places] = last ? [last.feet, last.readings] : [usual.feet, usual.places];
  const form = new FormGroup({
    feet: new FormArray(feet.map(footOf)),
    readings: new FormArray(places.map(readingOf)),
    divisionMmPerM: of(last?.divisionMmPerM ?? 0.02),
    pitchMm: of(last?.pitchMm ?? null),
    soft: of(""),
    note: of(""),
  });
  // Places left empty are not sent: what is wrong with one that is stands at its own line.
  const lineOf = (sent: string): number => form.getRawValue().readings.flatMap((r, i) => (isRead(r) ? [i] : []))[+sent];
  const field = (path: string): string =>
    path.replace(/^taken\./, "").replace(/^readings\.(\d+)/, (_, sent: string) => `readings.${lineOf(sent)}`);
  form.addValidators(bySchema(geometryCreateSchema, createOf, field));
  form.updateValueAndValidity();
  return form;
}

type Form = ReturnType<typeof formOf>;

function createOf({ note, soft, readings, ...rest }: ReturnType<Form["getRawValue"]>): unknown {
  return {
    note,
    taken: { kind: "levels", ...rest, readings: readings.filter(isRead), soft: soft === "" ? null : soft },
  };
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
  private readonly onward = inject(Onward);
  // What stands in the form stays when the units are changed.
  private readonly preferences = inject(Preferences);
  protected readonly sending = new SendForm();
  protected readonly loaded = new Loaded(() => this.api.call("geometry", { params: { id: this.machineId() } }));
  protected readonly form = computed(() => {
    const all = this.loaded.value();
    return all ? untracked(() => formOf(all, this.preferences.system())) : null;
  });
  private readonly value = valueOf(() => this.form() ?? formOf({ square: [], levels: [] }, "metric"));
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
    const names = feet.controls.map((f) => f.controls.name.value);
    // The first number that is free: a foot may have been struck out.
    const free = Array.from({ length: names.length + 1 }, (_, i) => String(i + 1)).find((n) => !names.includes(n));
    feet.push(footOf({ ...feet.at(-1).getRawValue(), name: free ?? "" }));
  }

  protected dropFoot(form: Form, at: number): void {
    const { feet, soft } = form.controls;
    if (feet.at(at).controls.name.value === soft.value) soft.setValue("");
    feet.removeAt(at);
  }

  protected addReading(form: Form): void {
    const { readings } = form.controls;
    const { along, xMm, yMm } = readings.at(-1).getRawValue();
    readings.push(readingOf({ along, xMm, yMm }));
  }

  protected keep(): void {
    const form = this.form();
    if (!form) return;
    const params = { id: this.machineId() };
    const onward = this.onward.fromHere();
    this.sending.send(
      form,
      () => this.api.call("keepGeometry", { params, body: createOf(form.getRawValue()) as GeometryCreate }),
      () => onward(`/machines/${params.id}/stands`),
    );
  }
}
