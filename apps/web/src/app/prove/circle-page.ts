import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from "@angular/core";
import { toSignal } from "@angular/core/rxjs-interop";
import { FormControl, ReactiveFormsModule } from "@angular/forms";
import { RouterLink } from "@angular/router";
import { ButtonDirective } from "primeng/button";
import { SelectButton } from "primeng/selectbutton";
import { formatSize, fromMm } from "@iron/core";
import type { CirclePlane } from "@iron/contract";
import { AddressPipe } from "../data/address.pipe";
import type { Address } from "../data/api";
import { Preferences } from "../data/preferences";
import { GiveUp } from "../measure/run/give-up";
import { ChartView, type DrawChart } from "../shared/chart";
import { ChoiceField, type Choice } from "../shared/fields";
import { LoadingLines } from "../shared/loading";
import { TickBox } from "../shared/tick-box";
import { momentText } from "../shared/times.text";
import { Trouble } from "../shared/trouble";
import { circleChart } from "./circle-chart";
import { CircleSays } from "./circle-says";
import { CircleStore } from "./circle-store";
import { drawnTraces, quarters } from "./circle-drawn.view";
import { jointLines, passRows, planeView } from "./circle.view";
import { LiveTrace } from "./live-trace";
import { planeName } from "./plane-name";
import { ReadPlane } from "./read-plane";
import { TrueShape } from "./true-shape";
import { May } from "../shared/may";

const bothRead = ({ passes }: CirclePlane): boolean =>
  ([1, -1] as const).every((d) => passes.some((p) => p.used && p.direction === d));

