import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, signal, viewChild } from "@angular/core";
import { takeUntilDestroyed, toSignal } from "@angular/core/rxjs-interop";
import { NavigationEnd, Router, RouterLink, RouterLinkActive } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { catchError, filter, map, of, startWith } from "rxjs";
import { InputText } from "primeng/inputtext";
import { Api } from "../data/api";
import { Preferences } from "../data/preferences";
import { KeyList } from "./key-list";
import { Keys } from "./keys";
import { ChoiceField } from "./fields";
import { ChoicesPipe } from "./choices.pipe";

@Component({
  selector: "ip-head-band",
  imports: [ButtonDirective, RouterLink, RouterLinkActive, InputText, KeyList, ChoiceField, ChoicesPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header class="no-print" [class.open]="menuOpen()">
      <a class="name" routerLink="/floor">Iron Patience</a>
      <button
        type="button"
        pButton
        text
        class="menu"
        [attr.aria-expanded]="menuOpen()"
        (click)="menuOpen.set(!menuOpen())"
      >
        Menu
      </button>
      <nav aria-label="Places">
        <a routerLink="/floor" routerLinkActive="on" [routerLinkActiveOptions]="{ exact: false }">Floor</a>
        <a routerLink="/cases" routerLinkActive="on">Cases</a>
        <a routerLink="/jobs" routerLinkActive="on">Jobs</a>
        <a routerLink="/rounds" routerLinkActive="on">Rounds</a>
        <a routerLink="/sums" routerLinkActive="on">Sums</a>
        <a routerLink="/causes" routerLinkActive="on">Causes</a>
        <a routerLink="/shop" routerLinkActive="on">Shop</a>
      </nav>
      @if (shop()?.demo) {
        <span class="demo">demo, simulated</span>
      }
      <div class="right">
        <label class="find">
          <span class="sr-only">Find a machine</span>
          <input
            pInputText
            #find
            type="search"
            placeholder="Find a machine"
            [value]="query()"
            (input)="search($any($event.target).value)"
            (keydown.escape)="find.blur()"
          />
          <kbd aria-hidden="true">/</kbd>
        </label>
        <button type="button" class="seg" (click)="preferences.toggleUnits()">
          <span [class.on]="metric()">mm µm</span><span [class.on]="!metric()">in tenths</span>
        </button>
        <button
          type="button"
          class="tool"
          (click)="toggleShift()"
          [attr.aria-pressed]="preferences.shift() === 'night'"
        >
          Night
        </button>
        <button type="button" class="tool" (click)="listOpen.set(true)">
          <kbd aria-hidden="true">?</kbd><span class="sr-only">All keys</span>
        </button>
        <ip-choice-field
          class="who"
          label="Who is working"
          quietly
          [value]="preferences.who()"
          [choices]="people() | choices"
          (chosen)="preferences.who.set($event)"
        />
      </div>
    </header>
    @if (listOpen()) {
      <ip-key-list (closed)="listOpen.set(false)" />
    }
  `,
  styleUrl: "./head-band.css",
})
export class HeadBand {
  protected readonly preferences = inject(Preferences);
  protected readonly listOpen = signal(false);
  /** On a narrow screen the places stand behind a button; elsewhere it is not shown. */
  protected readonly menuOpen = signal(false);
  protected readonly metric = computed(() => this.preferences.system() === "metric");
  private readonly router = inject(Router);
  private readonly findField = viewChild.required<ElementRef<HTMLInputElement>>("find");
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
  protected readonly query = toSignal(
    this.router.events.pipe(
      filter((e) => e instanceof NavigationEnd),
      startWith(null),
      map(() => this.router.parseUrl(this.router.url).queryParamMap.get("q") ?? ""),
      takeUntilDestroyed(),
    ),
    { initialValue: "" },
  );

  constructor() {
    this.router.events
      .pipe(
        filter((e) => e instanceof NavigationEnd),
        takeUntilDestroyed(),
      )
      .subscribe(() => this.menuOpen.set(false));
    inject(Keys).use(
      {
        key: "/",
        shown: "/",
        does: "Find a machine",
        act: () => this.findField().nativeElement.focus(),
      },
      {
        key: "u",
        shown: "U",
        does: "Change units",
        act: () => this.preferences.toggleUnits(),
      },
      {
        key: "?",
        shown: "?",
        does: "Show all keys",
        act: () => this.listOpen.set(true),
      },
    );
  }

  protected search(text: string): void {
    const onFloor = this.router.url.startsWith("/floor");
    void this.router.navigate(["/floor"], {
      queryParams: { q: text || null },
      replaceUrl: onFloor,
    });
  }

  protected toggleShift(): void {
    this.preferences.toggleShift();
  }
}
