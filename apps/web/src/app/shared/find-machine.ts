import { ChangeDetectionStrategy, Component, inject, signal, viewChild } from "@angular/core";
import { takeUntilDestroyed } from "@angular/core/rxjs-interop";
import { FormControl, ReactiveFormsModule } from "@angular/forms";
import { NavigationEnd, Router } from "@angular/router";
import { AutoComplete } from "primeng/autocomplete";
import { catchError, filter, map, of, shareReplay, startWith, tap, type Observable } from "rxjs";
import type { Floor } from "@iron/contract";
import { Api } from "../data/api";
import { findOn, type Found } from "./find.view";
import { Keys } from "./keys";

/**
 * Find a machine or an axis from anywhere: what is chosen is gone to. On the floor the text narrows the floor itself,
 * and needs no list beside it.
 */
@Component({
  selector: "ip-find-machine",
  imports: [AutoComplete, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-autocomplete
      ariaLabel="Find a machine"
      placeholder="Find a machine"
      appendTo="body"
      optionLabel="label"
      autoOptionFocus
      emptyMessage="Nothing is called that"
      [delay]="150"
      [suggestions]="found()"
      [formControl]="text"
      (completeMethod)="complete($event.query)"
      (onSelect)="go(asFound($event.value))"
      (input)="typed($any($event.target).value)"
      (keydown.enter)="enter()"
      (keydown.escape)="leave()"
    >
      <ng-template #item let-one>
        {{ asFound(one).label }} <span class="quiet where">{{ asFound(one).where }}</span>
      </ng-template>
    </p-autocomplete>
    <kbd aria-hidden="true">/</kbd>
  `,
  styles: `
    :host {
      position: relative;
      display: block;
    }
    kbd {
      position: absolute;
      right: var(--space-2);
      top: 9px;
    }
    @media (max-width: 900px), (pointer: coarse) {
      kbd {
        display: none;
      }
    }
  `,
})
export class FindMachine {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly field = viewChild(AutoComplete);
  protected readonly text = new FormControl<string | Found>("", { nonNullable: true });
  protected readonly found = signal<Found[]>([]);
  /** PrimeNG’s templates know nothing of what they are given. */
  protected readonly asFound = (one: unknown): Found => one as Found;
  /** What stands on the floor, asked for when somebody begins to look for it. */
  private floor: Observable<Pick<Floor, "machines">> | null = null;
  private known: Pick<Floor, "machines"> | null = null;

  constructor() {
    this.router.events
      .pipe(
        filter((e) => e instanceof NavigationEnd),
        startWith(null),
        map(() => this.router.parseUrl(this.router.url).queryParamMap.get("q") ?? ""),
        takeUntilDestroyed(),
      )
      .subscribe((q) => {
        // What is typed right now is not taken out of one’s hands, however late the address follows.
        const typing: unknown = this.field()?.inputEL?.nativeElement;
        if (typing && document.activeElement === typing) return;
        this.text.setValue(q, { emitEvent: false });
        this.floor = null;
      });
    inject(Keys).use({
      key: "/",
      shown: "/",
      does: "Find a machine",
      press: () => this.field()?.inputEL?.nativeElement.focus(),
    });
  }

  protected complete(query: string): void {
    // It comes a moment after the typing: whoever has gone on meanwhile is not followed by a list.
    if (this.onFloor() || this.text.value !== query) this.found.set([]);
    else this.look((floor) => this.found.set([...findOn(floor, query)]));
  }

  protected typed(q: string): void {
    if (this.onFloor()) void this.router.navigate(["/floor"], { queryParams: { q: q || null }, replaceUrl: true });
    // What stood in the list belongs to what was typed before: Enter must not take it.
    else this.found.update((found) => (found.length ? [...findOn(this.known ?? { machines: [] }, q)] : found));
  }

  private look(then: (floor: Pick<Floor, "machines">) => void): void {
    this.floor ??= this.api.call("floor").pipe(
      catchError(() => of({ machines: [] })),
      tap((floor) => (this.known = floor)),
      shareReplay(1),
    );
    this.floor.subscribe(then);
  }

  protected go({ link }: Found): void {
    this.text.setValue("", { emitEvent: false });
    this.leave();
    void this.router.navigateByUrl(link);
  }

  /** Enter goes to the first of that name; where there is none, the floor says so, and what there is. */
  protected enter(): void {
    const q = this.text.value;
    if (this.onFloor() || typeof q !== "string" || !q.trim()) return;
    this.look((floor) => {
      const first = findOn(floor, q).at(0);
      if (first) this.go(first);
      else {
        this.leave();
        void this.router.navigate(["/floor"], { queryParams: { q } });
      }
    });
  }

  protected leave(): void {
    this.field()?.inputEL?.nativeElement.blur();
  }

  private onFloor(): boolean {
    return this.router.url.startsWith("/floor");
  }
}
