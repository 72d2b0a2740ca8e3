import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { CIRCLE_LIMITED, LIMITED_TEXT, overLength, type CircleLimited } from "@iron/core";
import { parseDecimal, type CircleLimitsRecord } from "@iron/contract";
import { Api } from "../data/api";
import { Preferences } from "../data/preferences";
import { saidIn } from "../data/problems";
import { TextField } from "../shared/fields";
import { dayText } from "../shared/times.text";
import { May } from "../shared/may";

/** What one shown unit is in the value’s own: µm or tenths, over 300 mm or 12 in, ms. */
function unitOf(what: CircleLimited, system: "metric" | "inch"): { readonly per: number; readonly word: string } {
  const inch = system === "inch";
  const small = inch ? 0.00254 : 0.001;
  if (what === "servo") return { per: 0.001, word: "ms" };
  if (what === "mismatch" || what === "square")
    return { per: small / (inch ? 304.8 : 300), word: overLength(0, null, system).replace(/^0 /, "") };
  return { per: small, word: inch ? "tenths" : "µm" };
}

/** What circles of a machine are judged by, and who said so and why. */
@Component({
  selector: "ip-circle-limits",
  imports: [May, ButtonDirective, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>What they are judged by</h2>
    <p class="quiet">{{ said() }}</p>
    @if (open()) {
      <form (submit)="$event.preventDefault(); keep()" aria-label="Limits of circles">
        <div class="rows-of">
          @for (row of rows(); track row.id) {
            <div class="one">
              <span>{{ row.name }}, {{ row.word }}</span>
              <ip-text-field
                [label]="'leave up to, ' + row.name"
                mode="decimal"
                [value]="row.leave"
                [error]="wrong()[row.id] ?? ''"
                (typed)="type(row.id, 0, $event)"
              />
              <ip-text-field
                [label]="'repair first above, ' + row.name"
                mode="decimal"
                [value]="row.repair"
                (typed)="type(row.id, 1, $event)"
              />
            </div>
          }
        </div>
        <div class="fields">
          <ip-text-field
            class="wide"
            label="Why: what is made here that wants it"
            [most]="200"
            [value]="why()"
            [error]="wrong()['why'] ?? ''"
            (typed)="why.set($event)"
          />
        </div>
        @if (message()) {
          <p class="bad" role="alert">{{ message() }}</p>
        }
        <div class="acts">
          <button type="submit" pButton [disabled]="busy()">Keep the limits</button>
          <button type="button" pButton severity="secondary" (click)="open.set(false)">Leave them</button>
        </div>
      </form>
    } @else {
      <table class="rows">
        <thead>
          <tr>
            <th scope="col">Of</th>
            <th scope="col">Leave up to</th>
            <th scope="col">Repair first above</th>
            <th scope="col">In</th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.id) {
            <tr>
              <th scope="row">{{ row.name }}</th>
              <td>{{ row.leave }}</td>
              <td>{{ row.repair }}</td>
              <td>{{ row.word }}</td>
            </tr>
          }
        </tbody>
      </table>
      <p class="quiet">What an axis loses when it turns round is judged by that axis’ own limits.</p>
      <button *ipMay="'setCircleLimits'" type="button" pButton severity="secondary" (click)="begin()">
        Set other limits…
      </button>
    }
  `,
  styles: `
    .one {
      display: grid;
      grid-template-columns: minmax(0, 2fr) minmax(0, 1fr) minmax(0, 1fr);
      gap: var(--space-3);
      align-items: end;
      border-top: 1px solid var(--rule);
      padding: var(--space-2) 0;
    }
    @media (max-width: 620px) {
      .one {
        grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
      }
      .one > span {
        grid-column: 1 / -1;
      }
    }
    .acts {
      margin-top: var(--space-3);
    }
  `,
})
export class CircleLimitsForm {
  readonly machineId = input.required<number>();
  readonly record = input.required<CircleLimitsRecord>();
  readonly kept = output();
  private readonly api = inject(Api);
  private readonly preferences = inject(Preferences);
  protected readonly open = signal(false);
  protected readonly busy = signal(false);
  protected readonly why = signal("");
  protected readonly message = signal("");
  protected readonly wrong = signal<Readonly<Partial<Record<string, string>>>>({});
  private readonly typed = signal<Readonly<Partial<Record<CircleLimited, readonly [string?, string?]>>>>({});
  protected readonly said = computed(() => {
    const { by, why, at } = this.record();
    return at === null
      ? "The usual ones of a machine in ordinary order (common practice, no source). Set your own by what is made here."
      : `Set by ${by}, ${dayText(at)}: ${why}`;
  });
  /** The loss has its limits with each axis. */
  protected readonly rows = computed(() =>
    CIRCLE_LIMITED.filter((id) => id !== "lost").map((id) => {
      const { per, word } = unitOf(id, this.preferences.system());
      const { leave, repair } = this.record().limits[id];
      const shown = (value: number): string => String(Number((value / per).toPrecision(4)));
      return { id, name: LIMITED_TEXT[id], word, leave: shown(leave), repair: shown(repair) };
    }),
  );

  protected begin(): void {
    this.typed.set({});
    this.wrong.set({});
    this.message.set("");
    this.open.set(true);
  }

  protected type(id: CircleLimited, which: 0 | 1, text: string): void {
    this.typed.update((all) => {
      const [leave, repair] = all[id] ?? [];
      return { ...all, [id]: which === 0 ? [text, repair] : [leave, text] };
    });
  }

  protected keep(): void {
    const wrong: Partial<Record<string, string>> = {};
    const limits = { ...this.record().limits };
    for (const row of this.rows()) {
      const { per } = unitOf(row.id, this.preferences.system());
      const [leave, repair] = this.typed()[row.id] ?? [];
      const [low, high] = [leave ?? row.leave, repair ?? row.repair].map((t) => parseDecimal(t));
      if (low === undefined || high === undefined || !(low > 0) || !(high > low))
        wrong[row.id] = `${leave ?? row.leave} and ${repair ?? row.repair}: both above 0, the second above the first.`;
      else if (leave !== undefined || repair !== undefined) limits[row.id] = { leave: low * per, repair: high * per };
    }
    if (this.why().trim() === "") wrong["why"] = "Say in a word why: whoever reads it next will want to know.";
    this.wrong.set(wrong);
    if (Object.keys(wrong).length) return;
    this.busy.set(true);
    this.api
      .call("setCircleLimits", { params: { id: this.machineId() }, body: { limits, why: this.why().trim() } })
      .subscribe({
        next: () => {
          this.busy.set(false);
          this.open.set(false);
          this.kept.emit();
        },
        error: (failure: unknown) => {
          this.busy.set(false);
          saidIn(this.message)(failure);
        },
      });
  }
}