/** One session of circles: its planes read, drawn, taken apart and led on. */
@Component({
  selector: "ip-circle",
  imports: [
    May,
    AddressPipe,
    ButtonDirective,
    ChartView,
    ChoiceField,
    CircleSays,
    GiveUp,
    LiveTrace,
    LoadingLines,
    ReactiveFormsModule,
    ReadPlane,
    RouterLink,
    SelectButton,
    TickBox,
    Trouble,
    TrueShape,
  ],
  providers: [CircleStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./circle-page.html",
  styleUrl: "./circle.css",
})
export class CirclePage {
  readonly sessionId = input.required<string>();
  protected readonly store = inject(CircleStore);
  protected readonly preferences = inject(Preferences);
  protected readonly plane = new FormControl<number | null>(null);
  private readonly chosen = toSignal(this.plane.valueChanges, { initialValue: null });
  protected readonly givingUp = signal(false);
  /** Rows that are taken out of the drawing. */
  protected readonly off = signal<readonly string[]>([]);
  protected readonly begun = computed(() => {
    const session = this.store.session();
    return session ? `${momentText(session.startedAt)}, ${session.by}` : "";
  });
  protected readonly live = computed(() => {
    const pass = this.store.live();
    return pass && pass.planeId === this.current()?.id ? pass : null;
  });
  /** The first plane that is not read both ways round; null when all are. */
  private readonly unread = computed(() => (this.store.session()?.planes ?? []).find((p) => !bothRead(p)) ?? null);
  /** The plane that is looked at: it stays when it has been read, so that one sees what came of it. */
  private readonly current = computed(() => {
    const planes = this.store.session()?.planes ?? [];
    return planes.find((p) => p.id === (this.store.live()?.planeId ?? this.chosen())) ?? planes.at(0) ?? null;
  });
  /** The plane that comes next, once this one is read. */
  protected readonly next = computed(() => {
    const [current, unread] = [this.current(), this.unread()];
    const ready = current && unread && unread.id !== current.id && bothRead(current) && !this.live();
    return ready && this.store.session()?.state === "open" ? { id: unread.id, label: this.nameOf(unread) } : null;
  });
  protected readonly view = computed(() => {
    const [session, plane, axes] = [this.store.session(), this.current(), this.store.axes()];
    if (!session || !plane || axes.length === 0) return null;
    const system = this.preferences.system();
    const { plan } = plane;
    const size = (mm: number): string => formatSize(mm, system);
    return {
      session,
      plane,
      planes: session.planes.map((p) => ({ id: p.id, label: `${this.nameOf(p)}${bothRead(p) ? " ✓" : ""}` })),
      about: `${plan.letters.join(" and ")}, radius ${size(plan.radiusMm)}, ${size(plan.feedMmMin)}/min, ${plan.spanDeg}° of data from ${plan.startDeg}°, centre ${plan.letters[0]} ${size(plan.centreMm[0])}, ${plan.letters[1]} ${size(plan.centreMm[1])}. ${session.bar.name}${session.temperatureC === null ? "" : `, ${session.temperatureC} °C`}${session.note ? `. ${session.note}` : ""}`,
      said: planeView({ session, plane, axes, system }),
      joint: jointLines(session),
      passes: passRows(plane),
      open: session.state === "open",
      connected: session.connected,
      unit: system === "metric" ? "µm" : "tenths",
      chartLabel: `Deviation from the circle against angle, both ways round, ${system === "metric" ? "µm" : "tenths of a thou"}. The figures are said beside it.`,
    };
  });
  protected readonly traces = computed(() => {
    const plane = this.current();
    const drawn = plane ? this.store.drawn()[plane.id] : undefined;
    const said = this.view()?.said;
    if (!plane || !drawn || drawn.traces.length === 0) return null;
    const rows = [...(said?.rows ?? []), ...(said?.quiet ?? [])];
    const off = rows.filter((r) => this.off().includes(r.id)).flatMap((r) => r.parts);
    return drawnTraces(drawn, plane, { off, system: this.preferences.system() });
  });
  /** How high the chart is: with nothing taken out, so that what is left is seen to be less. */
  private readonly span = computed(() => {
    const plane = this.current();
    const drawn = plane ? this.store.drawn()[plane.id] : undefined;
    if (!plane || !drawn) return 1;
    const all = drawnTraces(drawn, plane, { off: [], system: this.preferences.system() });
    return all.reduce(
      (most, t) => t.points.reduce((m, p) => Math.max(m, Math.abs(p.y ?? 0)), most),
      fromMm(0.002, "um") / 4,
    );
  });
  protected readonly draw = computed<DrawChart>(() => {
    const traces = this.traces() ?? [];
    const [letters, unit, span] = [this.current()?.plan.letters ?? [], this.view()?.unit ?? "", this.span()];
    const laid = this.store.under();
    const under = laid ? drawnTraces(laid.drawn, laid.plane, { off: [], system: this.preferences.system() }) : [];
    return (ink) => circleChart({ traces, under }, { quarters: quarters(letters), unit, span }, ink);
  });
  /** Earlier and later circles of the same plane: what was before a job lies under what is after it. */
  protected readonly layable = computed<readonly Choice[]>(() => {
    const letters = this.current()?.plan.letters.join("");
    return this.store
      .others()
      .flatMap((s) =>
        s.planes
          .filter((p) => p.analysis && p.plan.letters.join("") === letters)
          .map((p) => ({ id: String(p.id), label: `${momentText(s.startedAt)}, ${s.by}` })),
      )
      .reverse();
  });
  protected readonly allQuiet = computed(() => {
    const quiet = this.view()?.said?.quiet ?? [];
    return quiet.length > 0 && quiet.every((r) => this.off().includes(r.id));
  });

  constructor() {
    effect(() => {
      const id = Number(this.sessionId());
      untracked(() => {
        this.plane.setValue(null);
        this.store.load(id);
      });
    });
    // Who comes back goes on with the first plane that is not read.
    effect(() => {
      const session = this.store.session();
      untracked(() => {
        if (session && this.chosen() === null) this.plane.setValue(this.unread()?.id ?? session.planes[0].id);
      });
    });
    effect(() => {
      const id = this.current()?.id ?? null;
      untracked(() => {
        if (id !== null) this.plane.setValue(id);
        this.off.set([]);
        this.store.lay(null);
      });
    });
  }

  private nameOf({ plan }: CirclePlane): string {
    const feeds = (this.store.session()?.planes ?? []).map((p) => p.plan.feedMmMin);
    return planeName(plan, feeds, this.preferences.system());
  }

  protected toggle(id: string, on: boolean): void {
    this.off.update((all) => (on ? [...all, id] : all.filter((o) => o !== id)));
  }

  protected layUnder(id: string): void {
    const planes = this.store.others().flatMap((s) => s.planes);
    this.store.lay(planes.find((p) => String(p.id) === id) ?? null);
  }

  protected toggleQuiet(on: boolean): void {
    const quiet = (this.view()?.said?.quiet ?? []).map((r) => r.id);
    this.off.update((all) => [...all.filter((o) => !quiet.includes(o)), ...(on ? quiet : [])]);
  }

  protected exportOf(format: "csv" | "json" | "pdf"): Address<"exportCircle"> {
    return { params: { id: this.sessionId() }, query: { format, system: this.preferences.system() } };
  }
}
