import { defaultAxis, isGravityAxis, type AxisConfig } from "../axis";
import { fastenersOf } from "./fasteners";
import { lifting, memberMass, motorMass, screwMass } from "./masses";
import { TORQUES_NM } from "./torques.table";

const z = defaultAxis("vertical-centre", "Z");
const heavy: AxisConfig = {
  ...z,
  counterweight: true,
  screw: { ...z.screw, nominalMm: 40, rootMm: 36 },
};

describe("weights and torques", () => {
  it("a bar of steel weighs what steel tables say", () => {
    // Round steel bar 40 mm: 9.86 kg/m (section tables, 7.85 kg/dm³, from memory).
    const bar = {
      ...z,
      screw: { ...z.screw, nominalMm: 40, rootMm: 40, freeLengthMm: 1000 },
    };
    const longer = { ...bar, screw: { ...bar.screw, freeLengthMm: 2000 } };
    expect((screwMass(longer) - screwMass(bar)) / 1.1).toBeCloseTo(9.86, 1);
  });

  it("people and gear follow weight; a noted weight is believed, a usual one says so", () => {
    expect(memberMass(heavy)).toEqual({ kg: 450, noted: false });
    expect(
      memberMass({
        ...heavy,
        mechanics: { ...heavy.mechanics, memberKg: 512 },
      }),
    ).toEqual({ kg: 512, noted: true });
    expect(motorMass(heavy).kg).toBeGreaterThan(20);
    expect([3, 12, 13, 40].map((kg) => lifting(kg))).toEqual([
      { people: 1, gear: false },
      { people: 1, gear: false },
      { people: 2, gear: false },
      { people: 2, gear: true },
    ]);
  });

  it("carries the torques of VDI 2230: its own formula from thread and proof stress comes to the table", () => {
    // VDI 2230 part 1: M_A = F_M (0.16 P + 0.58 d2 µ + D_Km/2 µ), F_M = 0.9 R_p A_0/√(1 + 3 (1.5 d2/d0 (P/(π d2) + 1.155 µ))²). From memory.
    const threads: [string, number, number, number][] = [
      ["M6", 6, 1, 10],
      ["M8", 8, 1.25, 13],
      ["M10", 10, 1.5, 16],
      ["M12", 12, 1.75, 18],
    ];
    const proof: Record<string, number> = {
      "8.8": 640,
      "10.9": 940,
      "12.9": 1100,
    };
    for (const [name, d, pitch, head] of threads)
      for (const grade of ["8.8", "10.9", "12.9"]) {
        const [d2, d3, mu] = [d - 0.6495 * pitch, d - 1.2269 * pitch, 0.12];
        const ds = (d2 + d3) / 2;
        const area = (Math.PI / 4) * ds * ds;
        const shear = 1.5 * (d2 / ds) * (pitch / (Math.PI * d2) + 1.155 * mu);
        const force = (0.9 * proof[grade] * area) / Math.sqrt(1 + 3 * shear * shear);
        const hole = { 6: 6.6, 8: 9, 10: 11, 12: 13.5 }[d] ?? d;
        const torque = (force * (0.16 * pitch + 0.58 * d2 * mu + ((head + hole) / 4) * mu)) / 1000;
        const table = TORQUES_NM[name][grade];
        // 8.8 has 640 N/mm² up to M16.
        expect([name, grade, Math.abs(torque / table - 1) < 0.06]).toEqual([name, grade, true]);
      }
  });

  it("every fastener is its own: name, count, torque and whose word it is", () => {
    const own = {
      ...z,
      mechanics: {
        ...z.mechanics,
        fasteners: {
          housing: {
            thread: "M10",
            grade: "12.9",
            count: 6,
            torqueNm: 75,
            source: "book" as const,
          },
        },
      },
    };
    const housing = fastenersOf(own).find((f) => f.joint === "housing");
    expect(housing).toMatchObject({
      thread: "M10",
      count: 6,
      torqueNm: 75,
      source: "book",
    });
    expect(fastenersOf(z).find((f) => f.joint === "hub-screw")?.torqueNm).toBeNull();
    const engraver = fastenersOf(defaultAxis("engraver", "X"));
    expect(engraver.filter((f) => f.source === "table")).toEqual([]);
    expect(isGravityAxis(z)).toBe(true);
  });
});
