import { dialReading, formatSize, toMm, type TestStep, type UnitSystem } from "@iron/core";
import { parseDecimal, type ReadingCreate } from "@iron/contract";

export type Entry =
  { readonly ok: true; readonly reading: ReadingCreate } | { readonly ok: false; readonly error: string };

interface TypedAt {
  readonly step: TestStep;
  readonly unit: "mm" | "in";
  readonly resolutionMm: number;
  readonly rangeMm: number;
  readonly spoilt: boolean;
  /** The steps that moved nothing are counted too. */
  readonly countsStill?: boolean;
}

/** A typed figure, as a digital indicator sends it: in the indicator’s own unit. */
export function typedEntry(
  text: string,
  { step, unit, resolutionMm, rangeMm, spoilt, countsStill = false }: TypedAt,
): Entry {
  const value = parseDecimal(text);
  if (text.trim() === "") return { ok: false, error: "Nothing is typed yet." };
  if (value === undefined)
    return {
      ok: false,
      error: `“${text.trim()}” is not a number. Write it like −0.0125 or 0,0125.`,
    };
  if (step.action === "count") {
    const least = countsStill ? 0 : 1;
    if (!Number.isInteger(value) || value < least || value > 10_000)
      return {
        ok: false,
        error: `${text.trim()} steps cannot be: count whole steps, from ${least} to 10000.`,
      };
    return {
      ok: true,
      reading: {
        source: "typed",
        step: step.index,
        value,
        widthMm: resolutionMm,
        entered: text.trim(),
        spoilt,
      },
    };
  }
  const mm = toMm(value, unit);
  if (Math.abs(mm) > rangeMm) {
    return {
      ok: false,
      error: `${text.trim()} ${unit} cannot be: this indicator reaches over ${formatSize(rangeMm, unit === "mm" ? "metric" : "inch")}. Is the decimal point right?`,
    };
  }
  return {
    ok: true,
    reading: {
      source: "typed",
      step: step.index,
      value: mm,
      widthMm: resolutionMm,
      entered: `${text.trim()} ${unit}`,
      spoilt,
    },
  };
}

/** Divisions and a fraction of one, as read at a dial. */
export function dialEntry(
  divisionsText: string,
  {
    fraction,
    negative,
    step,
    divisionMm,
    rangeMm,
    spoilt,
  }: {
    readonly fraction: number;
    readonly negative: boolean;
    readonly step: TestStep;
    readonly divisionMm: number;
    readonly rangeMm: number;
    readonly spoilt: boolean;
  },
): Entry {
  const divisions = divisionsText.trim() === "" ? 0 : parseDecimal(divisionsText);
  if (divisions === undefined || !Number.isInteger(divisions) || divisions < 0) {
    return {
      ok: false,
      error: `“${divisionsText.trim()}” divisions cannot be: count whole divisions from zero, and choose the sign and the fraction beside it.`,
    };
  }
  const { valueMm, widthMm } = dialReading({ divisions, fraction, negative, divisionMm });
  if (Math.abs(valueMm) > rangeMm)
    return {
      ok: false,
      error: `${divisions} divisions cannot be: that is past the reach of this indicator.`,
    };
  const entered = `${negative ? "−" : "+"}${divisions} and ${fraction} div`;
  return {
    ok: true,
    reading: {
      source: "dial",
      step: step.index,
      value: valueMm,
      widthMm,
      entered,
      spoilt,
    },
  };
}

/** How a typed field is labelled for a step. */
export function entryLabel(step: TestStep, unit: "mm" | "in", countsStill = false): string {
  if (step.action === "count")
    return countsStill ? "Steps that did not move the needle" : "Steps until the needle moved";
  return `Reading, ${unit}`;
}

export function unitOf(system: UnitSystem): "mm" | "in" {
  return system === "metric" ? "mm" : "in";
}
