import { ChangeDetectionStrategy, Component, computed, input } from "@angular/core";
import type { AxisState } from "@iron/core";

const SHAPES: Record<AxisState, { d: string; dash: string; token: string }> = {
  sound: {
    d: "M11 6.5a4.5 4.5 0 1 1 -9 0a4.5 4.5 0 1 1 9 0",
    dash: "",
    token: "green",
  },
  watch: { d: "M9.2 2.9a4.5 4.5 0 1 1 -4.6 -0.5", dash: "", token: "brass" },
  act: {
    d: "M11 6.5a4.5 4.5 0 1 1 -9 0a4.5 4.5 0 1 1 9 0",
    dash: "6 3.4",
    token: "oxide",
  },
  unknown: {
    d: "M11 6.5a4.5 4.5 0 1 1 -9 0a4.5 4.5 0 1 1 9 0",
    dash: "2 2",
    token: "graphite",
  },
};

/** State by shape first: closed ring, ring with a notch, broken ring, dashed ring. The word is for screen readers unless shown beside it. */
@Component({
  selector: "ip-state-mark",
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg width="13" height="13" viewBox="0 0 13 13" fill="none" stroke-width="2" aria-hidden="true">
      <path
        [attr.d]="shape().d"
        [attr.stroke]="'var(--' + shape().token + ')'"
        [attr.stroke-dasharray]="shape().dash || null"
      />
    </svg>
    <span [class.sr-only]="!word()">{{ said() }}</span>
  `,
  styles: `
    :host {
      display: inline-flex;
      align-items: baseline;
      gap: var(--space-1);
    }

    svg {
      flex: none;
      align-self: center;
    }
  `,
})
export class StateMark {
  readonly state = input.required<AxisState>();
  /** Another word than the state’s own: what cannot be told is drawn as unknown. */
  readonly say = input("");
  /** Show the word too. */
  readonly word = input(false);
  protected readonly said = computed(() => this.say() || this.state());
  protected readonly shape = computed(() => SHAPES[this.state()]);
}
