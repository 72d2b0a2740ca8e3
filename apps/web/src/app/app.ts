import { ChangeDetectionStrategy, Component, inject } from "@angular/core";
import { NavigationEnd, Router, RouterOutlet } from "@angular/router";
import { Button } from "primeng/button";
import { Toast } from "primeng/toast";
import { first } from "rxjs";
import { arrived } from "./data/arrival";
import { Notices, type Offer } from "./data/notices";
import { HeadBand } from "./shared/head-band";

interface NoticeData {
  readonly offer?: Offer;
}

@Component({
  selector: "ip-root",
  imports: [RouterOutlet, HeadBand, Toast, Button],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <a class="skip" href="#content" (click)="skip($event)">Skip to the work</a>
    <ip-head-band />
    <div id="content" tabindex="-1"><router-outlet /></div>
    <p-toast position="bottom-right" [showTransformOptions]="''">
      <ng-template #message let-message>
        <div class="notice">
          <span>{{ message.summary }}</span>
          @if (offerOf(message.data); as offer) {
            <p-button [label]="offer.words" [text]="true" (onClick)="take(offer)" />
          }
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
      padding: 8px;
    }
    #content:focus {
      outline: none;
    }
    .notice {
      display: flex;
      gap: 12px;
      align-items: center;
      flex: 1;
    }
    .notice p-button {
      flex: none;
    }
  `,
})
export class App {
  private readonly notices = inject(Notices);

  constructor() {
    inject(Router)
      .events.pipe(first((e) => e instanceof NavigationEnd))
      .subscribe(arrived);
  }

  offerOf(data: NoticeData | undefined): Offer | undefined {
    return data?.offer;
  }

  take(offer: Offer): void {
    this.notices.clear();
    offer.act();
  }

  skip(event: Event): void {
    event.preventDefault();
    document.getElementById("content")?.focus();
  }
}
