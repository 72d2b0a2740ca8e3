import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { parseDecimal } from "@iron/contract";
import {
  fastenersOf,
  fromShown,
  TORQUE_SOURCES,
  torqueOf,
  unitOf,
  type AxisConfig,
  type OwnFastener,
} from "@iron/core";
import { Preferences } from "../../data/preferences";
import { type Choice, ChoiceField, TextField } from "../../shared/fields";

const SOURCES: Record<OwnFastener["source"], string> = {
  book: "the machine’s book",
  table: "a table by thread and grade",
  snug: "snug, no figure",
};

interface Draft {
  readonly thread: string;
  readonly grade: string;
  readonly count: string;
  readonly torque: string;
  readonly source: OwnFastener["source"];
}

/** Fasteners as somebody found them on this axis: thread, grade, number, torque and by whose word. */
@Component({
  selector: "ip-fastener-editor",
  imports: [ButtonDirective, ChoiceField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styles: ":host { display: block; margin: 20px 0 16px; }",
  template: `
    <h2>Fasteners: by the book of this machine</h2>
    @for (line of kept(); track line.joint) {
      <p>
        {{ line.text }}
        <button type="button" pButton severity="secondary" (click)="forget(line.joint)">Back to usual</button>
      </p>
    } @empty {
      <p class="quiet">None noted: job sheets take usual sizes and a table by thread, and say so.</p>
    }
    <div class="fields">
      <ip-choice-field label="Fastener" [choices]="choices()" [value]="joint()" (chosen)="joint.set($any($event))" />
      @if (joint()) {
        <ip-text-field label="Thread" [value]="draft().thread" [most]="20" (typed)="set({ thread: $event })" />
        <ip-text-field label="Property class" [value]="draft().grade" [most]="20" (typed)="set({ grade: $event })" />
        <ip-text-field label="How many" mode="numeric" [value]="draft().count" (typed)="set({ count: $event })" />
        <ip-choice-field
          label="Torque from"
          [choices]="sources"
          [value]="draft().source"
          (chosen)="set({ source: $any($event) })"
        />
        @if (draft().source !== "snug") {
          <ip-text-field
            [label]="'Torque, ' + unit()"
            mode="decimal"
            [value]="draft().torque"
            (typed)="set({ torque: $event })"
          />
        }
      }
    </div>
    @if (error()) {
      <p class="wrong" role="alert">{{ error() }}</p>
    }
    @if (joint()) {
      <button type="button" pButton severity="secondary" (click)="note()">Note this fastener</button>
    }
  `,
})
export class FastenerEditor {
  readonly config = input.required<AxisConfig>();
  readonly edited = output<AxisConfig["mechanics"]["fasteners"]>();
  private readonly preferences = inject(Preferences);
  protected readonly sources: readonly Choice[] = TORQUE_SOURCES.map((id) => ({
    id,
    label: SOURCES[id],
  }));
  protected readonly joint = linkedSignal<string, string>({
    source: computed(() => this.config().letter),
    computation: () => "",
  });
  protected readonly unit = computed(() => unitOf("torque", this.preferences.system()));
  protected readonly choices = computed((): readonly Choice[] => [
    { id: "", label: "choose one" },
    ...fastenersOf(this.config()).map((f) => ({ id: f.joint, label: f.name })),
  ]);
  protected readonly kept = computed(() =>
    fastenersOf(this.config())
      .filter((f) => f.joint in this.config().mechanics.fasteners)
      .map((f) => ({
        joint: f.joint,
        text: torqueOf(this.config(), f.joint),
      })),
  );
  protected readonly draft = linkedSignal<string, Draft>({
    source: this.joint,
    computation: (joint) => {
      const f = fastenersOf(this.config()).find((x) => x.joint === joint);
      return {
        thread: f?.thread ?? "",
        grade: f?.grade ?? "",
        count: String(f?.count ?? 1),
        torque: "",
        source: "book",
      };
    },
  });
  protected readonly error = linkedSignal<string, string>({
    source: this.joint,
    computation: () => "",
  });

  protected set(over: Partial<Draft>): void {
    this.draft.update((d) => ({ ...d, ...over }));
    this.error.set("");
  }

  protected note(): void {
    const { thread, grade, count, torque, source } = this.draft();
    const many = Number(count);
    if (!Number.isInteger(many) || many < 1 || many > 99) {
      this.error.set(`How many “${count}” cannot be: from 1 to 99.`);
      return;
    }
    const shown = source === "snug" ? null : parseDecimal(torque);
    if (shown === undefined || (shown !== null && shown <= 0)) {
      this.error.set(`Torque “${torque}” cannot be: a figure above 0 ${this.unit()}, or snug.`);
      return;
    }
    const torqueNm = shown === null ? null : fromShown("torque", shown, this.preferences.system());
    this.edited.emit({
      ...this.config().mechanics.fasteners,
      [this.joint()]: { thread, grade, count: many, torqueNm, source },
    });
    this.joint.set("");
  }

  protected forget(joint: string): void {
    this.edited.emit(
      Object.fromEntries(Object.entries(this.config().mechanics.fasteners).filter(([j]) => j !== joint)),
    );
  }
}
