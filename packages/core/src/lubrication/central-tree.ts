import type { CentralAdvice, Outlet } from "./outlet";

/** A piece of a central system’s line: what lies between one branching and the next, or a doser with its short line. */
export interface LinePiece {
  /** Own name: “left rail”, “front”. */
  readonly name: string;
  /** Names from the pump outwards: “left rail / front”. */
  readonly path: string;
  /** Place of its outlet in the list; null for a piece that branches. */
  readonly outlet: number | null;
  readonly children: readonly LinePiece[];
}

const SLASH = "/";
const partsOf = (outlet: string): string[] =>
  outlet
    .split(SLASH)
    .map((part) => part.trim())
    .filter(Boolean);
const join = (parts: readonly string[]): string => parts.join(` ${SLASH} `);

/**
 * Whether the outlets are written as a tree: “manifold / branch / outlet”.
 * @param outlets - their names
 * @returns true where one of them names the piece it hangs on
 * @example isLineTree(["left rail / front", "nut"]) // true
 */
export function isLineTree(outlets: readonly string[]): boolean {
  return outlets.some((o) => partsOf(o).length > 1);
}

/**
 * The line of a central system from its pump outwards.
 * @param outlets - names of its outlets, each with the pieces it hangs on before it, a slash between
 * @returns the pieces that begin at the pump, in the order they are named
 * @example lineTree(["left rail / front", "left rail / back", "nut"]).map((p) => p.name) // ["left rail", "nut"]
 */
export function lineTree(outlets: readonly string[]): readonly LinePiece[] {
  const grow = (items: readonly { readonly parts: readonly string[]; readonly at: number }[], before: string[]) => {
    const heads = [...new Set(items.map((i) => i.parts[0]))];
    return heads.map((name): LinePiece => {
      const own = items.filter((i) => i.parts[0] === name);
      const path = [...before, name];
      const end = own.find((i) => i.parts.length === 1);
      const further = own.filter((i) => i.parts.length > 1).map((i) => ({ ...i, parts: i.parts.slice(1) }));
      return { name, path: join(path), outlet: end?.at ?? null, children: grow(further, path) };
    });
  };
  return grow(
    outlets.map((o, at) => ({ parts: partsOf(o), at })).filter((i) => i.parts.length > 0),
    [],
  );
}

/** Pieces with everything that hangs on them. */
function outletsUnder(piece: LinePiece): readonly number[] {
  return [...(piece.outlet === null ? [] : [piece.outlet]), ...piece.children.flatMap(outletsUnder)];
}

/** A piece that would explain dry outlets: it feeds no outlet that is wet. */
export interface BlockedPiece {
  readonly piece: LinePiece;
  /** Outlets found dry that it feeds. */
  readonly dry: readonly string[];
  /** Others that it feeds and nobody looked at: wet, they clear it. */
  readonly unseen: readonly string[];
}

/**
 * The fewest pieces whose blocking explains what was found dry and leaves wet what is wet: of each dry outlet the
 * piece nearest to the pump that it shares with no wet one.
 * @param outlets - names and states of the outlets
 * @returns the pieces, as they are named; none where nothing is dry
 * @example
 * blockedPieces([{ name: "left / front", wet: false }, { name: "left / back", wet: false }, { name: "nut", wet: true }])
 *   .map((b) => b.piece.path) // ["left"]
 */
export function blockedPieces(outlets: readonly Outlet[]): readonly BlockedPiece[] {
  const found: BlockedPiece[] = [];
  const walk = (piece: LinePiece): void => {
    const under = outletsUnder(piece).map((i) => outlets[i]);
    const dry = under.filter((o) => o.wet === false);
    if (dry.length === 0) return;
    if (under.some((o) => o.wet === true)) piece.children.forEach(walk);
    else
      found.push({
        piece,
        dry: dry.map((o) => o.name),
        unseen: under.filter((o) => o.wet === null).map((o) => o.name),
      });
    // An outlet at a branching, dry before wet ones: its own doser.
    if (piece.outlet !== null && piece.children.length > 0 && under.some((o) => o.wet === true)) {
      const own = outlets[piece.outlet];
      if (own.wet === false) found.push({ piece: { ...piece, children: [] }, dry: [own.name], unseen: [] });
    }
  };
  lineTree(outlets.map((o) => o.name)).forEach(walk);
  return found;
}

/**
 * What wet and dry outlets of a branching line say.
 * @param outlets - the outlets, wet, dry or not looked at; some wet, some dry
 * @returns what it means, and where to look
 * @example treeAdvice([{ name: "left / front", wet: false }, { name: "nut", wet: true }]).repair // true
 */
export function treeAdvice(outlets: readonly Outlet[]): CentralAdvice {
  const blocked = blockedPieces(outlets);
  const says = blocked.map(({ piece, dry, unseen }) => {
    if (piece.children.length === 0) return `Dry only at “${piece.path}”: its doser or its own short line.`;
    const all = dry.length === 1 ? dry[0] : `${dry.length} outlets`;
    const or = unseen.length ? `, unless ${unseen.join(" or ")} is wet: look there first` : "";
    return `${all} dry, and everything wet hangs elsewhere: the line “${piece.path}”${or}.`;
  });
  const look = blocked.flatMap(({ piece, unseen }) => [
    ...unseen.map((name) => `${name}: wet or dry?`),
    piece.children.length === 0
      ? `doser of “${piece.path}”: failed or blocked; then its own short line`
      : `the line “${piece.path}”, from where it branches off to its first outlet: crushed, cut or blocked; weeping means the oil goes there`,
  ]);
  return { says: says.join(" "), look, repair: true };
}
