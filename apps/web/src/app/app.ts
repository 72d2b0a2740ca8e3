import { ChangeDetectionStrategy, Component, inject } from "@angular/core";
import { RouterOutlet } from "@angular/router";
import { Button } from "primeng/button";
import { Toast } from "primeng/toast";
import { Notices } from "./data/notices";
import { HeadBand } from "./shared/head-band";

interface NoticeData {
  readonly undo?: () => void;
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
          @if (undoOf(message.data); as undo) {
            <p-button label="Undo" [text]="true" (onClick)="takeBack(undo)" />
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
  `,
})
export class App {
  private readonly notices = inject(Notices);

  undoOf(data: NoticeData | undefined): (() => void) | undefined {
    return data?.undo;
  }

  takeBack(undo: () => void): void {
    this.notices.clear();
    undo();
  }

  skip(event: Event): void {
    event.preventDefault();
    document.getElementById("content")?.focus();
  }
}
