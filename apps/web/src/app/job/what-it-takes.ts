import { ChangeDetectionStrategy, Component, computed, input } from "@angular/core";
import { estimateJob, kitList, type JobPlan } from "@iron/core";
import { minutesText, money } from "../shared/amount.text";

/** Time, money and kit of a sheet, before the job is opened. */
@Component({
  selector: "ip-what-it-takes",
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./job.css",
  template: `
    @let ahead = says();
    <p>
      About <b>{{ ahead.time }}</b> ({{ ahead.between }}, eight jobs of ten),
      {{ ahead.people === 2 ? "two people for some steps" : "one person" }}; with two people about {{ ahead.two }}.
    </p>
    <p>Standing costs {{ ahead.downtime }}; {{ ahead.parts }}{{ ahead.wait ? "; " + ahead.wait : "" }}.</p>
    <details>
      <summary>{{ ahead.steps.length }} steps</summary>
      <ol class="steps">
        @for (step of ahead.steps; track step.id) {
          <li>
            <span
              >{{ step.text }}
              @if (step.state) {
                <span class="state">{{ step.state }}</span>
              }
            </span>
          </li>
        }
      </ol>
    </details>
    <details>
      <summary>What decides the time when two work</summary>
      <p class="quiet">{{ ahead.path.join(" → ") }}</p>
    </details>
    <h3>Have ready</h3>
    @if (ahead.kit.parts.length) {
      <p>
        Parts:
        @for (part of ahead.kit.parts; track part.name) {
          {{ $first ? "" : ", " }}{{ part.count }} {{ part.name }}{{ part.order ? " (order)" : "" }}
        }
        .
      </p>
    }
    <p>Tools: {{ ahead.kit.tools.join(", ") }}.</p>
    @if (ahead.kit.special.length) {
      <p>
        Special:
        @for (one of ahead.kit.special; track one.tool) {
          {{ $first ? "" : "; " }}{{ one.tool }} (or {{ one.standIn }})
        }
        .
      </p>
    }
    @if (ahead.kit.consumables.length) {
      <p>Consumables: {{ ahead.kit.consumables.join(", ") }}.</p>
    }
    @if (ahead.kit.cautions.length) {
      <h3>Cautions</h3>
      <ul>
        @for (one of ahead.kit.cautions; track one) {
          <li>{{ one }}</li>
        }
      </ul>
    }
  `,
})
export class WhatItTakes {
  readonly plan = input.required<JobPlan>();
  readonly currency = input.required<string>();
  protected readonly says = computed(() => {
    const plan = this.plan();
    const estimate = estimateJob(plan);
    const sum = (value: number): string => money(value, this.currency());
    return {
      steps: plan.steps.map((s) => ({
        id: s.id,
        text: `${s.axis ? `${s.axis} · ` : ""}${s.title}`,
        state: s.state,
      })),
      time: minutesText(estimate.minutes),
      between: `${minutesText(estimate.between[0])} to ${minutesText(estimate.between[1])}`,
      two: minutesText(estimate.twoPeopleMinutes),
      people: estimate.people,
      wait: estimate.waitDays ? `about ${estimate.waitDays} working days at a screw shop` : "",
      path: estimate.criticalPath.flatMap((id) => {
        const step = plan.steps.find((s) => s.id === id);
        return step ? [step.title] : [];
      }),
      downtime: `${sum(estimate.downtimeCost)} (${sum(estimate.downtimeBetween[0])} to ${sum(estimate.downtimeBetween[1])})`,
      parts:
        estimate.partsCost > 0
          ? `parts ${estimate.partsUsual ? "usually " : ""}about ${sum(estimate.partsCost)}`
          : "no parts to buy",
      kit: kitList(plan),
    };
  });
}
