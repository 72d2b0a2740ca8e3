import { ChangeDetectionStrategy, Component, computed, inject, signal } from "@angular/core";
import { ButtonDirective } from "primeng/button";
import { formatSize, fromMm, toMm, usualOwnErrors } from "@iron/core";
import {
  indicatorEditSchema,
  parseDecimal,
  shopUpdateSchema,
  type IndicatorEdit,
  type IndicatorRecord,
  type Shop,
} from "@iron/contract";
import { InputText } from "primeng/inputtext";
import { Api } from "../data/api";
import { Notices } from "../data/notices";
import { BackupLine } from "./backup-line";
import { problemFrom } from "../data/problems";
import { BothVersions, differing, type SaidField } from "../shared/both-versions";
import { Trouble } from "../shared/trouble";
import { Opens } from "../shared/opens";

interface IndicatorDraft {
  readonly id: number | null;
  /** That it began from. */
  readonly version: number;
  readonly name: string;
  readonly kind: IndicatorEdit["kind"];
  readonly unit: "mm" | "in";
  readonly resolution: string;
  readonly tipAngle: string;
  readonly range: string;
  readonly hysteresis: string;
  readonly calibration: string;
}

const BLANK: IndicatorDraft = {
  id: null,
  version: 0,
  name: "",
  kind: "lever",
  unit: "mm",
  resolution: "0.002",
  tipAngle: "12",
  range: "0.8",
  hysteresis: "",
  calibration: "",
};

type ShopEdit = Pick<Shop, "name" | "currency" | "people">;
const SHOP_SAID: readonly SaidField<ShopEdit>[] = [
  { label: "Name", words: (s) => s.name },
  { label: "Currency", words: (s) => s.currency },
  { label: "Who works here", words: (s) => s.people.join(", ") },
];
const systemOf = (i: Pick<IndicatorEdit, "unit">): "inch" | "metric" => (i.unit === "in" ? "inch" : "metric");
const noted = (mm: number | null | undefined, i: IndicatorEdit): string =>
  mm === null || mm === undefined ? "not noted" : formatSize(mm, systemOf(i));
const INDICATOR_SAID: readonly SaidField<IndicatorEdit>[] = [
  { label: "Name", words: (i) => i.name },
  { label: "Kind", words: (i) => i.kind },
  { label: "Its unit", words: (i) => i.unit },
  {
    label: "Smallest step or division",
    words: (i) => formatSize(i.resolutionMm, systemOf(i)),
  },
  { label: "Usual tip angle", words: (i) => `${i.tipAngleDeg}°` },
  { label: "Reach", words: (i) => formatSize(i.rangeMm, systemOf(i)) },
  { label: "Hysteresis", words: (i) => noted(i.hysteresisMm, i) },
  {
    label: "Error over a short reach",
    words: (i) => noted(i.calibrationMm, i),
  },
];

/** The shop’s own: its name, currency, people and indicators. */
@Component({
  selector: "ip-shop",
  imports: [ButtonDirective, BackupLine, BothVersions, InputText, Trouble, Opens],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: "./shop.html",
  styles: `
    h2 {
      margin: var(--space-5) 0 var(--space-2);
    }
    h1 + .fields,
    .acts {
      margin-top: var(--space-3);
    }
  `,
})
export class ShopPlace {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly shop = signal<Shop | null>(null);
  protected readonly name = signal("");
  protected readonly currency = signal("");
  protected readonly people = signal("");
  protected readonly indicators = signal<readonly IndicatorRecord[] | null>(null);
  protected readonly draft = signal<IndicatorDraft | null>(null);
  protected readonly wrong = signal("");
  /** Why the two versions are shown. */
  protected readonly conflictWords = signal("");
  protected readonly theirShop = signal<Shop | null>(null);
  protected readonly theirIndicator = signal<IndicatorRecord | null>(null);
  protected readonly shopConflicts = computed(() => {
    const theirs = this.theirShop();
    return theirs ? differing<ShopEdit>(this.shopUpdate(), theirs, SHOP_SAID) : [];
  });
  protected readonly indicatorConflicts = computed(() => {
    const [draft, theirs] = [this.draft(), this.theirIndicator()];
    return draft && theirs ? differing<IndicatorEdit>(editFrom(draft), theirs, INDICATOR_SAID) : [];
  });
  protected readonly shopErrors = computed(() => errorsOf(shopUpdateSchema.safeParse(this.shopUpdate())));
  protected readonly indicatorErrors = computed(() => {
    const draft = this.draft();
    return draft ? errorsOf(indicatorEditSchema.safeParse(editFrom(draft))) : new Map<string, string>();
  });

  constructor() {
    this.loadShop();
    this.loadIndicators();
  }

  protected loadShop(): void {
    this.wrong.set("");
    this.api.call("shop").subscribe({
      next: (shop) => {
        this.shop.set(shop);
        this.name.set(shop.name);
        this.currency.set(shop.currency);
        this.people.set(shop.people.join(", "));
      },
      error: (error: unknown) => this.wrong.set(problemFrom(error).detail),
    });
  }

  protected saveShop(): void {
    if (this.shopErrors().size > 0) return;
    this.api.call("updateShop", { body: this.shopUpdate() }).subscribe({
      next: (shop) => {
        this.theirShop.set(null);
        this.shop.set(shop);
        this.notices.say("The shop is kept.");
      },
      error: (error: unknown) => {
        const problem = problemFrom(error);
        if (problem.status !== 409 || !problem.current) {
          this.notices.wrong(error);
          return;
        }
        this.conflictWords.set(problem.detail);
        // Kept again, mine goes over theirs knowingly.
        this.shop.set(problem.current as Shop);
        this.theirShop.set(problem.current as Shop);
      },
    });
  }

