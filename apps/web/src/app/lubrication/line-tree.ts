import { NgTemplateOutlet } from "@angular/common";
import { ChangeDetectionStrategy, Component, computed, input } from "@angular/core";
import { blockedPieces, lineTree, type LinePiece } from "@iron/core";

/** The line of a central system, drawn from its pump outwards; what would explain the dry outlets is marked. */
@Component({
  selector: "ip-line-tree",
  imports: [NgTemplateOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ng-template #branch let-pieces>
      <ul>
        @for (piece of pieces; track piece.path) {
          <li>
            <span [class.blocked]="blocked().has(piece.path)">{{ piece.name }}</span>
            @if (stateOf(piece); as state) {
              <span class="state">{{ state }}</span>
            }
            @if (blocked().has(piece.path)) {
              <b class="state">look here</b>
            }
            @if (piece.children.length) {
              <ng-container [ngTemplateOutlet]="branch" [ngTemplateOutletContext]="{ $implicit: piece.children }" />
            }
          </li>
        }
      </ul>
    </ng-template>
    <div class="line-tree" role="group" aria-label="Line from the pump outwards">
      <span>pump</span>
      <ng-container [ngTemplateOutlet]="branch" [ngTemplateOutletContext]="{ $implicit: tree() }" />
    </div>
  `,
  styles: `
    .line-tree {
      margin-block: var(--space-3);
    }
    ul {
      list-style: none;
      margin: 0 0 0 var(--space-3);
      padding: 0;
    }
    li {
      position: relative;
      padding: 2px 0 2px var(--space-5, 24px);
      border-left: 2px solid var(--ink);
    }
    li:last-child {
      border-left-color: transparent;
    }
    li::before {
      content: "";
      position: absolute;
      left: -2px;
      top: 0;
      width: 16px;
      height: 15px;
      border-left: 2px solid var(--ink);
      border-bottom: 2px solid var(--ink);
    }
    .state {
      margin-left: var(--space-3);
    }
    .blocked {
      font-weight: 700;
      text-decoration: underline;
      text-decoration-thickness: 3px;
      text-underline-offset: 4px;
    }
  `,
})
export class LineTree {
  readonly outlets = input.required<readonly string[]>();
  /** Wet, dry, or not looked at, in the order of the outlets. */
  readonly states = input<readonly (boolean | null)[]>([]);
  protected readonly tree = computed(() => lineTree(this.outlets()));
  protected readonly blocked = computed(() => {
    const outlets = this.outlets().map((name, i) => ({ name, wet: this.states()[i] ?? null }));
    // Where all that was looked at is dry it is the pump’s side, and no piece of the line.
    return outlets.some((o) => o.wet === true)
      ? new Set(blockedPieces(outlets).map((b) => b.piece.path))
      : new Set<string>();
  });

  protected stateOf({ outlet }: LinePiece): string {
    const wet = outlet === null ? null : (this.states()[outlet] ?? null);
    return wet === null ? "" : wet ? "wet" : "dry";
  }
}
