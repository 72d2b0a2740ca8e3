import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from "@angular/core";
import { parseDecimal, type CheckAnswered, type LubricationPointRecord } from "@iron/contract";
import { checkFigure, type CheckAnswer } from "@iron/core";
import { TextField, type Choice } from "../shared/fields";
import type { PhotoTaken } from "../job/photo-queue";
import { OneOf } from "../shared/one-of";
import { PhotoField } from "../shared/photo-field";
import { dayText } from "../shared/times.text";

type Check = LubricationPointRecord["answered"][number];

/** What is looked at on the way, each a row of its own: fine, watch, or act. */
@Component({
  selector: "ip-check-rows",
  imports: [OneOf, PhotoField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./rounds.css",
  template: `
    @for (check of checks(); track check.name) {
      <div class="check">
        <ip-one-of
          [legend]="check.name"
          [choices]="choices(check)"
          [value]="answerOf(check)"
          (picked)="answer(check, $event)"
        />
        @if (check.unit) {
          <ip-text-field
            mode="decimal"
            [label]="'Read, ' + check.unit + boundsText(check)"
            [value]="figures()[check.name] ?? ''"
            [error]="figureError(check)"
            (typed)="type(check, $event)"
          />
        }
        @if (lastText(check); as last) {
          <p class="quiet">{{ last }}</p>
        }
        @if (photoOf(check); as shown) {
          <a class="quiet" target="_blank" rel="noopener" [href]="'/api/lube-photos/' + shown.id"
            >Photo of {{ day(shown.at) }}, {{ shown.by }}</a
          >
        }
        @if (wantsPhoto(check)) {
          <ip-photo-field [of]="check.name" (taken)="photo.emit({ file: $event, shows: check.name })" />
        }
      </div>
    }
  `,
})
export class CheckRows {
  readonly point = input.required<LubricationPointRecord>();
  readonly photo = output<PhotoTaken>();
  protected readonly day = dayText;
  protected readonly checks = computed(() => this.point().answered);
  /** Rises when a visit was told: the next one begins empty. */
  readonly turn = input(0);
  private readonly begun = computed(() => `${this.point().id} ${this.turn()}`);
  private readonly picked = linkedSignal<string, Readonly<Partial<Record<string, CheckAnswer>>>>({
    source: this.begun,
    computation: () => ({}),
  });
  protected readonly figures = linkedSignal<string, Readonly<Partial<Record<string, string>>>>({
    source: this.begun,
    computation: () => ({}),
  });

  /** Names of the checks that nobody has answered. */
  open(): string[] {
    return this.checks()
      .filter((c) => this.answerOf(c) === null)
      .map((c) => c.name);
  }

  /** A figure that cannot be read: nothing may be kept. */
  wrong(): boolean {
    return this.checks().some((c) => this.figureError(c) !== "");
  }

  answers(): CheckAnswered[] {
    return this.checks().flatMap((check) => {
      const answer = this.answerOf(check);
      return answer === null ? [] : [{ name: check.name, answer, figure: this.figureOf(check) }];
    });
  }

  /** What was picked; else what the figure says by its bounds; one without bounds was looked at and nothing was said. */
  protected answerOf(check: Check): CheckAnswer | null {
    const picked = this.picked()[check.name];
    if (picked) return picked;
    const figure = this.figureOf(check);
    return figure === null ? null : (checkFigure({ ...check, act: check.wrong }, figure) ?? "fine");
  }

  /** What is not fine is worth a picture; that of what is fine is one of the point. */
  protected wantsPhoto(check: Check): boolean {
    const answer = this.answerOf(check);
    return answer === "watch" || answer === "act";
  }

  /** The last that was taken of it. */
  protected photoOf({ name }: Check) {
    return this.point().photos.findLast((p) => p.of === name);
  }

  protected choices({ wrong }: Check): readonly Choice<CheckAnswer>[] {
    return [
      { id: "fine", label: "Fine" },
      { id: "watch", label: "Watch it" },
      { id: "act", label: wrong ? `Act: ${wrong}` : "Act" },
    ];
  }

  protected answer({ name }: Check, answer: CheckAnswer): void {
    this.picked.update((all) => ({ ...all, [name]: answer }));
  }

  protected type({ name }: Check, text: string): void {
    this.figures.update((all) => ({ ...all, [name]: text }));
  }

  private typed({ name }: Check): string {
    return (this.figures()[name] ?? "").trim();
  }

  private figureOf(check: Check): number | null {
    return parseDecimal(this.typed(check)) ?? null;
  }

  protected figureError(check: Check): string {
    const text = this.typed(check);
    return text && parseDecimal(text) === undefined ? `“${text}” is not a number of ${check.unit ?? ""}.` : "";
  }

  protected boundsText({ least, most }: Check): string {
    if (least !== null && most !== null) return `, ${least} to ${most}`;
    if (least !== null) return `, at least ${least}`;
    return most === null ? "" : `, at most ${most}`;
  }

  /** What it was like the last time, and where its figure goes. */
  protected lastText({ answer, figure, at, unit, boundOn, readings }: Check): string {
    if (!answer || !at) return "";
    const read = figure === null ? "" : `, ${figure} ${unit ?? ""}`;
    const row = readings.length > 1 ? ` (${readings.map((r) => r.figure).join(", ")})` : "";
    const then = boundOn ? ` At its bound about ${dayText(`${boundOn}T12:00:00`)}.` : "";
    return `Last time, ${dayText(at)}: ${answer === "watch" ? "to be watched" : answer}${read}${row}.${then}`;
  }
}
