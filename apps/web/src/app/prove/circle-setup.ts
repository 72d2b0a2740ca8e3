import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from "@angular/core";
import { FormArray, FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { USUAL_FEED, USUAL_RADII, formatSize, type UnitSystem } from "@iron/core";
import { circleCreateSchema } from "@iron/contract";
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
import { createOf, fieldOf, usualDraft, usualPlanes, type SetUpDraft } from "./circle-setup.view";

const of = <T>(value: T): FormControl<T> => new FormControl(value, { nonNullable: true });

function formOf(draft: SetUpDraft, read: (value: SetUpDraft) => unknown) {
  const { planes, ...own } = draft;
  return new FormGroup(
    {
      radiusMm: of(own.radiusMm),
      feedMmMin: of(own.feedMmMin),
      secondFeed: of(own.secondFeed),
      first: of(own.first),
      barName: of(own.barName),
      resolutionMm: of(own.resolutionMm),
      barU: of(own.barU),
      calibrated: of(own.calibrated),
      temperatureC: of(own.temperatureC),
      note: of(own.note),
      planes: new FormArray(
        planes.map((p) => new FormGroup({ on: of(p.on), a: of(p.a), b: of(p.b), shape: of(p.shape) })),
      ),
    },
    { validators: bySchema(circleCreateSchema, read, fieldOf) },
  );
}

/** What circles are to be taken of a machine: planes, bar, feed and where. */
@Component({
  selector: "ip-circle-setup",
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
  templateUrl: "./circle-setup.html",
  styles: `
    .plane {
      border-top: 1px solid var(--rule);
      padding: var(--space-2) 0;
    }
    .before {
      padding-left: var(--space-4);
    }
    .before li {
      margin-bottom: var(--space-2);
    }
    form .acts {
      margin-top: var(--space-4);
    }
  `,
})
export class CircleSetUp {
  readonly machineId = input.required<string>();
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  private readonly preferences = inject(Preferences);
  private readonly loaded = new Loaded(() => this.api.call("machine", { params: { id: this.machineId() } }));
  protected readonly machine = this.loaded.value;
  protected readonly message = this.loaded.message;
  protected readonly sending = new SendForm();
  /** Round in the units that were chosen when it was opened: what is typed meanwhile is not begun anew. */
  protected readonly plans = computed(() => usualPlanes(this.machine()?.axes ?? [], this.system()));
  protected readonly form = computed(() => {
    const plans = this.plans();
    return plans.length
      ? formOf(usualDraft(plans, this.system()), (value: SetUpDraft) => createOf(value, plans))
      : null;
  });
  protected readonly radii = computed(
    () =>
      `usual: ${USUAL_RADII[this.preferences.system()].map((r) => formatSize(r, this.preferences.system())).join(", ")}`,
  );
  protected readonly usualFeed = computed(
    () => `${formatSize(USUAL_FEED[this.preferences.system()], this.preferences.system())}/min`,
  );
  protected readonly ways = [
    { id: "1", label: "counterclockwise first" },
    { id: "-1", label: "clockwise first" },
  ] as const;
  protected readonly shapes = [
    { id: "full", label: "full circle" },
    { id: "upper", label: "half a circle, 220° run" },
    { id: "lower", label: "the other half" },
  ] as const;

  constructor() {
    effect(() => {
      this.machineId();
      untracked(() => this.loaded.again());
    });
  }

  private system(): UnitSystem {
    return untracked(this.preferences.system);
  }

  protected again(): void {
    this.loaded.again();
  }

  protected start(): void {
    const [form, machine] = [this.form(), this.machine()];
    if (!form || !machine) return;
    const body = createOf(form.getRawValue(), this.plans());
    const onward = this.onward.fromHere();
    this.sending.send(
      form,
      () => this.api.call("startCircle", { params: { id: machine.id }, body }),
      (session) => onward(`/circles/${session.id}`),
    );
  }
}
