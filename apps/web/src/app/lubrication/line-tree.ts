import { ChangeDetectionStrategy, Component, computed, input } from "@angular/core";
import { blockedPieces, lineTree, type LinePiece } from "@iron/core";
import { PrimeTemplate, type TreeNode } from "primeng/api";
import { Tree } from "primeng/tree";

/** The line of a central system, drawn from its pump outwards; what would explain the dry outlets is marked. */
@Component({
  selector: "ip-line-tree",
  imports: [PrimeTemplate, Tree],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-tree [value]="nodes()" [ariaLabel]="'Line from the pump outwards'">
      <ng-template pTemplate="default" let-node>
        <span [class.blocked]="node.data.blocked">{{ node.label }}</span>
        <span class="state">{{ node.data.state }}</span>
        @if (node.data.blocked) {
          <b class="state">look here</b>
        }
      </ng-template>
    </p-tree>
  `,
  styles: `
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
  private readonly blocked = computed(() => {
    const outlets = this.outlets().map((name, i) => ({ name, wet: this.states()[i] ?? null }));
    // Where all that was looked at is dry it is the pump’s side, and no piece of the line.
    return outlets.some((o) => o.wet === true)
      ? new Set(blockedPieces(outlets).map((b) => b.piece.path))
      : new Set<string>();
  });
  protected readonly nodes = computed<TreeNode[]>(() => [
    {
      key: "pump",
      label: "pump",
      expanded: true,
      data: { state: "", blocked: false },
      children: lineTree(this.outlets()).map((piece) => this.nodeOf(piece)),
    },
  ]);

  private nodeOf(piece: LinePiece): TreeNode {
    const wet = piece.outlet === null ? null : (this.states()[piece.outlet] ?? null);
    return {
      key: piece.path,
      label: piece.name,
      expanded: true,
      data: { state: wet === null ? "" : wet ? "wet" : "dry", blocked: this.blocked().has(piece.path) },
      children: piece.children.map((child) => this.nodeOf(child)),
    };
  }
}
