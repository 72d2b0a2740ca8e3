import { inject, Injectable } from "@angular/core";
import { defaultHandTest, type HandTestKind } from "@iron/core";
import type { Axis } from "@iron/contract";
import { Api } from "../../data/api";
import { Notices } from "../../data/notices";
import { Onward } from "../../data/onward";
import type { HandTestExtra } from "./hand-test-set-up";

/** Begins a row of readings with the usual plan of an axis and goes to it. */
@Injectable({ providedIn: "root" })
export class HandTestStart {
  private readonly api = inject(Api);
  private readonly onward = inject(Onward);
  private readonly notices = inject(Notices);

  begin(
    axis: Axis,
    { base, kind, extra = {} }: { readonly base: string; readonly kind: HandTestKind; readonly extra?: HandTestExtra },
  ): void {
    const plan = { ...defaultHandTest(axis.config, kind), ...extra };
    const onward = this.onward.fromHere();
    this.api.call("startHandTest", { params: { id: axis.id }, body: { plan } }).subscribe({
      next: ({ id }) => onward(`${base}/series/${id}`),
      error: this.notices.error,
    });
  }
}
