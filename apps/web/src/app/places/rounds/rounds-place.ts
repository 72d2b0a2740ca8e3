import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core"; // prettier-ignore
import { RouterLink } from "@angular/router";
import type { FoundState } from "@iron/core";
import type { LubePointRecord, Rounds } from "@iron/contract";
import { Api } from "../../data/api";
import { Notices } from "../../data/notices";
import { problemFrom } from "../../data/problems";
import { dayBars, doseWords, dueWords, FOUND_KEYS, walkOf } from "./rounds.view"; // prettier-ignore

/** Rounds: the coming days as bars, and one day’s walk point by point with five large keys. */
@Component({
  selector: "ip-rounds",
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./rounds-place.html",
  styleUrl: "./rounds.css",
})
export class RoundsPlace {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly keys = FOUND_KEYS;
  protected readonly dose = doseWords;
  protected readonly due = dueWords;
  protected readonly rounds = signal<Rounds | null>(null);
  protected readonly wrong = signal("");
  private readonly picked = signal<string | null>(null);
  protected readonly glitter = signal(false);
  protected readonly words = signal("");
  protected readonly busy = signal(false);
  /** What this walk has found, so that a wrong key can be taken back. */
  protected readonly walked = signal<readonly { readonly point: LubePointRecord; readonly found: FoundState }[]>([]); // prettier-ignore
  protected readonly bars = computed(() => {
    const rounds = this.rounds();
    return rounds ? dayBars(rounds) : [];
  });
  protected readonly date = computed(() => {
    const rounds = this.rounds();
    const first = rounds?.days.find((d) => d.stops.length > 0);
    return this.picked() ?? first?.date ?? "";
  });
  protected readonly walk = computed(() => {
    const rounds = this.rounds();
    const done = new Set(this.walked().map((w) => w.point.id));
    return rounds ? walkOf(rounds, this.date()).filter((w) => !done.has(w.point.id)) : []; // prettier-ignore
  });
  protected readonly now = computed(() => {
    const walk = this.walk();
    return walk.length ? walk[0] : null;
  });
  protected readonly heading = computed(() => {
    const rounds = this.rounds();
    if (!rounds) return "Rounds";
    if (rounds.points === 0) return "No lubrication point yet";
    return rounds.late ? `${rounds.late} ${rounds.late === 1 ? "point is" : "points are"} late` : "Nothing is late"; // prettier-ignore
  });

  constructor() {
    this.load();
  }

  protected load(): void {
    this.wrong.set("");
    this.api.get("rounds", "/rounds").subscribe({
      next: (rounds) => this.rounds.set(rounds),
      error: (error: unknown) => this.wrong.set(problemFrom(error).detail),
    });
  }

  protected pick(date: string): void {
    this.picked.set(date);
  }

  protected found(point: LubePointRecord, state: FoundState): void {
    const dose = state === "flooded" || state === "blocked" ? 0 : point.dose;
    this.send(
      point,
      { found: state, dose, glitter: this.glitter(), words: this.words() },
      () => {
        // prettier-ignore
        this.walked.update((w) => [...w, { point, found: state }]);
        this.glitter.set(false);
        this.words.set("");
      },
    );
  }

  protected takeBack(): void {
    const last = this.walked().at(-1);
    if (!last) return;
    this.send(
      last.point,
      { found: null, dose: 0, glitter: false, words: "" },
      () =>
        // prettier-ignore
        this.walked.update((w) => w.slice(0, -1)),
    );
  }

  private send(
    point: LubePointRecord,
    visit: {
      found: FoundState | null;
      dose: number;
      glitter: boolean;
      words: string;
    },
    done: () => void,
  ): void {
    // prettier-ignore
    if (this.busy()) return;
    this.busy.set(true);
    this.api.post("visitPoint", `/lube-points/${point.id}/visits`, { ...visit, key: crypto.randomUUID() }).subscribe({
      next: (after) => {
        this.busy.set(false);
        done();
        if (after.asksCase) this.notices.say(`${point.place}: ${after.asksCase} Open a case on it.`);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.notices.wrong(error);
      },
    }); // prettier-ignore
  }
}
