import { ChangeDetectionStrategy, Component } from "@angular/core";
import { Skeleton } from "primeng/skeleton";

/** What is being looked for, in words, over the shape of what will stand there. */
@Component({
  selector: "ip-loading",
  imports: [Skeleton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="quiet" aria-busy="true"><ng-content /></p>
    @for (width of widths; track $index) {
      <p-skeleton height="1rem" [width]="width" />
    }
  `,
  styles: `
    :host {
      display: block;
    }
    p-skeleton {
      margin-bottom: var(--space-4);
    }
  `,
})
export class LoadingLines {
  protected readonly widths = ["70%", "85%", "60%", "80%", "45%"];
}
