import { ChangeDetectionStrategy, Component, computed, input, linkedSignal } from "@angular/core";
import { RouterLink } from "@angular/router";
import type { LubricationPointRecord } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { OrderForm } from "../stock/order-form";

/** What somebody has to act on at a point may want a part: it goes onto the list of what to order from here. */
@Component({
  selector: "ip-order-what",
  imports: [ButtonDirective, OrderForm, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (acts().length) {
      @if (done()) {
        <p role="status">On the list of <a routerLink="/rounds/parts">what to order</a>.</p>
      } @else if (open()) {
        <ip-order-form
          [part]="part()"
          [why]="why()"
          [pointId]="point().id"
          (kept)="done.set(true)"
          (left)="open.set(false)"
        />
      } @else {
        <button type="button" pButton severity="secondary" (click)="open.set(true)">Order a part for it</button>
      }
    }
  `,
})
export class OrderWhat {
  readonly point = input.required<LubricationPointRecord>();
  private readonly visited = computed(() => this.point().lastAt);
  /** Another visit asks anew. */
  protected readonly open = linkedSignal({ source: this.visited, computation: () => false });
  protected readonly done = linkedSignal({ source: this.visited, computation: () => false });
  /** Checks that the last visit left for somebody to act on. */
  protected readonly acts = computed(() => {
    const { answered, lastAt } = this.point();
    return answered.filter((c) => c.answer === "act" && c.at === lastAt);
  });
  protected readonly part = computed(() => {
    const [first] = this.acts();
    if (!first) return "";
    const { place } = this.point();
    // “brush length” is read of the brushes: the part is what is looked at, and may be said better.
    const looked = first.name.replace(/ (length|level|pressure|depth|width)$/, "");
    return place.includes(looked) ? place : `${looked}, ${place}`;
  });
  protected readonly why = computed(() =>
    this.acts()
      .map((c) =>
        [c.name, c.figure === null ? "" : ` ${c.figure} ${c.unit ?? ""}`, c.wrong ? `, ${c.wrong}` : ""].join(""),
      )
      .join("; "),
  );
}
