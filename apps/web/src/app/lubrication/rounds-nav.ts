import { ChangeDetectionStrategy, Component } from "@angular/core";
import { RouterLink, RouterLinkActive } from "@angular/router";

/** The places of lubrication, in the order they are used. */
@Component({
  selector: "ip-rounds-nav",
  imports: [RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav class="line no-print" aria-label="Lubrication">
      @for (place of places; track place.path) {
        <a [routerLink]="place.path" routerLinkActive="on" [routerLinkActiveOptions]="{ exact: true }">{{
          place.name
        }}</a>
      }
    </nav>
  `,
  styles: `
    .line {
      display: flex;
      overflow-x: auto;
      gap: var(--space-5);
      padding: 0 var(--space-5);
      border-bottom: 1px solid var(--rule);
    }
    a {
      padding: var(--space-3) 2px var(--space-2);
      border-bottom: 3px solid transparent;
      color: inherit;
      text-decoration: none;
      white-space: nowrap;
    }
    a.on {
      border-color: var(--blue);
      font-weight: 700;
    }
  `,
})
export class RoundsNav {
  protected readonly places = [
    { path: "/rounds", name: "Walk" },
    { path: "/rounds/half-year", name: "Half a year" },
    { path: "/rounds/paper", name: "Paper" },
    { path: "/rounds/labels", name: "Labels" },
    { path: "/rounds/meters", name: "Hour meters" },
    { path: "/rounds/lubricants", name: "Lubricants" },
    { path: "/rounds/parts", name: "Spare parts" },
    { path: "/rounds/keeping", name: "Days and rules" },
  ];
}
