import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, Injector } from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import {
  NavigationCancel,
  NavigationEnd,
  NavigationError,
  NavigationSkipped,
  NavigationStart,
  Router,
  RouterLink,
  RouterOutlet,
} from "@angular/router";
import { Button, ButtonDirective } from "primeng/button";
import type { OperationName } from "@iron/contract";
import { TimesIcon } from "primeng/icons/times";
import { Toast } from "primeng/toast";
import { filter, first, map, of, share, switchMap, timer } from "rxjs";
import { arrived } from "./data/arrival";
import { Notices, type Offer } from "./data/notices";
import { Door } from "./data/door";
import { DoorPage } from "./people/door-page";
import { Quiet } from "./people/quiet";
import { WhatMoves } from "./people/what-moves";
import { HeadBand } from "./shared/head-band";
import { NotYours } from "./shared/not-yours";

const WAIT_MS = 300;
const ENDS = [NavigationEnd, NavigationCancel, NavigationError, NavigationSkipped];

interface NoticeData {
  readonly offer?: Offer;
}

@Component({
  selector: "ip-root",
  imports: [
    NotYours,
    RouterLink,
    ButtonDirective,
    RouterOutlet,
    HeadBand,
    Toast,
    Button,
    DoorPage,
    TimesIcon,
    WhatMoves,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <a class="skip" href="#content" (click)="skip($event)">Skip to the work</a>
    @if (shut()) {
      @defer (on immediate) {
        <ip-door />
      } @placeholder {
        <div class="cover"></div>
      } @error {
        <p class="cover bad" role="alert">A part of the page did not arrive from the server. Load it anew.</p>
      }
      <ip-what-moves />
    }
    <ip-head-band [inert]="shut()" />
    <div id="content" tabindex="-1" [inert]="shut()">
      @if (onItsWay()) {
        <p class="on-its-way" role="status">The page is on its way…</p>
      }
      @if (barred(); as does) {
        <main class="sheet">
          <h1>Not yours to do</h1>
          <ip-not-yours [does]="does" />
          <a pButton severity="secondary" routerLink="/floor">Go to the floor</a>
        </main>
      }
      <!-- What is half filled in stays, for when its own is back. -->
      <div [hidden]="barred()"><router-outlet /></div>
    </div>
    <p-toast position="bottom-right" [showTransformOptions]="''">
      <!-- Its own way to close: the usual one asks for the focus, and a key for the page would close the notice. -->
      <ng-template #headless let-message let-close="closeFn">
        <div class="notice">
          <span>{{ message.summary }}</span>
          @if (offerOf(message.data); as offer) {
            <p-button [label]="offer.label" [text]="true" (onClick)="take(offer)" />
          }
          <button type="button" pButton text severity="secondary" aria-label="Close" (click)="close($event)">
            <svg data-p-icon="times" aria-hidden="true"></svg>
          </button>
        </div>
      </ng-template>
    </p-toast>
  `,
  styles: `
    .skip {
      position: absolute;
      left: -9999px;
    }
    .skip:focus {
      left: 8px;
      top: 8px;
      z-index: 10;
      background: var(--sheet);
      padding: var(--space-2);
    }
    #content:focus {
      outline: none;
    }
    .cover {
      position: fixed;
      inset: 0;
      z-index: 10000;
      background: var(--sheet);
    }
    .on-its-way {
      position: fixed;
      z-index: 10;
      left: 0;
      bottom: 0;
      margin: 0;
      padding: var(--space-2) var(--space-5);
      background: var(--wash);
    }
    .notice {
      display: flex;
      gap: var(--space-3);
      align-items: center;
      padding: var(--space-3);
    }
    .notice > span {
      flex: 1;
    }
    .notice p-button,
    .notice > button {
      flex: none;
    }
  `,
})
export class App {
  private readonly notices = inject(Notices);
  private readonly injector = inject(Injector);
  protected readonly door = inject(Door);

  private readonly router = inject(Router);
  private readonly moves = this.router.events.pipe(
    filter((e) => e instanceof NavigationStart || ENDS.some((End) => e instanceof End)),
    share(),
  );
  /** The code of a place takes longer to come than one waits without a word. */
  protected readonly onItsWay = toSignal(
    this.moves.pipe(
      switchMap((e) => (e instanceof NavigationStart ? timer(WAIT_MS).pipe(map(() => true)) : of(false))),
    ),
    { initialValue: false },
  );

  private readonly went = toSignal(this.moves.pipe(filter((e) => e instanceof NavigationEnd)));
  /** Who it is, is asked before anything is shown; how a device comes to trust the server is read before that. */
  protected readonly shut = computed(
    () => (this.door.shut() && this.went()?.urlAfterRedirects !== "/trust") || this.door.asked() !== null,
  );

  /** What the page is for, where who is here may not do that. */
  protected readonly barred = computed(() => {
    this.went();
    let route = this.router.routerState.snapshot.root;
    while (route.firstChild) route = route.firstChild;
    const does = route.data["needs"] as OperationName | undefined;
    return does && !this.door.shut() && !this.door.may(does) ? does : null;
  });

  constructor() {
    const own = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // Lists, dialogs and drawers hang beside the page itself: the door is before them too.
    effect(() => {
      const shut = this.shut();
      for (const beside of document.body.children) if (!beside.contains(own)) beside.toggleAttribute("inert", shut);
    });
    this.door.load();
    inject(Quiet).watch();
    this.moves.pipe(first((e) => e instanceof NavigationEnd)).subscribe(() => {
      arrived();
      // What waits goes out whatever page this is. Without this part it goes from the pages that it was noted on.
      void import("./offline/offline").then(
        ({ Offline }) => this.injector.get(Offline).begin(),
        () => undefined,
      );
    });
  }

  offerOf(data: NoticeData | undefined): Offer | undefined {
    return data?.offer;
  }

  take(offer: Offer): void {
    this.notices.clear();
    offer.press();
  }

  skip(event: Event): void {
    event.preventDefault();
    document.getElementById("content")?.focus();
  }
}
