import { ChangeDetectionStrategy, Component, computed, inject, input } from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import { NavigationEnd, Router, RouterLink, RouterLinkActive } from "@angular/router";
import { filter, map } from "rxjs";

interface Station {
  readonly number: number;
  readonly name: string;
  /** Path under the axis. */
  readonly path: string;
}

export const STATIONS: readonly Station[] = [
  { number: 1, name: "Ask", path: "ask" },
  { number: 2, name: "Measure", path: "measure" },
  { number: 3, name: "Locate", path: "locate" },
  { number: 4, name: "Fix", path: "fix" },
  { number: 5, name: "Set", path: "set" },
  { number: 6, name: "Prove", path: "prove" },
  { number: 7, name: "Keep", path: "keep" },
];

/** The seven stations of the work on an axis, and where it stands. */
@Component({
  selector: "ip-work-line",
  imports: [RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav class="line" aria-label="Stations">
      @for (station of stations; track station.number) {
        <a
          [routerLink]="base() + '/' + station.path"
          [class.on]="at() === station.path"
          [attr.aria-current]="at() === station.path ? 'page' : null"
          ><kbd aria-hidden="true">{{ station.number }}</kbd
          >{{ station.name }}</a
        >
      }
      <span class="right">
        <a [routerLink]="base() + '/history'" routerLinkActive="on">History</a>
        <a [routerLink]="base() + '/setup'" routerLinkActive="on">Axis data</a>
      </span>
    </nav>
  `,
  styles: `
    .line {
      position: relative;
      display: flex;
      min-height: var(--touch);
      border-bottom: 1px solid var(--ink);
      padding-left: var(--space-5);
      overflow-x: auto;
      gap: var(--space-5);
    }
    a {
      display: flex;
      align-items: center;
      gap: var(--space-2);
      color: var(--ink);
      text-decoration: none;
      white-space: nowrap;
      border-bottom: 4px solid transparent;
      border-top: 4px solid transparent;
    }
    a.on {
      font-weight: 700;
      border-bottom-color: var(--blue);
    }
    .right {
      margin-left: auto;
      display: flex;
      gap: var(--space-5);
      padding-right: var(--space-5);
    }
    @media (max-width: 560px) {
      .line {
        padding-left: var(--space-3);
        gap: var(--space-4);
      }
    }
  `,
})
export class WorkLine {
  readonly base = input.required<string>();
  /** Station a page says it belongs to, where its address does not tell. */
  readonly station = input<string | null>(null);
  protected readonly stations = STATIONS;
  private readonly router = inject(Router);
  private readonly url = toSignal(
    this.router.events.pipe(
      filter((e) => e instanceof NavigationEnd),
      map(() => this.router.url),
    ),
    { initialValue: this.router.url },
  );
  /** Tests, set-up and import belong to station Measure too. */
  protected readonly at = computed(() => {
    const said = this.station();
    if (said) return said;
    const path = this.url().split(/[?#]/)[0];
    if (/\/(history|setup)$/.test(path)) return null;
    if (path.endsWith("/ask")) return "ask";
    if (path.endsWith("/fix")) return "fix";
    if (/\/(prove|table(\/\w+)?)$/.test(path)) return "prove";
    if (path.endsWith("/keep")) return "keep";
    if (/\/(set|series\/\d+)$/.test(path)) return "set";
    return path.includes("/locate") ? "locate" : "measure";
  });
}
