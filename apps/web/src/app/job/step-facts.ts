import { ChangeDetectionStrategy, Component, input } from "@angular/core";
import { RouterLink } from "@angular/router";
import type { PlannedStep } from "@iron/core";
import type { StepLink } from "./job.view";

/** What a step is: why, how, with what, what good looks like, and how the machine stands after it. */
@Component({
  selector: "ip-step-facts",
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./job.css",
  template: `
    @let now = step();
    <p class="quiet">
      {{ now.axis ? "Axis " + now.axis : "Machine" }} · about {{ now.minutes }} min{{
        now.people === 2 ? " · two people" : ""
      }}
    </p>
    <h2 class="do">{{ now.title }}</h2>
    <p class="why">{{ now.why }}</p>
    @if (now.caution) {
      <p class="bad caution"><b>Caution.</b> {{ now.caution }}</p>
    }
    <ol class="how">
      @for (line of now.how; track line) {
        <li>{{ line }}</li>
      }
    </ol>
    @for (line of now.torques; track line) {
      <p><b>Torque.</b> {{ line }}</p>
    }
    @if (now.tools.length || now.consumables.length) {
      <p class="quiet">
        {{ now.tools.concat(now.consumables).join(", ") }}{{ now.parts.length ? " · parts: " : "" }}
        @for (part of now.parts; track part.name) {
          {{ $first ? "" : ", " }}{{ part.count }} {{ part.name }}
        }
      </p>
    }
    @if (now.good) {
      <p><b>Good:</b> {{ now.good }}</p>
    }
    @if (now.ifNot) {
      <p><b>If not:</b> {{ now.ifNot }}</p>
    }
    @if (now.state) {
      <p class="stand"><b>After it:</b> {{ now.state }}</p>
    }
    @if (links().length) {
      <p class="sums-here">
        Sums for it:
        @for (one of links(); track one.label) {
          <a [routerLink]="one.link" [queryParams]="{ axis: one.axis }">{{ one.label }}</a>{{ $last ? "." : ", " }}
        }
      </p>
    }
  `,
})
export class StepFacts {
  /** In the reader’s units. */
  readonly step = input.required<PlannedStep>();
  /** Sums that it needs. */
  readonly links = input.required<readonly StepLink[]>();
}
