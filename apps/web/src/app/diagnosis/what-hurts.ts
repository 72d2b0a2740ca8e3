import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from "@angular/core";
import { RouterLink } from "@angular/router";
import { symptomsFor, type FindingId, type Hurt } from "@iron/core";
import { ButtonDirective } from "primeng/button";
import { AxisContext } from "../machine/axis/axis-context";
import { HearWords } from "../sound/hear-words";
import { LoadingLines } from "../shared/loading";
import { TickBox } from "../shared/tick-box";
import { asToggles, HURT_TEXT } from "./case.view";
import { CaseStore } from "./case-store";
import { SayWhat } from "./say-what";
import { SymptomList } from "./symptom-list";
import { Toggles } from "./toggles";

/** Questions shown at once: as many as stand on a phone beside what hurts. */
const AT_ONCE = 3;

/** What is asked now: what was asked before in its own place, what is new in the places of what was answered. */
function inTheirPlaces(now: readonly FindingId[], before: readonly FindingId[]): readonly FindingId[] {
  const fresh = now.filter((id) => !before.includes(id));
  const kept = before.map((id) => (now.includes(id) ? id : fresh.shift()));
  return [...kept, ...fresh].filter((id) => id !== undefined);
}

/** The conversation: what hurts, which of these, and then the few questions that split what is left. */
@Component({
  selector: "ip-what-hurts",
  imports: [ButtonDirective, HearWords, LoadingLines, RouterLink, SayWhat, SymptomList, TickBox, Toggles],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  template: `
    @if (context.axis(); as axis) {
      <ip-say-what [axis]="axis.config" (picked)="store.answer($event, true)" />
      <ip-toggles
        class="hurts"
        label="What hurts?"
        [options]="hurts"
        [value]="hurt() ? [hurt()!] : []"
        (one)="hurt.set($event)"
      />
      @if (hurt(); as which) {
        <ip-toggles
          class="which"
          several
          [label]="
            which === 'hand' ? 'What is it? It goes straight to that part.' : 'Which of these? Press all that are so.'
          "
          [options]="choices()"
          [value]="so()"
          (picked)="pick($event)"
        />
        <div class="acts">
          <button type="button" pButton (click)="hurt.set(null)">Go on</button>
          <!-- A part that nobody holds is not denied: it was not looked at. -->
          @if (which !== "hand") {
            <button type="button" pButton severity="secondary" [disabled]="open().length === 0" (click)="deny()">
              {{ so().length ? "None of the others" : "None of these" }}
            </button>
          }
          @if (which === "noise") {
            <a pButton text [routerLink]="context.base() + '/listen'">Listen to it</a>
          }
        </div>
        @if (which === "noise") {
          <ip-hear-words [words]="choices()" />
        }
      } @else if (answered()) {
        @if (questions().length) {
          <h2>These would tell most now</h2>
          <ip-symptom-list plainly [symptoms]="questions()" />
        } @else if (!store.diagnosis()) {
          <!-- As high as what comes: what is below it is pressed meanwhile. -->
          <ip-loading class="coming">Weighing what was told…</ip-loading>
        }
        <p class="all">
          <ip-tick-box [checked]="store.told().allTold" (ticked)="store.setTold({ allTold: $event })"
            >That is all that was noticed</ip-tick-box
          >
          <span class="quiet">What was not told then speaks a little against itself, less than a “No”.</span>
        </p>
      } @else {
        <p class="quiet">The first answer begins a case. “?” is an answer too: it weighs nothing, a “No” does.</p>
      }
    }
  `,
})
export class WhatHurts {
  protected readonly context = inject(AxisContext);
  protected readonly store = inject(CaseStore);
  protected readonly hurts = HURT_TEXT;
  protected readonly hurt = signal<Hurt | null>(null);
  protected readonly ids = computed<readonly FindingId[]>(() => {
    const axis = this.context.axis();
    const hurt = this.hurt();
    return axis && hurt ? symptomsFor(axis.config, hurt) : [];
  });
  protected readonly choices = computed(() => asToggles(this.ids()));
  protected readonly so = computed(() => this.ids().filter((id) => this.store.told().answers[id] === true));
  /** Of those that hurt so, the ones nobody has answered. */
  protected readonly open = computed(() => this.ids().filter((id) => this.store.told().answers[id] === undefined));
  protected readonly answered = computed(() => Object.keys(this.store.told().answers).length > 0);
  /** Each stays where it stood while it is asked: a finger on its way finds what it went for. */
  private readonly asked = linkedSignal<readonly FindingId[] | null, readonly FindingId[]>({
    source: () => {
      const asked = this.store.diagnosis()?.questions;
      return asked ? asked.slice(0, AT_ONCE).map((q) => q.finding) : null;
    },
    computation: (now, before) => (now ? inTheirPlaces(now, before?.value ?? []) : (before?.value ?? [])),
  });
  protected readonly questions = computed(() => asToggles(this.asked()).map(({ id, label }) => ({ id, text: label })));

  protected pick(chosen: readonly FindingId[]): void {
    const before = this.so();
    const changed = [
      ...chosen.filter((id) => !before.includes(id)).map((id) => [id, true] as const),
      ...before.filter((id) => !chosen.includes(id)).map((id) => [id, null] as const),
    ];
    if (changed.length) this.store.answerAll(Object.fromEntries(changed));
  }

  protected deny(): void {
    this.store.answerAll(Object.fromEntries(this.open().map((id) => [id, false])));
    this.hurt.set(null);
  }
}
