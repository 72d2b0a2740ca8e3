import { CdkDrag, CdkDropList, moveItemInArray } from "@angular/cdk/drag-drop";
import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { refuseOrder } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { newKey } from "../data/new-key";
import { JobStore } from "./job-store";
import { sheetRows, stepName } from "./job.view";

/** Every step of the job; what is left can be put in another order, by hand or by keys. */
@Component({
  selector: "ip-whole-sheet",
  imports: [ButtonDirective, CdkDrag, CdkDropList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./job.css",
  template: `
    @if (moving()) {
      <p class="quiet">Move what is left; what that breaks is said here before it is kept.</p>
      @if (orderError().length) {
        <ul class="bad" role="alert">
          @for (line of orderError(); track line) {
            <li>{{ line }}</li>
          }
        </ul>
      }
      <ol class="steps" cdkDropList (cdkDropListDropped)="drop($event.previousIndex, $event.currentIndex)">
        @for (one of left(); track one.id) {
          <li cdkDrag cdkDragLockAxis="y">
            <span class="grip">{{ one.name }}</span>
            <span class="acts">
              <button
                type="button"
                pButton
                severity="secondary"
                [attr.aria-label]="'Earlier: ' + one.name"
                (click)="move(one.id, -1)"
              >
                ↑
              </button>
              <button
                type="button"
                pButton
                severity="secondary"
                [attr.aria-label]="'Later: ' + one.name"
                (click)="move(one.id, 1)"
              >
                ↓
              </button>
            </span>
          </li>
        }
      </ol>
      <div class="acts">
        <button type="button" pButton [disabled]="orderError().length > 0 || store.offline()" (click)="keepOrder()">
          Keep this order
        </button>
        <button type="button" pButton severity="secondary" (click)="leaveOrder()">Leave it as it was</button>
      </div>
    } @else {
      <ol class="steps">
        @for (row of rows(); track row.id) {
          <li [class.done]="row.done" [class.here]="row.now">
            <span
              >{{ row.name }}{{ row.hold ? " · hold" : "" }}
              @if (row.done) {
                <span class="signed">signed {{ row.done }}</span>
              }
              @if (row.state) {
                <span class="state">{{ row.state }}</span>
              }
            </span>
            <span class="quiet">{{ row.minutes }} min</span>
          </li>
        }
      </ol>
      @if (store.progress()?.next) {
        <button type="button" pButton severity="secondary" (click)="beginMoving()">Change the order</button>
      }
    }
  `,
})
export class WholeSheet {
  protected readonly store = inject(JobStore);
  protected readonly orderError = signal<readonly string[]>([]);
  /** The order being changed by hand; null while nobody does. */
  protected readonly moving = signal<readonly string[] | null>(null);
  protected readonly rows = computed(() => {
    const [job, progress] = [this.store.job(), this.store.progress()];
    return job && progress ? sheetRows(job, progress) : [];
  });
  protected readonly left = computed(() => {
    const progress = this.store.progress();
    if (!progress) return [];
    const steps = progress.plan.steps.filter((s) => !progress.done.has(s.id));
    const byId = new Map(steps.map((s) => [s.id, s]));
    const order = this.moving() ?? steps.map((s) => s.id);
    return order.flatMap((id) => {
      const step = byId.get(id);
      return step ? [{ id, name: stepName(step) }] : [];
    });
  });

  protected beginMoving(): void {
    this.moving.set(this.left().map((s) => s.id));
    this.orderError.set([]);
  }

  /** Moves a step one place. */
  protected move(id: string, by: -1 | 1): void {
    const at = (this.moving() ?? []).indexOf(id);
    this.drop(at, at + by);
  }

  /** Puts a step elsewhere; says at once what that breaks. */
  protected drop(from: number, to: number): void {
    const order = [...(this.moving() ?? [])];
    if (to < 0 || to >= order.length) return;
    moveItemInArray(order, from, to);
    this.moving.set(order);
    const progress = this.store.progress();
    this.orderError.set(progress ? refuseOrder(progress, order) : []);
  }

  protected keepOrder(): void {
    const order = this.moving();
    if (!order || this.orderError().length) return;
    this.store.act({ kind: "reorder", order: [...order], key: newKey() });
    this.moving.set(null);
  }

  protected leaveOrder(): void {
    this.moving.set(null);
    this.orderError.set([]);
  }
}
