import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from "@angular/core";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import { parseDecimal, weighingSchema, type LubricationSettings } from "@iron/contract";
import { quantityWithU } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { problemFrom } from "../data/problems";
import { TextField } from "../shared/fields";

type Gun = LubricationSettings["guns"][number];

/** What a stroke of each gun gives, by weighing: kept at once, and nothing else with it. */
@Component({
  selector: "ip-gun-weighings",
  imports: [ButtonDirective, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    <h2>What a stroke gives</h2>
    <p class="quiet">
      Weigh ten strokes, three times. The first gun is the one that doses are reckoned with; without one a stroke counts
      as 0.8 g.
    </p>
    <ul class="walked">
      @for (one of guns(); track one.name) {
        <li>
          {{ one.name }}: {{ one.text }}
          <button type="button" pButton text (click)="drop(one.name)" [attr.aria-label]="'Strike out ' + one.name">
            strike out
          </button>
        </li>
      } @empty {
        <li>no gun is weighed yet</li>
      }
    </ul>
    <form class="acts" [formGroup]="form" (ngSubmit)="weigh()" aria-label="A weighing">
      <ip-text-field label="Gun" [most]="60" formControlName="name" />
      <ip-text-field label="Strokes" mode="numeric" formControlName="strokes" />
      <ip-text-field label="Came out, g" mode="decimal" formControlName="grams" />
      <button type="submit" pButton severity="secondary">Keep the weighing</button>
    </form>
    @if (message()) {
      <p class="wrong" role="alert">{{ message() }}</p>
    }
  `,
})
export class GunWeighings {
  /** As the server has it. */
  readonly saved = input.required<LubricationSettings>();
  readonly kept = output<LubricationSettings>();
  /** Somebody else was faster: what is kept now. */
  readonly raced = output<LubricationSettings>();
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly message = signal("");
  protected readonly form = new FormGroup({
    name: new FormControl("", { nonNullable: true }),
    strokes: new FormControl("10", { nonNullable: true }),
    grams: new FormControl("", { nonNullable: true }),
  });
  protected readonly guns = computed(() =>
    this.saved().gunFigures.map((g) => ({
      name: g.name,
      text: `${quantityWithU("mass", { value: g.gramsPerStroke, expanded: g.expandedGrams }, "metric").join(" ")} a stroke`,
    })),
  );

  protected weigh(): void {
    const { name, strokes, grams } = this.form.getRawValue();
    const read = readWeighing(name, strokes, grams);
    this.message.set(typeof read === "string" ? read : "");
    if (typeof read === "string") return;
    const guns = this.saved().guns;
    const there = guns.find((x) => x.name === name.trim());
    this.keep(
      there
        ? guns.map((x) => (x === there ? { ...x, weighings: [...x.weighings, read] } : x))
        : [...guns, { name: name.trim(), weighings: [read] }],
      () => this.form.controls.grams.reset(),
    );
  }

  protected drop(name: string): void {
    this.keep(this.saved().guns.filter((g) => g.name !== name));
  }

  private keep(guns: readonly Gun[], then: () => void = () => undefined): void {
    const { gramsPerStroke: _, gunFigures: __, ...edit } = { ...this.saved(), guns: [...guns] };
    this.message.set("");
    this.api.call("updateLubricationSettings", { body: edit }).subscribe({
      next: (now) => {
        this.kept.emit(now);
        then();
        this.notices.say("Kept. Doses in strokes are reckoned with it.");
      },
      error: (error: unknown) => {
        const problem = problemFrom(error);
        const raced = problem.status === 409 && problem.current;
        if (raced) this.raced.emit(problem.current as LubricationSettings);
        this.message.set(raced ? "Somebody else has changed this meanwhile. Do it once more." : problem.detail);
      },
    });
  }
}

/** A weighing, or why it cannot be. */
function readWeighing(name: string, strokes: string, grams: string): Gun["weighings"][number] | string {
  const [n, g] = [parseDecimal(strokes), parseDecimal(grams)];
  if (!name.trim() || n === undefined || g === undefined)
    return "A weighing wants the gun’s name, its strokes and the grams that came out.";
  if (weighingSchema.safeParse({ strokes: n, grams: g }).success) return { strokes: n, grams: g };
  return `${strokes} strokes and ${grams} g cannot be: strokes are a whole number from 1 to 200, grams above 0 and up to 4000.`;
}
