import * as fc from "fast-check";
import { centralAdvice } from "./central";
import type { Outlet } from "./outlet";
import { blockedPieces, isLineTree, lineTree, type LinePiece } from "./central-tree";

const names = ["left rail / front", "left rail / back", "right rail / front", "right rail / back", "nut"];
const states = (wet: readonly (boolean | null)[]): Outlet[] => names.map((name, i) => ({ name, wet: wet[i] ?? null }));

/** All pieces of a tree, and the places of the outlets that each feeds. */
function piecesOf(outlets: readonly string[]): { path: string; feeds: ReadonlySet<number> }[] {
  const all: { path: string; feeds: ReadonlySet<number> }[] = [];
  const walk = (piece: LinePiece): ReadonlySet<number> => {
    const feeds = new Set([
      ...(piece.outlet === null ? [] : [piece.outlet]),
      ...piece.children.flatMap((c) => [...walk(c)]),
    ]);
    all.push({ path: piece.path, feeds });
    return feeds;
  };
  lineTree(outlets).forEach(walk);
  return all;
}

/** Fewest pieces that, blocked, leave dry what is dry and wet what is wet: every set of them tried. */
function fewest(outlets: readonly Outlet[]): number {
  const pieces = piecesOf(outlets.map((o) => o.name));
  let best = Infinity;
  for (let set = 0; set < 2 ** pieces.length; set += 1) {
    const blocked = pieces.filter((_, i) => (set >> i) & 1);
    const dry = new Set(blocked.flatMap((b) => [...b.feeds]));
    if (outlets.every((o, i) => o.wet === null || o.wet === !dry.has(i))) best = Math.min(best, blocked.length);
  }
  return best;
}

describe("a central line as a tree", () => {
  it("is written outlet by outlet, from the pump outwards", () => {
    expect(isLineTree(names)).toBe(true);
    expect(isLineTree(["near", "far"])).toBe(false);
    const tree = lineTree(names);
    expect(tree.map((p) => [p.name, p.children.length])).toEqual([
      ["left rail", 2],
      ["right rail", 2],
      ["nut", 0],
    ]);
    expect(tree[1].children[1]).toMatchObject({ path: "right rail / back", outlet: 3 });
  });

  it("names the piece that dry outlets share with no wet one", () => {
    const branch = centralAdvice(states([false, false, true, true, true]));
    expect(branch.says).toBe("2 outlets dry, and everything wet hangs elsewhere: the line “left rail”.");
    const single = centralAdvice(states([false, true, true, true, true]));
    expect(single.says).toBe("Dry only at “left rail / front”: its doser or its own short line.");
    const open = centralAdvice(states([false, null, true, true, true]));
    expect(open.says).toContain("unless left rail / back is wet: look there first");
    expect(open.look[0]).toBe("left rail / back: wet or dry?");
    expect(centralAdvice(states([false, false, false, false, false])).says).toMatch(/the pump side/);
    expect(centralAdvice(states([true, true, true, true, true])).repair).toBe(false);
  });

  it("explains with as few pieces as trying every set of them does (brute force), on trees at random", () => {
    const outlet = fc.array(fc.constantFrom("a", "b"), { minLength: 1, maxLength: 3 }).map((p) => p.join(" / "));
    fc.assert(
      fc.property(
        fc.uniqueArray(outlet, { minLength: 2, maxLength: 6 }),
        fc.array(fc.constantFrom(true, false, null), { minLength: 6, maxLength: 6 }),
        (list, wet) => {
          // Outlets sit at the ends: one at a branching is written as an end of its own.
          const ends = list.filter((o) => !list.some((other) => other.startsWith(`${o} / `)));
          const outlets = ends.map((name, i) => ({ name, wet: wet[i] }));
          const found = blockedPieces(outlets);
          expect(found.length).toBe(fewest(outlets));
          const feeds = new Map(piecesOf(ends).map((p) => [p.path, p.feeds]));
          const dry = new Set(found.flatMap((b) => [...(feeds.get(b.piece.path) ?? [])]));
          outlets.forEach((o, i) => {
            if (o.wet !== null) expect(dry.has(i)).toBe(!o.wet);
          });
        },
      ),
      { numRuns: 400 },
    );
  });
});
