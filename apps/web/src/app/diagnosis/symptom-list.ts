import {
  afterRenderEffect,
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
} from "@angular/core";
import { RouterLink } from "@angular/router";
import { locateTest, TEST_TEXT, type FindingId } from "@iron/core";
import { AxisContext } from "../machine/axis/axis-context";
import { ChoicesPipe } from "../shared/choices.pipe";
import { ChoiceField } from "../shared/fields";
import { momentText } from "../shared/times.text";
import { HearWord } from "../sound/hear-word";
import { CaseStore } from "./case-store";
import { GLYPHS } from "./glyphs";
import { Triple } from "./triple";
import { InputText } from "primeng/inputtext";

/** Symptoms to answer; behind a Yes, a note and the measurement that shows it. */
@Component({
  selector: "ip-symptom-list",
  imports: [HearWord, InputText, ChoiceField, ChoicesPipe, RouterLink, Triple],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: "./case.css",
  host: { "(focusin)": "holds($event)", "(focusout)": "leaves($event)" },
  template: `
    @let told = store.told();
    @if (symptoms().length) {
      <ul class="questions">
        @for (symptom of symptoms(); track symptom.id) {
          <li tabindex="-1">
            <svg viewBox="0 0 56 20" aria-hidden="true">
              @if (glyph(symptom.id); as d) {
                <path [attr.d]="d" />
              }
            </svg>
            <span class="words">{{ symptom.text }} <ip-hear-word [word]="symptom.id" [text]="symptom.text" /></span>
            <ip-triple [label]="symptom.text" [value]="value(symptom.id)" (picked)="store.answer(symptom.id, $event)" />
            @if (value(symptom.id) === true && !plainly()) {
              <span class="behind">
                <input
                  pInputText
                  maxlength="300"
                  placeholder="where, when, how"
                  [attr.aria-label]="'Note on: ' + symptom.text"
                  [value]="told.evidence[symptom.id]?.note ?? ''"
                  (input)="store.setEvidence(symptom.id, { note: $any($event.target).value })"
                />
                <ip-choice-field
                  quietly
                  none="no measurement shows it"
                  [label]="'Shown by: ' + symptom.text"
                  [value]="told.evidence[symptom.id]?.ref ?? ''"
                  [choices]="proofs() | choices: 'ref' : 'label'"
                  (chosen)="store.setEvidence(symptom.id, { ref: $event || null })"
                />
                @if (proofPath(told.evidence[symptom.id]?.ref ?? null); as to) {
                  <a [routerLink]="to">show it</a>
                }
              </span>
            }
          </li>
        }
      </ul>
    }
  `,
})
export class SymptomList {
  readonly symptoms = input.required<readonly { readonly id: FindingId; readonly text: string }[]>();
  /** Nothing behind a Yes: what is asked below it stays in its place. */
  readonly plainly = input(false, { transform: booleanAttribute });
  private readonly context = inject(AxisContext);
  protected readonly store = inject(CaseStore);
  protected readonly glyphs = GLYPHS;
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  /** The place of the question that has the focus. */
  private at: number | null = null;
  /** Measurements and results that a symptom can point to. */
  protected readonly proofs = computed(() => {
    const axisId = this.context.axis()?.id;
    const runs = (this.context.history()?.runs ?? [])
      .filter((r) => r.state === "finished")
      .slice(-12)
      .reverse()
      .map((r) => ({
        ref: `run ${r.id}`,
        label: `${TEST_TEXT[r.kind].name}, ${momentText(r.at)}`,
      }));
    const results = (this.store.current()?.results ?? [])
      .filter((r) => r.axisId === axisId && !r.withdrawn)
      .map((r) => ({
        ref: `result ${r.id}`,
        label: `${locateTest(r.test)?.name ?? r.test}, ${momentText(r.at)}`,
      }));
    return [...results, ...runs];
  });

  constructor() {
    // With a question that gives way to another goes its focus: whoever works by keys goes on in the same place.
    afterRenderEffect(() => {
      this.symptoms();
      if (this.at === null || document.activeElement !== document.body) return;
      const rows = this.rows();
      rows.at(Math.min(this.at, rows.length - 1))?.focus({ preventScroll: true });
    });
  }

  protected holds(event: FocusEvent): void {
    this.at = this.rows().findIndex((row) => row.contains(event.target as Node));
  }

  /** Left, unless what had the focus is gone by then. */
  protected leaves({ target }: FocusEvent): void {
    queueMicrotask(() => {
      if ((target as Node).isConnected && !this.host.nativeElement.contains(document.activeElement)) this.at = null;
    });
  }

  private rows(): HTMLElement[] {
    return [...this.host.nativeElement.querySelectorAll<HTMLElement>(":scope > ul > li")];
  }

  protected proofPath(ref: string | null): string | null {
    const [kind, id] = (ref ?? "").split(" ");
    if (kind === "run") return `${this.context.base()}/runs/${id}`;
    return kind === "result" ? `${this.context.base()}/locate` : null;
  }

  protected value(id: FindingId): boolean | null {
    return this.store.told().answers[id] ?? null;
  }

  protected glyph(id: FindingId): string | undefined {
    return this.glyphs[id];
  }
}
