import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { AxisContext } from "../machine/axis/axis-context";
import { TextField } from "../shared/fields";
import { Opens } from "../shared/opens";
import { TickBox } from "../shared/tick-box";
import { causesOf } from "./case.view";
import { CaseStore } from "./case-store";

/** Closing a case: what it really was, as found when it was open. */
@Component({
  selector: "ip-close-case",
  imports: [ButtonDirective, Opens, TextField, TickBox],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    <form ipOpens class="boxed" aria-label="Close the case" (submit)="$event.preventDefault(); close()">
      <h3>What was it really?</h3>
      <p class="quiet">
        As found when it was open. The shop’s priors learn from it, a little each time. Nothing ticked: nothing was
        wrong.
      </p>
      <div class="found">
        @for (cause of causes(); track cause.id) {
          <ip-tick-box [checked]="found().has(cause.id)" (ticked)="toggle(cause.id, $event)">{{
            cause.name
          }}</ip-tick-box>
        }
      </div>
      <ip-text-field label="In words" lines [most]="1000" [value]="words()" (typed)="words.set($event)" />
      <div class="acts">
        <button type="submit" pButton>Close the case</button>
        <button type="button" pButton severity="secondary" (click)="left.emit()">Not yet</button>
      </div>
    </form>
  `,
})
export class CloseCase {
  /** Closed, or not yet. */
  readonly left = output();
  private readonly context = inject(AxisContext);
  private readonly store = inject(CaseStore);
  protected readonly words = signal("");
  /** Begins with what is as good as sure. */
  protected readonly found = signal<ReadonlySet<string>>(
    new Set(
      this.store
        .leading()
        .filter((l) => l.probability > 0.9)
        .map((l) => l.cause.id),
    ),
  );
  protected readonly causes = computed(() => {
    const axis = this.context.axis();
    if (!axis) return [];
    const chance = new Map(this.store.leading().map((l) => [l.cause.id, l.probability]));
    return [...causesOf(axis.config)].sort((a, b) => (chance.get(b.id) ?? 0) - (chance.get(a.id) ?? 0));
  });

  protected toggle(id: string, on: boolean): void {
    const next = new Set(this.found());
    if (on) next.add(id);
    else next.delete(id);
    this.found.set(next);
  }

  protected close(): void {
    this.store.close([...this.found()], this.words(), () => this.left.emit());
  }
}
