import type { AxisConfig, LinkId } from "../machine/axis";
import type { Ledger, LedgerLine } from "./ledger";
import { linkOfSlack, type MagnitudeKind } from "./slack";

/** What of the lost motion stands at one link of the chain, mm. */
export interface LinkShare {
  readonly link: LinkId;
  /** Null where it was not told apart: then only its bounds are known. */
  readonly shareMm: number | null;
  readonly expandedMm: number | null;
  /** From, and up to; null above where nothing bounds it. */
  readonly boundsMm: readonly [number, number | null];
  /** When somebody last measured it; null where nobody did. */
  readonly lookedAt: string | null;
}

/** A test that speaks for a line of the ledger, and when it was made. */
export interface MeasuredAt {
  readonly kind: MagnitudeKind;
  readonly at: string;
}

/**
 * The ledger by links of the chain, for the strip that shows the chain. What is computed and not measured (wind-up)
 * stands at no link. Where two lines belong to one link, as housing and bearings do, shares told apart add up and
 * their uncertainties add as independent ones do.
 *
 * @param axis - configuration
 * @param ledger - the reconciled sizes
 * @param measured - the tests it was made from, with their instants
 * @returns a share for each link that has a line, in order of the ledger
 * @example
 * const axis = defaultAxis("vertical-centre", "X");
 * const ledger = lossLedger(axis, [{ kind: "whole-chain", reversalValueMm: 0.02, uMm: 0.001 }]);
 * linkShares(axis, ledger, []).every((l) => l.lookedAt === null) // true
 */
export function linkShares(axis: AxisConfig, ledger: Ledger, measured: readonly MeasuredAt[]): readonly LinkShare[] {
  const shares = new Map<LinkId, LinkShare>();
  for (const line of ledger.lines) {
    for (const one of linksOf(axis, line)) addTo(shares, one, { line, measured });
  }
  return [...shares.values()];
}

/** The links that a line may stand at: none for what is computed. */
function linksOf(axis: AxisConfig, line: LedgerLine): { readonly link: LinkId; readonly alone: boolean }[] {
  if (line.computed) return [];
  // Wear of the screw is told with the nut that meets it.
  const slacks = line.slacks.filter((s) => !(s === "wear" && line.slacks.includes("nut")));
  const links = new Set(slacks.map((s) => linkOfSlack(axis, s)).filter((l) => l !== null));
  return [...links].map((link) => ({ link, alone: links.size === 1 }));
}

/** Adds a line to a link’s share. Of what two links lose together each may have all, or nothing. */
function addTo(
  shares: Map<LinkId, LinkShare>,
  { link, alone }: { readonly link: LinkId; readonly alone: boolean },
  { line, measured }: { readonly line: LedgerLine; readonly measured: readonly MeasuredAt[] },
): void {
  const instants = measured.filter((m) => line.from.includes(m.kind)).map((m) => m.at);
  const lookedAt = instants.length ? instants.reduce((a, b) => (a > b ? a : b)) : null;
  const before = shares.get(link);
  // Two lines of one link can lose both: what bounds the link is what bounds them together.
  const boundsMm = [alone ? line.boundsMm[0] : 0, line.boundsMm[1]];
  const [least, most] = [0, 1].map((i) => boundsMm[i] + (before ? (before.boundsMm[i] ?? Infinity) : 0));
  const told = alone ? { shareMm: line.shareMm, expandedMm: line.expandedMm } : { shareMm: null, expandedMm: null };
  shares.set(link, {
    link,
    ...(before ? together(before, told) : told),
    boundsMm: [least, Number.isFinite(most) ? most : null],
    lookedAt: lookedAt ?? before?.lookedAt ?? null,
  });
}

type Told = Pick<LinkShare, "shareMm" | "expandedMm">;

function together(a: Told, b: Told): Told {
  if (a.shareMm === null || b.shareMm === null)
    return { shareMm: b.shareMm ?? a.shareMm, expandedMm: b.expandedMm ?? a.expandedMm };
  return { shareMm: a.shareMm + b.shareMm, expandedMm: Math.hypot(a.expandedMm ?? 0, b.expandedMm ?? 0) };
}
