import { chiSquaredExceeded, sampleDeviation } from "../../quantity";

/**
 * What a reading scatters by when nobody has repeated it, mm: taken where every approach was made
 * once (common practice, no source). Machines in order repeat to one or two micrometres.
 */
export const USUAL_SCATTER_MM = 0.003;

/** Below this chance a group scatters by more than the others do; its own scatter counts then. */
const OWN_ALPHA = 0.01;

/** Standard deviation of one reading, with the degrees of freedom it is known by. */
export interface Scatter {
  readonly s: number;
  readonly dof: number;
}

/**
 * Scatter of one reading from groups of repeated ones: pooled over all groups of a test, since one
 * machine, one indicator and one person made them. A group that scatters significantly more than the
 * pool keeps its own (a stick-slip spot must not hide behind quiet places).
 * @param groups - repeated readings, mm; groups of one tell nothing
 * @returns for each group its scatter; `usual` where no group tells any
 * @example scatterOfGroups([[0.001, 0.003]]).of[0].s // 0.001414
 */
export function scatterOfGroups(groups: readonly (readonly number[])[]): {
  readonly of: readonly Scatter[];
  readonly usual: boolean;
} {
  const own = groups.map((g) => ({
    squares: g.length > 1 ? sampleDeviation(g) ** 2 * (g.length - 1) : 0,
    dof: Math.max(0, g.length - 1),
  }));
  const dof = own.reduce((sum, o) => sum + o.dof, 0);
  if (dof === 0)
    return {
      of: groups.map(() => ({ s: USUAL_SCATTER_MM, dof: Infinity })),
      usual: true,
    };
  const squares = own.reduce((sum, o) => sum + o.squares, 0);
  const repeated = own.filter((o) => o.dof > 0).length;
  const of = own.map((o): Scatter => {
    const others = dof - o.dof;
    const rest = squares - o.squares;
    if (o.dof > 1 && others > 0 && rest > 0) {
      const times = chiSquaredExceeded((o.squares * others) / rest, o.dof);
      if (times < OWN_ALPHA / repeated && others > 3 * o.dof) return { s: Math.sqrt(o.squares / o.dof), dof: o.dof };
    }
    return { s: Math.sqrt(squares / dof), dof };
  });
  return { of, usual: false };
}
