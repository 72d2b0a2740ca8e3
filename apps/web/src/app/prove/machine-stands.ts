import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from "@angular/core";
import { RouterLink } from "@angular/router";
import { forkJoin } from "rxjs";
import type { Axis } from "@iron/contract";
import { Api } from "../data/api";
import { Loaded } from "../data/loaded";
import { Preferences } from "../data/preferences";
import { StateMark } from "../shared/state-mark";
import { dayText } from "../shared/times.text";
import { sessionRows } from "./circles.view";
import { levelsView } from "./stands.view";

/** On a machine’s page: what its last circle and its last levels said. */
@Component({
  selector: "ip-machine-stands",
  imports: [RouterLink, StateMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (line of lines(); track line.text) {
      <p>
        <a [routerLink]="line.to">{{ line.name }}</a> <ip-state-mark [state]="line.mark" [say]="line.word" />
        {{ line.text }}
      </p>
    }
    @if (loaded.message()) {
      <p class="warn">Circles and levels could not be read: {{ loaded.message() }}</p>
    }
  `,
})
export class MachineStands {
  readonly machineId = input.required<number>();
  readonly axes = input.required<readonly Axis[]>();
  private readonly api = inject(Api);
  private readonly preferences = inject(Preferences);
  protected readonly loaded = new Loaded(() => {
    const params = { id: this.machineId() };
    return forkJoin({
      circles: this.api.call("circles", { params }),
      stands: this.api.call("geometry", { params }),
    });
  });
  protected readonly lines = computed(() => {
    const all = this.loaded.value();
    if (!all) return [];
    const system = this.preferences.system();
    const circle = sessionRows(all.circles, this.axes(), system).find((s) => s.state === "");
    const levels = levelsView(all.stands.levels, system);
    return [
      ...(circle?.planes ?? []).map((p) => ({
        name: `Circle ${p.letters}, ${circle?.when ?? ""}`,
        to: `/circles/${circle?.id ?? 0}`,
        mark: p.mark,
        word: p.word,
        text: p.headline,
      })),
      ...(levels
        ? [
            {
              name: `Levels, ${dayText(all.stands.levels.filter((l) => l.aside === "").at(-1)?.at ?? "")}`,
              to: `/machines/${this.machineId()}/stands`,
              mark: levels.mark,
              word: levels.word,
              text: levels.headline,
            },
          ]
        : []),
    ];
  });

  constructor() {
    effect(() => {
      this.machineId();
      untracked(() => this.loaded.again());
    });
  }
}
