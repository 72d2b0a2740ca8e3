import { ChangeDetectionStrategy, Component, computed, input } from "@angular/core";
import {
  chainOf,
  isGravityAxis,
  formatWithU,
  lossState,
  lossText,
  type AxisConfig,
  type AxisState,
  type UnitSystem,
} from "@iron/core";
import type { LinkShare } from "@iron/contract";
import { StateMark } from "../shared/state-mark";
import { ageText } from "../shared/times.text";
import { drawingOf, type Drawing } from "./drawings";

/** What is known of the loss at the member. */
export interface ChainLoss {
  readonly reversalValueMm: number;
  readonly expandedMm: number | null;
  readonly at: string;
}

export interface LinkView {
  readonly id: string;
  readonly name: string;
  readonly drawing: Drawing;
  readonly value: string;
  readonly looked: string;
  readonly note: string;
  readonly state: AxisState;
  /** The state’s word where it is another: “cannot tell”, “perhaps watch”. */
  readonly word?: string;
  readonly weight: number;
  readonly known: boolean;
}

/** The chain as it is drawn: a link nobody has looked at is dashed; weight grows with its loss. */
export function chainView(
  config: AxisConfig,
  loss: ChainLoss | null,
  {
    system,
    now = new Date(),
    shares = [],
    opened = [],
  }: {
    readonly system: UnitSystem;
    readonly now?: Date;
    readonly shares?: readonly LinkShare[];
    readonly opened?: readonly string[];
  },
): readonly LinkView[] {
  return chainOf(config).map((link): LinkView => {
    const base = { id: link.id, name: link.name, drawing: drawingOf(link.drawing), note: link.note };
    const known = (of: KnownLoss): LinkView => ({ ...base, ...lossView(of, { axisConfig: config, system, now }) });
    if (opened.includes(link.id))
      return { ...base, value: "open", looked: "undone by this job", state: "act", weight: 2.4, known: true };
    if (link.id === "member" && loss) return known({ ...loss, after: " lost" });
    if (link.id === "motor")
      return { ...base, value: "—", looked: "", state: "unknown", weight: NO_LOSS_WEIGHT, known: true };
    const share = shares.find((s) => s.link === link.id);
    if (share && share.shareMm !== null && share.expandedMm !== null)
      return known({ reversalValueMm: share.shareMm, expandedMm: share.expandedMm, at: share.lookedAt, after: "" });
    return { ...base, value: "not looked at", looked: "", state: "unknown", weight: NO_LOSS_WEIGHT, known: false };
  });
}

interface KnownLoss {
  readonly reversalValueMm: number;
  readonly expandedMm: number | null;
  readonly at: string | null;
  readonly after: string;
}

const NO_LOSS_WEIGHT = 1.6;

/** A link of which a loss is known: drawn the heavier, the more of the repair limit it takes, up to twice that. */
function lossView(
  of: KnownLoss,
  {
    axisConfig: { limits },
    system,
    now,
  }: { readonly axisConfig: AxisConfig; readonly system: UnitSystem; readonly now: Date },
): Omit<LinkView, "id" | "name" | "drawing" | "note"> {
  const part = Math.min(2, Math.abs(of.reversalValueMm) / limits.repairMm);
  return {
    value: `${formatWithU(of.reversalValueMm, of.expandedMm, { system })}${of.after}`,
    looked: of.at ? ageText(of.at, now) : "",
    state: lossState(of, limits),
    word: lossText(of, limits),
    weight: NO_LOSS_WEIGHT + 1.4 * part,
    known: true,
  };
}

@Component({
  selector: "ip-chain-strip",
  imports: [StateMark],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ol class="strip" tabindex="0" aria-label="Drive chain, from the command to the member">
      @for (link of links(); track link.id) {
        <li class="link is-{{ link.state }}" [class.dashed]="!link.known">
          <svg
            viewBox="0 0 100 76"
            [attr.preserveAspectRatio]="link.drawing.wide ? 'none' : 'xMidYMid meet'"
            fill="none"
            aria-hidden="true"
          >
            <path [attr.d]="link.drawing.shaft" class="shaft" />
            <path [attr.d]="link.drawing.heavy" class="heavy" [attr.stroke-width]="link.weight" />
            <path [attr.d]="link.drawing.fine" class="fine" />
            @if (link.id === "member" && gravity()) {
              <path d="M92 44v22M86 58l6 8l6 -8" class="anchor" />
            }
          </svg>
          <span class="link-name">{{ link.name }}</span>
          <span class="value">{{ link.value }}</span>
          <span class="looked quiet">
            @if (link.id === "motor") {
              {{ link.note }}
            } @else {
              <ip-state-mark [state]="link.state" [say]="link.word ?? ''" [word]="true" />
              @if (link.looked) {
                <span class="age">{{ " · " + link.looked }}</span>
              }
            }
          </span>
          @if (marks()[link.id]) {
            <span class="looked mark">{{ marks()[link.id] }}</span>
          } @else if (link.id !== "motor" && link.note) {
            <span class="looked quiet note">{{ link.note }}</span>
          }
        </li>
      }
    </ol>
  `,
  styleUrl: "./chain-strip.css",
})
export class ChainStrip {
  readonly config = input.required<AxisConfig>();
  readonly loss = input<ChainLoss | null>(null);
  readonly system = input<UnitSystem>("metric");
  readonly shares = input<readonly LinkShare[]>([]);
  /** Links that a job has undone and not yet closed. */
  readonly opened = input<readonly string[]>([]);
  /** A word to a link instead of its note: the lubrication points that hang on it. */
  readonly marks = input<Readonly<Partial<Record<string, string>>>>({});
  protected readonly links = computed(() =>
    chainView(this.config(), this.loss(), {
      system: this.system(),
      now: new Date(),
      shares: this.shares(),
      opened: this.opened(),
    }),
  );
  protected readonly gravity = computed(() => isGravityAxis(this.config()));
}
