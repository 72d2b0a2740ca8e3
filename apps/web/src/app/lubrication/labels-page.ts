import { giveText } from "@iron/core";
import { TickBox } from "../shared/tick-box";
import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import type { LubricationPointRecord, MachineMeter } from "@iron/contract";
import { forkJoin, of, switchMap } from "rxjs";
import { Api } from "../data/api";
import { saidIn } from "../data/problems";
import { qrPath, type QrPath } from "./qr";

import { RoundsNav } from "./rounds-nav";
import { Trouble } from "../shared/trouble";
import { ChoiceField } from "../shared/fields";
import { ChoicesPipe } from "../shared/choices.pipe";
import { LoadingLines } from "../shared/loading";

interface Label {
  readonly key: string;
  readonly title: string;
  readonly lines: readonly string[];
  readonly address: string;
  readonly qr: QrPath;
}

/** Labels to print: a code that opens the point, or the machine, on a tablet. */
@Component({
  selector: "ip-labels",
  imports: [LoadingLines, ButtonDirective, TickBox, RoundsNav, Trouble, ChoiceField, ChoicesPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./paper.css",
  template: `
    <ip-rounds-nav />
    <main class="sheet paper">
      <div class="no-print">
        <h1>Labels</h1>
        <p>
          Each opens its point on a tablet that reaches this server. The address on them is where you are now,
          {{ origin }}: print from the address that the tablets use.
        </p>
        <div class="acts">
          <ip-choice-field
            label="Machine"
            none="all machines"
            [value]="machine() ?? ''"
            [choices]="machines() | choices: 'machineId' : 'nickname'"
            (chosen)="pick($event)"
          />
          <ip-tick-box [checked]="machinesOnly()" (ticked)="machinesOnly.set($event)">one a machine</ip-tick-box>
          <button type="button" pButton [disabled]="labels().length === 0" (click)="print()">
            Print {{ labels().length }}
            {{ labels().length === 1 ? "label" : "labels" }}
          </button>
        </div>
      </div>
      @if (error()) {
        <ip-trouble [message]="error()" (again)="load()" />
      } @else if (points()) {
        <div class="labels">
          @for (label of labels(); track label.key) {
            <div class="label">
              <svg
                class="code"
                role="img"
                [attr.viewBox]="'0 0 ' + label.qr.size + ' ' + label.qr.size"
                [attr.aria-label]="'Code for ' + label.address"
                shape-rendering="crispEdges"
              >
                <path [attr.d]="label.qr.path" fill="#000" />
              </svg>
              <div>
                <p>
                  <b>{{ label.title }}</b>
                </p>
                @for (line of label.lines; track $index) {
                  <p>{{ line }}</p>
                }
              </div>
            </div>
          } @empty {
            <p>There is no point to label yet.</p>
          }
        </div>
      } @else {
        <ip-loading>Loading the points…</ip-loading>
      }
    </main>
  `,
})
export class LabelsPage {
  private readonly api = inject(Api);
  protected readonly origin = location.origin;
  protected readonly machines = signal<readonly MachineMeter[]>([]);
  protected readonly points = signal<readonly LubricationPointRecord[] | null>(null);
  protected readonly error = signal("");
  protected readonly machine = signal<number | null>(null);
  protected readonly machinesOnly = signal(false);
  protected readonly labels = computed<readonly Label[]>(() => {
    const only = this.machine();
    const shown = this.machines().filter((m) => only === null || m.machineId === only);
    const label = (
      key: string,
      { path, title, lines }: { readonly path: string; readonly title: string; readonly lines: readonly string[] },
    ): Label => {
      const address = `${this.origin}${path}`;
      return { key, title, lines, address, qr: qrPath(address) };
    };
    if (this.machinesOnly())
      return shown.map((m) =>
        label(`m${m.machineId}`, { path: `/machines/${m.machineId}`, title: m.nickname, lines: [`Bay ${m.bay}`] }),
      );
    return shown.flatMap((m) =>
      (this.points() ?? [])
        .filter((p) => p.machineId === m.machineId && !p.retired)
        .map((p) =>
          label(`p${p.id}`, {
            path: `/points/${p.id}`,
            title: p.place,
            lines: [`${m.nickname}, bay ${m.bay}`, giveText(p)],
          }),
        ),
    );
  });

  constructor() {
    this.load();
  }

  protected load(): void {
    this.error.set("");
    this.api
      .call("meters")
      .pipe(
        switchMap((machines) => {
          this.machines.set(machines);
          return machines.length
            ? forkJoin(machines.map((m) => this.api.call("lubricationPoints", { params: { id: m.machineId } })))
            : of([]);
        }),
      )
      .subscribe({
        next: (lists) => this.points.set(lists.flat()),
        error: saidIn(this.error),
      });
  }

  protected pick(id: number | string): void {
    this.machine.set(Number(id) || null);
  }

  protected print(): void {
    window.print();
  }
}
