import { ChangeDetectionStrategy, Component, input } from "@angular/core";

/** Cautions beside a test, by whether the machine runs in it or stands isolated. */
@Component({
  selector: "ip-test-safety",
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Safety</h2>
    @if (drives()) {
      <p>
        The machine runs in this test: guards closed or the reach fenced off, hands out of it, the stop within reach.
        Nobody under what can fall.
      </p>
    }
    <p>
      {{ drives() ? "To set, feel or look inside: isolate" : "Isolate" }}, lock out, prove dead, your own lock. Stored
      energy stays behind the switch: counterweight, springs, air. A gravity axis is blocked on the casting or cartridge
      flange, never the spindle nose, and the block tried with the drive off. The machine’s manual and local codes come
      first.
    </p>
  `,
})
export class TestSafety {
  readonly drives = input.required<boolean>();
}
