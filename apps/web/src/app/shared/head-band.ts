import { BreakpointObserver } from "@angular/cdk/layout";
import { NgTemplateOutlet } from "@angular/common";
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from "@angular/core";
import { takeUntilDestroyed, toSignal } from "@angular/core/rxjs-interop";
import { FormControl, ReactiveFormsModule } from "@angular/forms";
import { NavigationEnd, Router, RouterLink, RouterLinkActive } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { Drawer } from "primeng/drawer";
import { SelectButton } from "primeng/selectbutton";
import { catchError, filter, map, of } from "rxjs";
import type { UnitSystem } from "@iron/core";
import { Api } from "../data/api";
import { Door } from "../data/door";
import { Waiting } from "../data/waiting";
import { Preferences } from "../data/preferences";
import { KeyList } from "./key-list";
import { Keys } from "./keys";
import { ChoiceField, type Choice } from "./fields";
import { ChoicesPipe } from "./choices.pipe";
import { FindMachine } from "./find-machine";

const PLACES = [
  { path: "/floor", name: "Floor" },
  { path: "/cases", name: "Cases" },
  { path: "/jobs", name: "Jobs" },
  { path: "/rounds", name: "Rounds" },
  { path: "/sums", name: "Sums" },
  { path: "/causes", name: "Causes" },
  { path: "/shop", name: "Shop" },
] as const;

