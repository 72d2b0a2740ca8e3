import { inject, Injectable } from "@angular/core";
import { Subject, tap, type Observable } from "rxjs";
import type { OrderState, PartOrderCreate, Parts } from "@iron/contract";
import { Api } from "../data/api";
import { newKey } from "../data/new-key";
import { Notices } from "../data/notices";

/** Orders of parts, from wherever they are made: an undo is still heard when the form that made one is gone. */
@Injectable({ providedIn: "root" })
export class PartOrders {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly told = new Subject<Parts>();
  /** Parts and orders after each change made here. */
  readonly changed: Observable<Parts> = this.told;

  /** Puts a part on the list; undo takes it off. */
  put(order: PartOrderCreate): Observable<Parts> {
    return this.api.call("orderPart", { body: order }).pipe(
      tap((parts) => {
        const made = parts.orders.filter((o) => o.part === order.part && o.state === "wanted").at(-1);
        this.notices.say(
          `${order.count} × ${order.part} is on the list of what to order.`,
          made && (() => this.move(made.id, "dropped")),
        );
        this.told.next(parts);
      }),
    );
  }

  move(id: number, state: OrderState): void {
    this.api.call("moveOrder", { params: { id }, body: { key: newKey(), state } }).subscribe({
      next: (parts) => this.told.next(parts),
      error: this.notices.error,
    });
  }
}
