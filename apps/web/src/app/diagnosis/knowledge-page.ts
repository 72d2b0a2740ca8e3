import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { lengthsIn } from "@iron/core";
import type { Knowledge } from "@iron/contract";
import { parseDecimal } from "@iron/contract";
import { InputText } from "primeng/inputtext";
import { Api } from "../data/api";
import { Preferences } from "../data/preferences";
import { Notices } from "../data/notices";
import { Loaded } from "../data/loaded";
import { VersionedSave } from "../data/versioned-save";
import { BothVersions } from "../shared/both-versions";
import { Trouble } from "../shared/trouble";
import { Opens } from "../shared/opens";
import { TextField } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { May } from "../shared/may";

type Cause = Knowledge["causes"][number];
type Weight = Pick<Cause, "override" | "overrideBy" | "overrideWhy" | "version">;
const COSTS = ["nothing", "small parts", "a bearing set", "a screw or more"];

/** What the inference knows, to be read and reviewed; the shop's own weights beside the shipped ones. */
@Component({
  selector: "ip-knowledge",
  imports: [May, LoadingLines, ButtonDirective, BothVersions, InputText, Trouble, Opens, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./knowledge-page.html",
  styleUrl: "./knowledge-page.css",
})
export class KnowledgePage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly loaded = Loaded.now(() => this.api.call("knowledge"));
  protected readonly knowledge = this.loaded.value;
  protected readonly error = this.loaded.message;
  protected readonly filter = signal("");
  protected readonly editing = signal<string | null>(null);
  protected readonly weightText = signal("");
  protected readonly why = signal("");
  protected readonly fieldError = signal("");
  protected readonly saved = new VersionedSave<Weight>();
  /** Did mine mean to take the shop’s weight back? */
  private readonly taking = signal(false);
  protected readonly conflicts = computed(() => {
    const theirs = this.saved.theirs();
    const shipped = "the shipped one";
    return theirs
      ? [
          {
            label: "Weight in this shop",
            mine: this.taking() ? shipped : this.weightText(),
            theirs: String(theirs.override ?? shipped),
          },
          {
            label: "Why",
            mine: this.taking() ? "" : this.why(),
            theirs: theirs.overrideWhy,
          },
        ].filter((row) => row.mine !== row.theirs)
      : [];
  });
  protected readonly costs = COSTS;
  private readonly preferences = inject(Preferences);
  protected readonly shown = computed(() => {
    const words = this.filter().trim().toLowerCase();
    return (this.knowledge()?.causes ?? []).filter(
      (c) => !words || `${c.name} ${c.link} ${c.shows.map((s) => s.text).join(" ")}`.toLowerCase().includes(words),
    );
  });

  protected lengths(text: string): string {
    return lengthsIn(text, this.preferences.system());
  }

  protected load(): void {
    this.loaded.again();
  }

  protected edit(cause: Knowledge["causes"][number]): void {
    this.editing.set(cause.id);
    this.weightText.set(String(cause.override ?? cause.prior));
    this.why.set(cause.overrideWhy);
    this.fieldError.set("");
    this.saved.begin(cause);
  }

  protected keepMine(id: string): void {
    if (this.taking()) this.takeBack(id);
    else this.keep(id);
  }

  protected takeTheirs(): void {
    this.editing.set(null);
    this.saved.leave();
    this.load();
  }

  protected keep(id: string): void {
    const prior = parseDecimal(this.weightText());
    if (prior === undefined || prior < 0 || prior > 50) {
      this.fieldError.set(
        `Weight “${this.weightText().trim()}” cannot be: it is a number from 0 to 50. Typical: 1 to 6.`,
      );
      return;
    }
    if (!this.why().trim()) {
      this.fieldError.set("Say why the shop’s weight differs.");
      return;
    }
    this.put(id, prior);
  }

  protected takeBack(id: string): void {
    this.put(id, null);
  }

  private put(id: string, prior: number | null): void {
    this.taking.set(prior === null);
    this.fieldError.set("");
    this.saved.send(
      (version) => this.api.call("overrideCause", { params: { cause: id }, body: { prior, why: this.why(), version } }),
      (knowledge) => {
        this.knowledge.set(knowledge);
        this.editing.set(null);
        this.notices.say(prior === null ? "The shipped weight counts again." : "The shop’s weight is kept.");
      },
    );
  }

  protected percent(p: number): string {
    return `${Math.round(100 * p)} %`;
  }
}