  protected takeShop(): void {
    this.theirShop.set(null);
    this.loadShop();
  }

  protected leaveIndicator(): void {
    this.draft.set(null);
    this.theirIndicator.set(null);
  }

  protected takeIndicator(): void {
    this.leaveIndicator();
    this.loadIndicators();
  }

  protected words(i: IndicatorRecord): string {
    const system = i.unit === "in" ? "inch" : "metric";
    const tip = i.tipAngleDeg > 0 ? `, tip at ${i.tipAngleDeg}°` : "";
    const own =
      i.hysteresisMm || i.calibrationMm
        ? `, errs by ${formatSize(i.hysteresisMm ?? 0, system)} turning round and ${formatSize(i.calibrationMm ?? 0, system)} over a short reach`
        : ", its own errors not noted";
    return `${i.kind}, steps of ${formatSize(i.resolutionMm, system)}, reach ${formatSize(i.rangeMm, system)}${tip}${own}`;
  }

  protected add(): void {
    this.draft.set(BLANK);
  }

  protected change(i: IndicatorRecord): void {
    const shown = (mm: number): string => String(Number(fromMm(mm, i.unit).toFixed(6)));
    this.theirIndicator.set(null);
    this.draft.set({
      id: i.id,
      version: i.version,
      name: i.name,
      kind: i.kind,
      unit: i.unit,
      resolution: shown(i.resolutionMm),
      tipAngle: String(i.tipAngleDeg),
      range: shown(i.rangeMm),
      hysteresis: i.hysteresisMm ? shown(i.hysteresisMm) : "",
      calibration: i.calibrationMm ? shown(i.calibrationMm) : "",
    });
  }

  /** What is usual for such an indicator, where its calibration says nothing. */
  protected takeUsual(): void {
    const draft = this.draft();
    if (!draft) return;
    const { resolutionMm } = editFrom(draft);
    const usual = usualOwnErrors(draft.kind, resolutionMm || 0.01);
    const shown = (mm: number): string => String(Number(fromMm(mm, draft.unit).toFixed(5)));
    this.edit({
      hysteresis: shown(usual.hysteresisMm),
      calibration: shown(usual.calibrationMm),
    });
  }

  protected edit(change: Partial<IndicatorDraft>): void {
    this.draft.update((d) => (d ? { ...d, ...change } : d));
  }

  protected saveIndicator(): void {
    const draft = this.draft();
    if (!draft || this.indicatorErrors().size > 0) return;
    const edit = editFrom(draft);
    const request =
      draft.id === null
        ? this.api.call("createIndicator", { body: edit })
        : this.api.call("updateIndicator", {
            params: { id: draft.id },
            body: {
              ...edit,
              version: draft.version,
            },
          });
    request.subscribe({
      next: () => {
        this.leaveIndicator();
        this.loadIndicators();
      },
      error: (error: unknown) => {
        const problem = problemFrom(error);
        if (problem.status !== 409 || !problem.current) {
          this.notices.wrong(error);
          return;
        }
        const theirs = problem.current as IndicatorRecord;
        this.conflictWords.set(problem.detail);
        this.theirIndicator.set(theirs);
        this.edit({ version: theirs.version });
      },
    });
  }

  protected retire(i: IndicatorRecord): void {
    const retiring = i.retiredAt === null;
    const request = retiring
      ? this.api.call("retireIndicator", { params: { id: i.id } })
      : this.api.call("reviveIndicator", { params: { id: i.id } });
    request.subscribe({
      next: (now) => {
        this.loadIndicators();
        if (retiring) this.notices.say(`${i.name} is retired.`, () => this.retire(now));
      },
      error: (error: unknown) => this.notices.wrong(error),
    });
  }

  private loadIndicators(): void {
    this.api.call("indicators").subscribe({
      next: (all) => this.indicators.set(all),
      error: (error: unknown) => this.wrong.set(problemFrom(error).detail),
    });
  }

  private shopUpdate() {
    const people = this.people()
      .split(",")
      .map((p) => p.trim())
      .filter(Boolean);
    return {
      name: this.name(),
      currency: this.currency().trim().toUpperCase(),
      people,
      version: this.shop()?.version ?? 0,
    };
  }
}

function editFrom(draft: IndicatorDraft): IndicatorEdit {
  const length = (text: string): number => {
    const value = parseDecimal(text);
    return value === undefined ? NaN : Math.round(toMm(value, draft.unit) * 1e8) / 1e8;
  };
  // Left empty: nobody noted it, and U says so.
  const maybe = (text: string): number | null => (text.trim() === "" ? null : length(text));
  return {
    name: draft.name,
    kind: draft.kind,
    unit: draft.unit,
    resolutionMm: length(draft.resolution),
    tipAngleDeg: parseDecimal(draft.tipAngle) ?? NaN,
    rangeMm: length(draft.range),
    hysteresisMm: maybe(draft.hysteresis),
    calibrationMm: maybe(draft.calibration),
  };
}

function errorsOf(result: {
  success: boolean;
  error?: {
    issues: readonly { path: readonly PropertyKey[]; message: string }[];
  };
}): ReadonlyMap<string, string> {
  return new Map((result.error?.issues ?? []).map((i) => [String(i.path[0]), i.message]));
}
