import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  linkedSignal,
  signal,
  untracked,
} from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import { FormControl, FormRecord, ReactiveFormsModule } from "@angular/forms";
import { ButtonDirective } from "primeng/button";
import { withUsualLimits, type AxisConfig } from "@iron/core";
import { axisConfigSchema, type Axis } from "@iron/contract";
import { catchError, map, of } from "rxjs";
import { BothVersions } from "../../shared/both-versions";
import { Api } from "../../data/api";
import { Notices } from "../../data/notices";
import { Onward } from "../../data/onward";
import { VersionedSave } from "../../data/versioned-save";
import { Preferences } from "../../data/preferences";
import { fieldErrors } from "../../data/problems";
import { AxisContext } from "./axis-context";
import { FastenerEditor } from "./fastener-editor";
import {
  differences,
  FIELD_GROUPS,
  fieldUnit,
  keptNumber,
  numberText,
  readPath,
  writePath,
  type ConfigField,
} from "./config-fields";
import { type Choice, ChoiceField, TextField } from "../../shared/fields";
import { bySchema, gate } from "../../shared/schema-form";
import { TickBox } from "../../shared/tick-box";
import { May } from "../../shared/may";
import { NotYours } from "../../shared/not-yours";

type Control = FormControl<string | boolean>;

const FIELDS = FIELD_GROUPS.flatMap((g) => g.fields);