@Component({
  selector: "ip-head-band",
  imports: [
    ButtonDirective,
    ChoiceField,
    ChoicesPipe,
    Drawer,
    FindMachine,
    KeyList,
    NgTemplateOutlet,
    ReactiveFormsModule,
    RouterLink,
    RouterLinkActive,
    SelectButton,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header class="no-print">
      <a class="name" routerLink="/floor">Iron Patience</a>
      @if (shop()?.demo && narrow()) {
        <span class="demo">demo, simulated</span>
      }
      @if (narrow()) {
        <ng-container [ngTemplateOutlet]="line" />
        <button type="button" pButton text class="bare" [attr.aria-expanded]="menuOpen()" (click)="menuOpen.set(true)">
          Menu
        </button>
      } @else {
        <ng-container [ngTemplateOutlet]="places" />
        @if (shop()?.demo) {
          <span class="demo">demo, simulated</span>
        }
        <ng-container [ngTemplateOutlet]="line" />
        <ng-container [ngTemplateOutlet]="tools" />
      }
    </header>
    <ng-template #line>
      @if (onTheLine(); as says) {
        <span class="line" role="status">
          @if (waiting.count()) {
            <a routerLink="/waiting">{{ says }}</a>
          } @else {
            {{ says }}
          }
        </span>
      }
      @if (waiting.notTaken().length; as count) {
        <a class="line bad" routerLink="/waiting">{{ count }} not taken</a>
      }
      @if (waiting.newer()) {
        <button type="button" pButton text class="bare" (click)="startAnew()">Start the newer version</button>
      }
    </ng-template>
    <ng-template #places>
      <nav aria-label="Places">
        @for (place of all; track place.path) {
          <a [routerLink]="place.path" routerLinkActive="on">{{ place.name }}</a>
        }
      </nav>
    </ng-template>
    <ng-template #tools>
      <div class="right">
        <ip-find-machine class="find" />
        <p-selectbutton
          class="units"
          ariaLabelledBy="units-label"
          optionLabel="label"
          optionValue="id"
          [allowEmpty]="false"
          [options]="units"
          [formControl]="system"
        />
        <span class="sr-only" id="units-label">Units</span>
        <button
          type="button"
          pButton
          text
          class="tool"
          (click)="preferences.toggleShift()"
          [attr.aria-pressed]="preferences.shift() === 'night'"
        >
          Night
        </button>
        <button type="button" pButton text class="tool keys" (click)="listOpen.set(true)">
          <kbd aria-hidden="true">?</kbd><span class="sr-only">All keys</span>
        </button>
        @if (door.me()?.person; as person) {
          <button
            type="button"
            pButton
            text
            class="tool"
            (click)="door.leave()"
            [attr.aria-label]="person.name + ': sign out'"
          >
            {{ person.name }}, sign out
          </button>
        } @else {
          <ip-choice-field
            class="who"
            label="Who is working"
            quietly
            [value]="preferences.who()"
            [choices]="people() | choices"
            (chosen)="preferences.who.set($event)"
          />
        }
      </div>
    </ng-template>
    @if (narrow()) {
      @defer (when menuOpen()) {
        <p-drawer position="right" header="Menu" [visible]="menuOpen()" (visibleChange)="menuOpen.set($event)">
          <ng-container [ngTemplateOutlet]="places" />
          <ng-container [ngTemplateOutlet]="tools" />
        </p-drawer>
      }
    }
    @if (listOpen()) {
      <ip-key-list (closed)="listOpen.set(false)" />
    }
  `,
  styleUrl: "./head-band.css",
})
export class HeadBand {
  protected readonly preferences = inject(Preferences);
  protected readonly door = inject(Door);
  protected readonly waiting = inject(Waiting);
  protected readonly listOpen = signal(false);
  protected readonly all = PLACES;
  /** On a phone the places and tools stand in a drawer. */
  protected readonly narrow = toSignal(
    inject(BreakpointObserver)
      .observe("(max-width: 560px)")
      .pipe(map((state) => state.matches)),
    { requireSync: true },
  );
  /** What stands between what was noted here and the server. */
  protected readonly onTheLine = computed(() => {
    const [count, names] = [this.waiting.count(), this.waiting.names()];
    const cut = this.door.stale() || this.waiting.cut() || this.waiting.offline();
    if (cut) return count ? `No connection, ${count} ${count === 1 ? "waits" : "wait"}` : "No connection";
    if (names.length === 0) return "";
    const waits = `${count} ${count === 1 ? "waits" : "wait"}`;
    const me = this.door.me();
    const gone = me?.door === "people" ? names.find((name) => !me.names.some((n) => n.name === name)) : undefined;
    return gone === undefined ? `${waits} for ${names.join(", ")} to sign in` : `${waits}, ${gone} no longer signs in`;
  });
  protected readonly menuOpen = signal(false);
  protected readonly units: Choice<UnitSystem>[] = [
    { id: "metric", label: "mm µm" },
    { id: "inch", label: "in tenths" },
  ];
  protected readonly system = new FormControl<UnitSystem>("metric", { nonNullable: true });
  protected readonly shop = toSignal(
    inject(Api)
      .call("shop")
      .pipe(catchError(() => of(null))),
    { initialValue: null },
  );
  protected readonly people = computed(() => {
    const people = this.shop()?.people ?? [];
    const who = this.preferences.who();
    return people.includes(who) ? people : [...people, who];
  });

  /** What is half filled in goes with it: one says when. */
  protected startAnew(): void {
    location.reload();
  }

  constructor() {
    // Whoever leaves does it from the menu on a phone: it is not open for the next one.
    effect(() => {
      if (this.door.shut()) this.menuOpen.set(false);
    });
    effect(() => this.system.setValue(this.preferences.system(), { emitEvent: false }));
    this.system.valueChanges.subscribe((system) => {
      if (system !== this.preferences.system()) this.preferences.toggleUnits();
    });
    inject(Router)
      .events.pipe(
        filter((e) => e instanceof NavigationEnd),
        takeUntilDestroyed(),
      )
      .subscribe(() => this.menuOpen.set(false));
    inject(Keys).use(
      {
        key: "u",
        shown: "U",
        does: "Change units",
        press: () => this.preferences.toggleUnits(),
      },
      {
        key: "?",
        shown: "?",
        does: "Show all keys",
        press: () => this.listOpen.set(true),
      },
    );
  }
}
