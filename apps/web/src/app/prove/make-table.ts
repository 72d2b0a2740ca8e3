import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
  untracked,
} from "@angular/core";
import { takeUntilDestroyed } from "@angular/core/rxjs-interop";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { GROWTH_PER_K } from "@iron/core";
import { correctionCreateSchema, type CorrectionCreate, type Corrections, type CorrectionTrial } from "@iron/contract";
import { catchError, debounceTime, EMPTY, filter, startWith, Subscription, switchMap, tap } from "rxjs";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { Onward } from "../data/onward";
import { Preferences } from "../data/preferences";
import { problemFrom } from "../data/problems";
import { AxisContext } from "../machine/axis/axis-context";
import { ChoiceField, NumberField, TextField } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { bySchema } from "../shared/schema-form";
import { SendForm } from "../shared/send-form";
import { TickBox } from "../shared/tick-box";
import { Trouble } from "../shared/trouble";
import { TableSays } from "./table-says";
import {
  ofProfile,
  oldChoices,
  profileChoices,
  tableCreate,
  tableField,
  usualTable,
  type TableDraft,
} from "./table.view";

/** So long nobody types before it is worked out anew. */
const PAUSE_MS = 350;

type Controls = { [K in keyof TableDraft]: FormControl<TableDraft[K]> };

function formOf(draft: TableDraft, read: (value: TableDraft) => unknown): FormGroup<Controls> {
  const controls = Object.fromEntries(
    Object.entries(draft).map(([name, value]) => [name, new FormControl(value, { nonNullable: true })]),
  ) as unknown as Controls;
  return new FormGroup(controls, {
    validators: bySchema(correctionCreateSchema, read, tableField),
  });
}

/** A compensation table made from a profile: what the control wants, what was warm, and what comes of it at once. */
@Component({
  selector: "ip-make-table",
  imports: [
    ButtonDirective,
    ChoiceField,
    LoadingLines,
    NumberField,
    ReactiveFormsModule,
    RouterLink,
    TableSays,
    TextField,
    TickBox,
    Trouble,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./make-table.html",
  styleUrls: ["./circle.css", "../shared/folds.css"],
})
export class MakeTable {
  protected readonly context = inject(AxisContext);
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  // What stands in the form stays when the units are changed.
  private readonly preferences = inject(Preferences);
  private readonly destroyed = inject(DestroyRef);
  protected readonly sending = new SendForm();
  private working: Subscription | null = null;
  protected readonly loaded = new Loaded(() =>
    this.api.call("corrections", { params: { id: this.context.axis()?.id ?? 0 } }),
  );
  protected readonly form = computed(() => {
    const [all, axis] = [this.loaded.value(), this.context.axis()];
    return all?.profiles.length && axis
      ? untracked(() =>
          formOf(usualTable(axis.config, all, this.preferences.system()), (value) => this.createOf(value, all).body),
        )
      : null;
  });
  protected readonly profiles = computed(() => profileChoices(this.loaded.value() ?? NONE));
  protected readonly olds = computed(() => oldChoices(this.loaded.value() ?? NONE));
  protected readonly trial = signal<{ readonly trial: CorrectionTrial; readonly given: CorrectionCreate } | null>(null);
  private readonly refusal = this.sending.refusal;
  protected readonly waiting = signal(false);
  protected readonly growth = `steel ${GROWTH_PER_K.steel}, cast iron ${GROWTH_PER_K["cast-iron"]}, glass ${GROWTH_PER_K.glass}, granite ${GROWTH_PER_K.granite}`;
  protected readonly ways = [
    { id: "one", label: "one both directions" },
    { id: "two", label: "one each direction" },
  ] as const;
  protected readonly senses = [
    { id: "added", label: "adds the value" },
    { id: "taken-away", label: "takes the value away" },
  ] as const;
  protected readonly forms = [
    { id: "whole", label: "whole values" },
    { id: "step", label: "steps point to point" },
  ] as const;
  protected readonly counts = [
    { id: "+", label: "from the lowest point" },
    { id: "-", label: "from the highest point" },
  ] as const;
  /** What keeps it from being kept. */
  protected readonly barred = computed(() => {
    const trial = this.trial()?.trial;
    return !trial || trial.may.refused.length > 0;
  });

  constructor() {
    effect(() => {
      if (this.context.axis()) untracked(() => this.loaded.again());
    });
    effect(() => {
      const form = this.form();
      if (form) untracked(() => this.follow(form));
    });
    effect((undo) => {
      const [form, all] = [this.form(), this.loaded.value()];
      // Another profile brings its own temperature, and the table that stood in the control then.
      const chosen = form?.controls.run.valueChanges.subscribe((run) =>
        form.patchValue(ofProfile(all?.profiles.find((p) => String(p.runId) === run))),
      );
      undo(() => chosen?.unsubscribe());
    });
    this.destroyed.onDestroy(() => this.working?.unsubscribe());
  }

  private createOf(value: TableDraft, all: Corrections) {
    return tableCreate(value, all, this.context.axis()?.config.travelMm ?? 0);
  }

  /** Works it out at once, and anew whenever what is given changes. */
  private follow(form: FormGroup<Controls>): void {
    const [id, all] = [this.context.axis()?.id, this.loaded.value()];
    if (id === undefined || !all) return;
    this.working?.unsubscribe();
    this.working = form.valueChanges
      .pipe(
        debounceTime(PAUSE_MS),
        startWith(null),
        filter(() => form.valid),
        switchMap(() => {
          const { body, wrong } = this.createOf(form.getRawValue(), all);
          this.refusal.set(wrong);
          if (wrong) return EMPTY;
          this.waiting.set(true);
          return this.api.call("tryCorrection", { params: { id }, body }).pipe(
            tap((trial) => this.trial.set({ trial, given: body })),
            catchError((failure: unknown) => {
              this.refusal.set(problemFrom(failure).detail);
              this.trial.set(null);
              this.waiting.set(false);
              return EMPTY;
            }),
          );
        }),
        takeUntilDestroyed(this.destroyed),
      )
      .subscribe(() => this.waiting.set(false));
  }

  protected keep(): void {
    const [form, id, all] = [this.form(), this.context.axis()?.id, this.loaded.value()];
    if (!form || id === undefined || !all) return;
    const { body, wrong } = this.createOf(form.getRawValue(), all);
    if (wrong) {
      this.refusal.set(wrong);
      return;
    }
    const [onward, base] = [this.onward.fromHere(), this.context.base()];
    this.sending.send(
      form,
      () => this.api.call("keepCorrection", { params: { id }, body }),
      (made) => onward(`${base}/table/${made.id}`),
    );
  }
}

const NONE: Corrections = { profiles: [], versions: [], losses: [], simulated: false };
