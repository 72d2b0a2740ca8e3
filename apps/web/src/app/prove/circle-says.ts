import { ChangeDetectionStrategy, Component, computed, input } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import type { CircleLead } from "@iron/core";
import type { CirclePlane } from "@iron/contract";
import { StateMark } from "../shared/state-mark";
import type { PlaneView } from "./circle.view";

/** What a plane’s numbers say: what is over its limit first, each with where it leads. */
@Component({
  selector: "ip-circle-says",
  imports: [ButtonDirective, RouterLink, StateMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrls: ["../shared/folds.css", "./circle.css"],
  template: `
    <h2>What the numbers say</h2>
    @if (said(); as said) {
      <p class="headline" aria-live="polite">
        <ip-state-mark [state]="said.state" [say]="said.word" /> {{ said.headline }}
      </p>
      @for (doubt of said.doubts; track doubt) {
        <p class="warn">{{ doubt }}</p>
      }
      @for (row of said.rows; track row.id) {
        <div class="finding">
          <h3>
            {{ row.name }}
            <ip-state-mark [state]="row.state" [say]="row.word" [word]="true" />
          </h3>
          <p>{{ row.sentence }} {{ row.left }}</p>
          @if (row.together) {
            <p class="quiet">{{ row.together }}</p>
          }
          <p>{{ row.leadText }}</p>
          @if (address(row.lead); as where) {
            <a pButton severity="secondary" class="no-print" [routerLink]="where.to">{{ where.say }}</a>
          }
        </div>
      }
      @for (one of said.tremble; track one.letter) {
        <div class="finding">
          <p>{{ one.text }} <ip-state-mark [state]="one.state" [say]="one.word" [word]="true" /></p>
          @if (one.asks) {
            @if (address({ to: "case", letter: one.letter, because: "ripple" }); as where) {
              <a pButton severity="secondary" class="no-print" [routerLink]="where.to">{{ where.say }}</a>
            }
          }
        </div>
      }
      @for (line of said.lines; track line) {
        <p>{{ line }}.</p>
      }
      @if (said.most) {
        <p>{{ said.most }}</p>
      }
      @for (one of joint(); track one.text) {
        <p [class.warn]="!one.agrees" [class.quiet]="one.agrees">{{ one.text }}</p>
      }
      @if (said.quiet.length) {
        <details>
          <summary>Nothing found, or within what can be left</summary>
          <table class="rows">
            <tbody>
              @for (row of said.quiet; track row.id) {
                <tr>
                  <th scope="row">{{ row.name }}</th>
                  <td>{{ row.value }}</td>
                  <td>{{ row.word === "sound" ? "" : "these readings do not tell" }}</td>
                </tr>
              }
            </tbody>
          </table>
        </details>
      }
      <details>
        <summary>ISO 230-4 quantities</summary>
        <table class="rows">
          <tbody>
            @for (line of said.iso; track line.symbol) {
              <tr>
                <th scope="row">{{ line.name }}</th>
                <td>{{ line.symbol }}</td>
                <td>{{ line.value }}</td>
                <td>{{ line.word }}</td>
              </tr>
            }
          </tbody>
        </table>
        <p class="quiet small">{{ said.isoNote }} U is about 95 %, the bar’s own and what the rest trembles by.</p>
      </details>
    } @else if (plane().why) {
      <p class="warn">{{ plane().why }}</p>
    } @else {
      <p class="quiet">Nothing yet. It is said as soon as one way round has been read.</p>
    }
  `,
})
export class CircleSays {
  readonly said = input.required<PlaneView | null>();
  readonly plane = input.required<CirclePlane>();
  readonly joint = input.required<readonly { readonly text: string; readonly agrees: boolean }[]>();
  readonly machineId = input.required<number>();
  private readonly axisIds = computed(() => {
    const { plan, axisIds } = this.plane();
    return new Map(plan.letters.map((l, i) => [l, axisIds[i as 0 | 1]]));
  });

  protected address(lead: CircleLead): { readonly to: readonly unknown[]; readonly say: string } | null {
    if (lead.to !== "case") return null;
    const axis = this.axisIds().get(lead.letter);
    return axis === undefined
      ? null
      : { to: ["/machines", this.machineId(), "axes", axis, "ask"], say: `Take it to Ask on ${lead.letter}` };
  }
}
