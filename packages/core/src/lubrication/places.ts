import type { FoundState } from "./types";

/** One of several places of a point, as it was found and what it was given. */
export interface PlaceFound {
  readonly name: string;
  readonly found: FoundState;
  /** In the unit of the point’s dose. */
  readonly dose: number;
}

/** The worst first: what gets nothing is lost before what got too much (common practice, no source). */
const WORST: readonly FoundState[] = ["blocked", "dry", "dirty", "flooded", "right"];

/**
 * What several places make of their point: it is as good as its worst, since each carries for itself.
 * @param found - states of the places
 * @returns the worst of them; null for none
 * @example worstFound(["right", "dry", "right"]) // "dry"
 */
export function worstFound(found: readonly FoundState[]): FoundState | null {
  return WORST.find((state) => found.includes(state)) ?? null;
}

/** What of a place was said; null where it is as the others are, or got its share. */
export interface PlaceSaid {
  readonly found: FoundState | null;
  readonly dose: number | null;
}

/** Nothing is pressed into what is full or lets nothing through. */
export const isGivenTo = (found: FoundState): boolean => found !== "flooded" && found !== "blocked";

/**
 * All places of a point, from the few of which something was said: the others are as the key says, and each that can
 * take it gets its share of the dose.
 * @param names - the places
 * @param options - what was said of each, how the others were found, and the dose of the whole point
 * @returns the places, and what they were given together
 * @example
 * placesFound(["front", "back"], { said: [{ found: "dry", dose: 2 }], others: "right", dose: 2 }).dose // 3
 */
export function placesFound(
  names: readonly string[],
  {
    said,
    others,
    dose,
  }: { readonly said: readonly (PlaceSaid | undefined)[]; readonly others: FoundState; readonly dose: number },
): { readonly places: readonly PlaceFound[]; readonly found: FoundState; readonly dose: number } {
  const share = dose / names.length;
  const places = names.map((name, i): PlaceFound => {
    const found = said[i]?.found ?? others;
    return { name, found, dose: said[i]?.dose ?? (isGivenTo(found) ? share : 0) };
  });
  return {
    places,
    found: worstFound(places.map((p) => p.found)) ?? others,
    dose: places.reduce((s, p) => s + p.dose, 0),
  };
}

/**
 * Places that are not right, in words.
 * @param places - the places
 * @returns like “carriage 2 dry, carriage 4 flooded”; empty where all are right
 * @example placesText([{ name: "carriage 2", found: "dry", dose: 1 }]) // "carriage 2 dry"
 */
export function placesText(places: readonly PlaceFound[]): string {
  return places
    .filter((p) => p.found !== "right")
    .map((p) => `${p.name} ${p.found}`)
    .join(", ");
}
