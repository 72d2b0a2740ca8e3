import { ChangeDetectionStrategy, Component, input } from "@angular/core";
import { RouterLink } from "@angular/router";
import type { LikelyView } from "./case.view";

/** The leading causes with their probability; each opens to one list of what speaks for and against it, how strongly. */
@Component({
  selector: "ip-likely-list",
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (one of likely(); track one.id) {
        <li>
          <details>
            <summary>
              <span class="name" [class.first]="$first">{{ one.name }}</span>
              <span class="bar" aria-hidden="true"><span [style.width.%]="one.width"></span></span>
              <span class="percent">{{ one.percent }}</span>
            </summary>
            <p class="quiet">Remedy: {{ one.remedy }}. {{ one.method }}</p>
            @if (one.speaks.length) {
              <ul class="speaks" [attr.aria-label]="'What speaks for and against: ' + one.name">
                @for (item of one.speaks; track $index) {
                  <li>
                    <span class="how" [class.against]="item.weight < 0">{{ item.how }}</span>
                    @if (link(item.ref); as to) {
                      <a [routerLink]="to.path" [fragment]="to.fragment" [queryParams]="to.query">{{ item.message }}</a>
                    } @else {
                      {{ item.message }}
                    }
                  </li>
                }
              </ul>
            } @else {
              <p class="quiet">Nothing was told or found that speaks for or against it.</p>
            }
          </details>
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      list-style: none;
      margin: var(--space-2) 0 var(--space-4);
      padding: 0;
    }
    li {
      border-bottom: 1px solid var(--rule);
    }
    summary {
      display: grid;
      grid-template-columns: 1fr 110px 56px;
      gap: var(--space-3);
      align-items: center;
      min-height: var(--touch);
      cursor: pointer;
    }
    .first {
      font-weight: 700;
    }
    .bar {
      height: 8px;
      display: block;
    }
    .bar span {
      display: block;
      height: 8px;
      background: var(--ink);
      min-width: 1px;
    }
    .speaks {
      margin: 0 0 var(--space-3);
    }
    .speaks li {
      border: 0;
      display: grid;
      grid-template-columns: 128px 1fr;
      gap: var(--space-3);
    }
    .how {
      color: var(--ink);
      font-weight: 700;
    }
    .how.against {
      font-weight: 400;
      color: var(--graphite);
    }
    li:first-child > details > summary > .bar span {
      background: var(--oxide);
    }
    .percent {
      text-align: right;
    }
  `,
})
export class LikelyList {
  readonly likely = input.required<readonly LikelyView[]>();
  readonly base = input.required<string>();

  protected link(
    ref: string | null,
  ): { path: string; fragment?: string; query?: Readonly<Record<string, string>> } | null {
    const [kind, id] = (ref ?? "").split(" ");
    if (kind === "job") return { path: `/jobs/${id}` };
    if (kind === "sound") return { path: `${this.base()}/listen`, query: { sound: id } };
    if (kind === "circle") return { path: `/circles/${id}` };
    if (kind === "run") return { path: `${this.base()}/runs/${id}` };
    if (kind === "result") return { path: `${this.base()}/locate`, fragment: `result-${id}` };
    return kind === "symptoms" ? { path: `${this.base()}/ask` } : null;
  }
}
