import { evenShare, ROUND_WEIGHTS, visitCost, type PlanDay, type VisitNeed } from "./rounds-state";

/**
 * The objective of the rounds as a mixed-integer programme in the LP file format, for an independent
 * solver; with `relaxed` its linear relaxation, whose optimum is a bound from below.
 */
export function asProgramme(visits: readonly VisitNeed[], days: readonly PlanDay[], relaxed = false): string {
  const w = ROUND_WEIGHTS;
  const open = (v: VisitNeed, d: number): boolean => days[d].minutes > 0 && !days[d].shut?.has(v.machine);
  const x: string[] = [];
  const terms: string[] = [];
  const rows: string[] = [];
  visits.forEach((v, i) => {
    const here = days.map((_, d) => d).filter((d) => open(v, d));
    rows.push(`a${i}: ${here.map((d) => `x${i}_${d}`).join(" + ")} = 1`);
    for (const d of here) {
      x.push(`x${i}_${d}`);
      terms.push(`${visitCost(v, d)} x${i}_${d}`);
      rows.push(`s${i}_${d}: x${i}_${d} - y${v.machine}_${d} <= 0`, `b${i}_${d}: x${i}_${d} - z${v.bay}_${d} <= 0`);
    }
  });
  const ys = new Set(visits.map((v) => v.machine));
  const zs = new Set(visits.map((v) => v.bay));
  const binaries = [...x];
  const mean = evenShare(visits, days);
  days.forEach((day, d) => {
    for (const m of ys) {
      terms.push(`${w.stop} y${m}_${d}`);
      binaries.push(`y${m}_${d}`);
    }
    for (const b of zs) {
      terms.push(`${w.bay} z${b}_${d}`);
      binaries.push(`z${b}_${d}`);
    }
    const load = visits
      .map((v, i) => (open(v, d) ? `${v.minutes} x${i}_${d}` : ""))
      .filter(Boolean)
      .join(" + ");
    terms.push(`${w.uneven} u${d}`, `${w.over} o${d}`);
    rows.push(`u${d}r: ${load} - u${d} <= ${mean}`, `o${d}r: ${load} - o${d} <= ${day.minutes}`);
  });
  return `Minimize\n obj: ${terms.join(" + ")}\nSubject To\n ${rows.join("\n ")}${relaxed ? `\nBounds\n ${binaries.map((b) => `0 <= ${b} <= 1`).join("\n ")}` : `\nBinary\n ${binaries.join(" ")}`}\nEnd`;
}

/** A drawn shop: visits to the points of some machines, the same every time. */
export function shop(machines: number, points: number, seed = 1): VisitNeed[] {
  let s = seed;
  const draw = (): number => (s = (s * 48271) % 2147483647) / 2147483647;
  return Array.from({ length: machines * points }, (_, i) => ({
    id: `v${i}`,
    machine: i % machines,
    bay: String((i % machines) % 3),
    minutes: 3 + Math.floor(6 * draw()),
    weight: 1 + Math.floor(3 * draw()),
    dueDay: -1 + 8 * draw(),
    intervalDays: 7 + 40 * draw(),
  }));
}

/** Days with as many minutes each. */
export const week = (n: number, minutes = 60): PlanDay[] => Array.from({ length: n }, () => ({ minutes }));
