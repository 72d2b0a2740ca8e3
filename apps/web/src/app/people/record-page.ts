import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from "@angular/core";
import { Router } from "@angular/router";
import type { RecordLine } from "@iron/contract";
import { ButtonDirective } from "primeng/button";
import { Api } from "../data/api";
import { saidIn } from "../data/problems";
import { AddressPipe } from "../data/address.pipe";
import { DayField } from "../shared/day-field";
import { TextField } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { sentText } from "../shared/sent.text";
import { momentText } from "../shared/times.text";
import { Trouble } from "../shared/trouble";
import { placeOf, queryOf, type Wanted } from "./record.view";

/** Who changed what, when, and from where. What is looked for stands in the address. */
@Component({
  selector: "ip-record",
  imports: [AddressPipe, ButtonDirective, DayField, LoadingLines, TextField, Trouble],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="sheet">
      <h1>Record</h1>
      <p class="lead">
        Every change since this record began: who, when, and from which device. It is only added to; nobody changes it,
        not even the keeper.
      </p>
      <form class="fields" (submit)="$event.preventDefault()" aria-label="What is looked for">
        <ip-text-field label="Words" [most]="200" [value]="words()" (typed)="look({ words: $event })" />
        <ip-text-field label="Who" [most]="40" [value]="by()" (typed)="look({ by: $event })" />
        <ip-day-field label="From" [value]="from()" [most]="to()" (picked)="look({ from: $event })" />
        <ip-day-field label="To" [value]="to()" [least]="from()" (picked)="look({ to: $event })" />
      </form>
      @if (error()) {
        <ip-trouble [message]="error()" (again)="load()" />
      } @else if (!lines()) {
        <ip-loading>Looking it up…</ip-loading>
      } @else {
        <div class="scroll-x" tabindex="0" role="region" aria-label="Record">
          <table class="rows">
            <thead>
              <tr>
                <th scope="col" class="words">When</th>
                <th scope="col" class="words">Who</th>
                <th scope="col" class="words">Device</th>
                <th scope="col" class="words">What</th>
              </tr>
            </thead>
            <tbody>
              @for (row of rows(); track row.place) {
                <tr>
                  <td class="words still">{{ row.at }}</td>
                  <td class="words">{{ row.by }}</td>
                  <td class="words">{{ row.address }}</td>
                  <td class="words">
                    {{ row.what }}
                    @if (row.sent) {
                      <span class="sent quiet">{{ row.sent }}</span>
                    }
                  </td>
                </tr>
              } @empty {
                <tr>
                  <td colspan="4">{{ narrowed() ? "No line has all of that." : "Nothing was changed yet." }}</td>
                </tr>
              }
            </tbody>
          </table>
        </div>
        <div class="acts">
          @if (more()) {
            <button type="button" pButton severity="secondary" [disabled]="busy()" (click)="goOn()">Older ones</button>
          }
          <a pButton severity="secondary" [href]="'exportRecord' | address: { query: query() }" download
            >As a CSV file</a
          >
        </div>
      }
    </main>
  `,
  styles: `
    .lead {
      max-width: 720px;
    }
    .still {
      white-space: nowrap;
    }
    .sent {
      display: block;
      max-width: 70ch;
      overflow-wrap: anywhere;
    }
  `,
})
export class RecordPage {
  readonly words = input("", { transform: (w?: string) => w ?? "" });
  readonly by = input("", { transform: (w?: string) => w ?? "" });
  readonly from = input("", { transform: (w?: string) => w ?? "" });
  readonly to = input("", { transform: (w?: string) => w ?? "" });
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly lines = signal<readonly RecordLine[] | null>(null);
  protected readonly more = signal(false);
  protected readonly busy = signal(false);
  protected readonly error = signal("");
  private readonly wanted = computed<Wanted>(() => ({
    ...{ words: this.words(), by: this.by(), from: this.from(), to: this.to() },
  }));
  protected readonly query = computed(() => queryOf(this.wanted()));
  protected readonly narrowed = computed(() => Object.keys(this.query()).length > 0);
  protected readonly rows = computed(() =>
    (this.lines() ?? []).map((line) => ({
      ...{ place: placeOf(line), at: momentText(line.at), by: line.by, address: line.address },
      what: line.subject && line.subject !== line.by ? `${line.what}: ${line.subject}` : line.what,
      sent: sentText(line.detail),
    })),
  );
  private asked = 0;

  constructor() {
    effect(() => {
      this.query();
      untracked(() => this.load());
    });
  }

  protected look(over: Partial<Wanted>): void {
    const { words, by, from, to } = { ...this.wanted(), ...over };
    const queryParams = { words: words || null, by: by || null, from: from || null, to: to || null };
    void this.router.navigate([], { queryParams, queryParamsHandling: "merge", replaceUrl: true });
  }

  protected load(): void {
    this.ask(null);
  }

  protected goOn(): void {
    const last = this.lines()?.at(-1);
    if (last) this.ask(last);
  }

  /** An answer that is overtaken by another question counts no more. */
  private ask(last: RecordLine | null): void {
    const mine = (this.asked += 1);
    this.busy.set(true);
    this.error.set("");
    const query = { ...this.query(), ...(last ? { before: placeOf(last) } : {}) };
    this.api.call("record", { query }).subscribe({
      next: ({ lines, more }) => {
        if (mine !== this.asked) return;
        this.lines.update((before) => (last ? [...(before ?? []), ...lines] : lines));
        this.more.set(more);
        this.busy.set(false);
      },
      error: (failure: unknown) => {
        if (mine !== this.asked) return;
        this.busy.set(false);
        saidIn(this.error)(failure);
      },
    });
  }
}