/** What the axis is made of: edited against the version that was read, so that nobody is overwritten. */
@Component({
  selector: "ip-axis-setup",
  imports: [
    NotYours,
    May,
    ButtonDirective,
    BothVersions,
    ChoiceField,
    FastenerEditor,
    ReactiveFormsModule,
    TextField,
    TickBox,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./axis-setup.html",
  styles: `
    h2 {
      margin: var(--space-5) 0 var(--space-2);
    }
    .save {
      margin-top: var(--space-5);
    }
  `,
})
export class AxisSetup {
  protected readonly context = inject(AxisContext);
  protected readonly preferences = inject(Preferences);
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  private readonly notices = inject(Notices);
  protected readonly currency = toSignal(
    this.api.call("shop").pipe(
      map((s) => s.currency),
      catchError(() => of("")),
    ),
    { initialValue: "" },
  );
  private readonly base = linkedSignal<Axis | null>(() => this.context.axis());
  /** The axis as it was saved last: read anew, the same version empties nothing that is being typed. */
  private readonly version = computed(() => {
    const axis = this.context.axis();
    return axis ? `${axis.id} ${axis.version}` : "";
  });
  /** The axis as it is edited, in the core’s units. */
  protected readonly draft = signal<AxisConfig | null>(null);
  /** A control for each field, by its path; numbers as they are typed. */
  protected readonly form = new FormRecord<Control>({}, { validators: bySchema(axisConfigSchema, () => this.draft()) });
  private readonly maySend = gate();

  constructor() {
    const { preview } = this.context;
    effect(() => {
      this.version();
      untracked(() => {
        this.saved.begin(this.context.axis());
        this.take(this.context.axis()?.config ?? null);
      });
    });
    effect(() => {
      this.preferences.system();
      untracked(() => this.say());
    });
    effect(() => preview.set(this.changed() && this.valid() ? this.draft() : null));
    this.context.editing = this.changed;
    inject(DestroyRef).onDestroy(() => {
      this.context.editing = () => false;
      preview.set(null);
    });
  }

  protected choicesFrom(field: ConfigField): readonly Choice[] {
    return field.kind === "choice" ? field.options.map(([id, label]) => ({ id, label })) : [];
  }

  private readonly serverErrors = signal<ReadonlyMap<string, string>>(new Map());
  protected readonly saved = new VersionedSave<Axis>();

  protected readonly errors = computed<ReadonlyMap<string, string>>(() => {
    const result = axisConfigSchema.safeParse(this.draft());
    return new Map(result.error?.issues.map((i) => [i.path.join("."), i.message]));
  });
  protected readonly groups = computed(() => {
    const draft = this.draft();
    if (!draft) return [];
    return FIELD_GROUPS.map((g) => ({
      title: g.title,
      fields: g.fields.filter((f) => !f.when || f.when(draft)),
    })).filter((g) => g.fields.length > 0);
  });
  protected readonly changed = computed(() => {
    const draft = this.draft();
    const base = this.base();
    return (
      draft !== null &&
      base !== null &&
      (differences(draft, base.config, "metric").length > 0 ||
        JSON.stringify(draft.mechanics.fasteners) !== JSON.stringify(base.config.mechanics.fasteners))
    );
  });
  protected readonly conflicts = computed(() => {
    const theirs = this.saved.theirs();
    const draft = this.draft();
    return theirs && draft ? differences(draft, theirs.config, this.preferences.system()) : [];
  });
  protected readonly valid = computed(() => this.errors().size === 0);

  protected control(field: ConfigField): Control {
    return this.form.controls[field.path];
  }

  /** What the server has against a field. */
  protected refused(field: ConfigField): string {
    return this.serverErrors().get(field.path) ?? "";
  }

  /** What is taken where nothing is entered; empty where something must be. */
  protected usual(field: ConfigField): string {
    const draft = this.draft();
    return draft && field.kind === "number" && field.usual ? field.usual(draft) : "";
  }

  protected unit(field: ConfigField): string {
    return field.kind === "number" ? fieldUnit(field.path, this.preferences.system(), this.currency()).word : "";
  }

  /** Takes a configuration up to be edited. */
  private take(config: AxisConfig | null): void {
    this.draft.set(config);
    if (!config) return;
    for (const field of FIELDS) {
      if (field.path in this.form.controls) continue;
      const control: Control = new FormControl<string | boolean>("", { nonNullable: true });
      control.valueChanges.subscribe((value) => this.edit(field, value));
      this.form.addControl(field.path, control, { emitEvent: false });
    }
    this.say();
    this.form.markAsPristine();
    this.form.markAsUntouched();
  }

  /** Says what is edited in the fields, in the reader’s units. */
  private say(only: (field: ConfigField) => boolean = () => true): void {
    const draft = this.draft();
    if (!draft) return;
    for (const field of FIELDS.filter(only)) {
      const value = readPath(draft, field.path);
      const shown =
        field.kind === "number" ? numberText(value as number, field.path, this.preferences.system()) : value;
      this.control(field).setValue(shown as string | boolean, { emitEvent: false });
    }
    this.form.updateValueAndValidity();
  }

  private edit(field: ConfigField, value: string | boolean): void {
    const system = this.preferences.system();
    const before = this.draft();
    if (!before) return;
    const kept = field.kind === "number" ? keptNumber(field, value as string, system) : value;
    this.serverErrors.set(new Map());
    // Limits that nobody chose follow the drive they belong to.
    const after = withUsualLimits(before, writePath(before, field.path, kept), system);
    this.draft.set(after);
    this.say((f) => f !== field && readPath(before, f.path) !== readPath(after, f.path));
  }

  protected editFasteners(fasteners: AxisConfig["mechanics"]["fasteners"]): void {
    this.draft.update((d) => (d ? { ...d, mechanics: { ...d.mechanics, fasteners } } : d));
  }

  protected save(): void {
    const draft = this.draft();
    const base = this.base();
    if (!draft || !base || !this.maySend(this.form) || !this.changed()) return;
    // Kept over theirs knowingly, what an undo brings back is theirs.
    const before = this.saved.theirs() ?? base;
    this.saved.send(
      (version) => this.api.call("updateAxis", { params: { id: base.id }, body: { version, config: draft } }),
      () => {
        this.notices.say("Axis data kept.", () => this.undo(before));
        this.context.reload();
      },
      (problem) => this.serverErrors.set(fieldErrors(problem, "config.")),
    );
  }

  protected takeTheirs(): void {
    const theirs = this.saved.theirs();
    this.base.set(theirs);
    this.take(theirs?.config ?? null);
    this.saved.begin(theirs);
  }

  protected reset(): void {
    this.take(this.base()?.config ?? null);
    // What others changed meanwhile was not taken from under the hand; now it may come.
    this.context.look();
  }

  protected duplicate(): void {
    const axis = this.context.axis();
    if (!axis) return;
    const onward = this.onward.fromHere();
    this.api.call("duplicateAxis", { params: { id: axis.id } }).subscribe({
      next: (copy) => {
        this.notices.say(`Axis ${copy.config.letter} added like ${axis.config.letter}.`);
        this.context.reload();
        onward(`/machines/${copy.machineId}/axes/${copy.id}/setup`);
      },
      error: this.notices.error,
    });
  }

  protected retire(): void {
    const axis = this.context.axis();
    if (!axis) return;
    const retiring = axis.retiredAt === null;
    const request = retiring
      ? this.api.call("retireAxis", { params: { id: axis.id } })
      : this.api.call("reviveAxis", { params: { id: axis.id } });
    request.subscribe({
      next: () => {
        this.context.reload();
        this.notices.say(
          retiring ? `Axis ${axis.config.letter} is retired; its records stay.` : `Axis ${axis.config.letter} is back.`,
          retiring ? () => this.retire() : undefined,
        );
      },
      error: this.notices.error,
    });
  }

  private undo(before: Axis): void {
    this.api
      .call("updateAxis", {
        params: { id: before.id },
        body: {
          version: before.version + 1,
          config: before.config,
        },
      })
      .subscribe({
        next: () => this.context.reload(),
        error: this.notices.error,
      });
  }
}
