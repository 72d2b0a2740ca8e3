import { CdkDropList } from "@angular/cdk/drag-drop";
import { AddressPipe } from "../data/address.pipe";
import { ChangeDetectionStrategy, Component, computed, input, output } from "@angular/core";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import type { Rounds } from "@iron/contract";
import { money } from "../shared/amount.text";
import { datesInText, momentText } from "../shared/times.text";
import { dayBars, shortText } from "./rounds.view";
import { May } from "../shared/may";
import { OwnCalendar } from "../people/own-calendar";

/** The coming days as bars of minutes; a point can be dropped on one. What the last plan changed. */
@Component({
  selector: "ip-coming-days",
  imports: [OwnCalendar, May, CdkDropList, ButtonDirective, AddressPipe, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    <h2>The coming days</h2>
    <ul class="days">
      @for (bar of bars(); track bar.date) {
        <li cdkDropList cdkDropListSortingDisabled (cdkDropListDropped)="drop($event.item.data, bar.date)">
          <button
            type="button"
            pButton
            text
            class="day"
            [class.on]="bar.date === date()"
            [attr.aria-pressed]="bar.date === date()"
            (click)="picked.emit(bar.date)"
          >
            <span>{{ bar.label }}</span>
            <svg viewBox="0 0 100 6" preserveAspectRatio="none" aria-hidden="true">
              <path d="M0 3H100" class="base" />
              <path [attr.d]="'M0 3H' + 100 * bar.part" class="bar" />
            </svg>
          </button>
        </li>
      }
    </ul>
    @if (rounds().points) {
      <div class="acts">
        <a pButton severity="secondary" [routerLink]="['/rounds/sheet', date()]">Round on paper</a>
        <a pButton severity="secondary" [href]="'calendar' | address: {}">Calendar file</a>
        <button *ipMay="'planRounds'" type="button" pButton severity="secondary" (click)="afresh.emit()">
          Plan afresh
        </button>
      </div>
      @if (rounds().unplanned.length) {
        <h3>Due, and without a day</h3>
        @if (short(); as said) {
          <p class="warn">{{ said }} <a routerLink="/rounds/keeping">Days and rules</a></p>
        }
        <ul class="walked">
          @for (one of without(); track one.id) {
            <li>
              <a [routerLink]="['/points', one.id]">{{ one.name }}</a>: <span class="quiet">{{ whyText(one) }}.</span>
            </li>
          }
        </ul>
        @if (rounds().unplanned.length > without().length) {
          <p class="quiet">and {{ rounds().unplanned.length - without().length }} more, which risk less.</p>
        }
      }
      @if (changes().length) {
        <h3>What changed, {{ changedAt() }}</h3>
        <ul class="walked">
          @for (change of changes().slice(0, most); track $index) {
            <li>
              {{ change.what }}: <span class="quiet">{{ change.why }}</span>
            </li>
          }
        </ul>
        @if (changes().length > most) {
          <p class="quiet">and {{ changes().length - most }} more.</p>
        }
      }
      <p class="quiet">
        Late first, then few stops and little walking, then even days; nobody greases far too early. This plan costs
        {{ part() }} % of doing each when it is due.
      </p>
      <ip-own-calendar />
    }
  `,
})
export class ComingDays {
  readonly rounds = input.required<Rounds>();
  readonly date = input.required<string>();
  readonly picked = output<string>();
  /** A point dragged onto a day. */
  readonly dropped = output<{
    readonly pointId: number;
    readonly date: string;
  }>();
  readonly afresh = output();
  protected readonly most = 12;
  /** Those that risk most by waiting stand first. */
  protected readonly without = computed(() =>
    [...this.rounds().unplanned].sort((a, b) => b.week - a.week).slice(0, this.most),
  );
  /** What all wait for is said above them. */
  protected whyText({ noMinutes, why, week }: Rounds["unplanned"][number]): string {
    return noMinutes ? `about ${money(week, this.rounds().currency)} a week` : why;
  }

  protected readonly short = computed(() => shortText(this.rounds()));
  protected readonly bars = computed(() => dayBars(this.rounds()));
  protected readonly part = computed(() => (100 * this.rounds().against).toFixed(0));
  protected readonly changes = computed(() =>
    this.rounds().changes.map((c) => ({
      what: datesInText(c.what),
      why: datesInText(c.why),
    })),
  );
  protected readonly changedAt = computed(() => {
    const at = this.rounds().changedAt;
    return at ? momentText(at) : "";
  });

  protected drop(pointId: number, date: string): void {
    this.dropped.emit({ pointId, date });
  }
}
