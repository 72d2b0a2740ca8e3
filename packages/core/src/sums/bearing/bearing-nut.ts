import type { AxisConfig } from "../../machine/axis";
import { requireBound } from "../../quantity";

export interface LockNutThread {
  /** Nominal thread diameter, mm. */
  readonly diameterMm: number;
  readonly pitchMm: number;
  /** Friction in the thread and under the face; 0.12 to 0.18 dry to oiled (handbook range, from memory). */
  readonly threadFriction: number;
  readonly faceFriction: number;
  /** Mean radius of the face that rubs, mm. */
  readonly faceRadiusMm: number;
}

/**
 * Pitch diameter of a 60° thread: d − 0.6495·P (ISO 724).
 * @param diameterMm - outside diameter of the thread, mm
 * @param pitchMm - pitch, mm
 * @returns pitch diameter, mm
 * @example pitchDiameter(20, 1.5) // 19.026
 */
export function pitchDiameter(diameterMm: number, pitchMm: number): number {
  return diameterMm - 0.649519 * pitchMm;
}

function leverMm(nut: LockNutThread): number {
  requireBound({ "thread diameter": nut.diameterMm }, nut.diameterMm > 0, "above 0 mm");
  requireBound({ pitch: nut.pitchMm }, nut.pitchMm > 0, "above 0 mm");
  const d2 = pitchDiameter(nut.diameterMm, nut.pitchMm);
  const lead = Math.atan(nut.pitchMm / (Math.PI * d2));
  const rho = Math.atan(nut.threadFriction / Math.cos(Math.PI / 6));
  return (d2 / 2) * Math.tan(lead + rho) + nut.faceFriction * nut.faceRadiusMm;
}

/**
 * Clamp force of a bearing nut, N: F = T/(d₂/2·tan(λ + ρ′) + μ·r_m), ρ′ with the 30° flank
 * (bolt-torque formula as in VDI 2230, from memory).
 * @param nut - thread and friction of the nut
 * @param torqueNm - torque, N·m
 * @returns clamp force, N
 * @example clampForce({ diameterMm: 20, pitchMm: 1, threadFriction: 0.12, faceFriction: 0.12, faceRadiusMm: 12.5 }, 20) // 6659.5
 */
export function clampForce(nut: LockNutThread, torqueNm: number): number {
  requireBound({ torque: torqueNm }, torqueNm >= 0, "0 N·m or more");
  return (torqueNm * 1000) / leverMm(nut);
}

/**
 * The inverse of {@link clampForce}, N·m.
 * @param nut - thread and friction of the nut
 * @param forceN - clamp force, N
 * @returns torque, N·m
 * @example nutTorque({ diameterMm: 20, pitchMm: 1, threadFriction: 0.12, faceFriction: 0.12, faceRadiusMm: 12.5 }, 10_000) // 30.032
 */
export function nutTorque(nut: LockNutThread, forceN: number): number {
  return (forceN * leverMm(nut)) / 1000;
}

/**
 * Short form F = T/(K·d), K about 0.2 dry and 0.15 oiled (common practice, no source).
 * @param diameterMm - outside diameter of the thread, mm
 * @param torqueNm - torque, N·m
 * @param k - nut factor
 * @returns clamp force, N
 * @example clampForceShort(10, 40) // 20000
 */
export function clampForceShort(diameterMm: number, torqueNm: number, k = 0.2): number {
  requireBound({ K: k }, k > 0, "above 0");
  return (torqueNm * 1000) / (k * diameterMm);
}

/**
 * Drag torque, N·m, from the pull on a cord wound round a radius.
 * @param pullN - steady pull, N
 * @param radiusMm - radius the cord runs on, mm
 * @returns torque, N·m
 * @example cordDrag(10, 25) // 0.25
 */
export function cordDrag(pullN: number, radiusMm: number): number {
  requireBound({ radius: radiusMm }, radiusMm > 0, "above 0 mm");
  return (pullN * radiusMm) / 1000;
}

/** Bore of the end bearing over the screw’s nominal diameter, roughly (common practice, no source). */
const BORE = 0.78;
/** Starting torque of a matched pair over its bore, N·m/mm: see {@link usualSetDrag}. */
const PAIR_NM_PER_MM = 0.0088;
/** A set of three or four against a pair, with the preload that their maker grinds in. */
const SETS: Partial<Record<AxisConfig["bearings"], number>> = {
  "angular-pair": 1,
  "angular-triple": 1.36,
  "angular-quad": 2,
};
/** Sets of one make differ so much, with their seals and grease. */
const DRAG_SPREAD = 0.5;

/** Where the drag of a matched end-bearing set usually lies, N·m; the maker’s figure comes first. */
export interface DragWindow {
  readonly boreMm: number;
  readonly fromNm: number;
  readonly toNm: number;
}

/**
 * Usual drag torque of the end-bearing set of an axis at the preload ground into it. Catalogue starting
 * torques of screw-support bearings with a contact angle of 60°, from memory, are 0.14 N·m at 17 to
 * 20 mm bore, 0.23 at 25, 0.24 at 30, 0.28 to 0.49 at 40, 0.58 at 50; three carry 1.36 times and four
 * twice the preload of two.
 * @param axis - bearings and screw of the axis
 * @returns null for a set that is adjusted on site: its drag has no usual figure
 * @example usualSetDrag({ ...defaultAxis("vertical-centre", "X"), bearings: "plain-thrust" }) // null
 */
export function usualSetDrag(axis: Pick<AxisConfig, "bearings" | "screw">): DragWindow | null {
  const of = SETS[axis.bearings];
  if (of === undefined) return null;
  const boreMm = Math.max(6, Math.round(BORE * axis.screw.nominalMm));
  const middle = PAIR_NM_PER_MM * boreMm * of;
  return {
    boreMm,
    fromNm: (1 - DRAG_SPREAD) * middle,
    toNm: (1 + DRAG_SPREAD) * middle,
  };
}

/**
 * Preload drag of a ball nut, N·m: T_p = 0.05/√tan β·F_p·l/2π, tan β = l/(π·d)
 * (JIS B 1192, from memory).
 * @param options - preload, N, lead and ball circle, mm
 * @returns drag torque, N·m
 * @example nutPreloadDrag({ preloadN: 1000, leadMm: 10, ballCircleMm: 34 }) // 0.26008
 */
export function nutPreloadDrag(options: {
  readonly preloadN: number;
  readonly leadMm: number;
  readonly ballCircleMm: number;
}): number {
  const { preloadN, leadMm, ballCircleMm } = options;
  requireBound({ "ball circle": ballCircleMm }, ballCircleMm > 0, "above 0 mm");
  const tanBeta = leadMm / (Math.PI * ballCircleMm);
  return ((0.05 / Math.sqrt(tanBeta)) * preloadN * leadMm) / (2 * Math.PI) / 1000;
}

/** Which rings the clamping draws together: the inner ones back to back, the outer ones face to face. */
export type PairArrangement = "back-to-back" | "face-to-face";

export interface SpacerGrind {
  readonly ring: "inner" | "outer" | "none";
  readonly byMm: number;
}

/** A surface grinder and a micrometer see no less than half a micrometre (common practice, no source). */
const GRIND_LEAST = 0.0005;

/**
 * Which of two equal spacers is ground, and by how much, for a wanted preload. The gap is the one that
 * clamping closes, seen without load: between the inner rings of a pair back to back, between the outer
 * ones face to face. A wider gap, more preload, takes material off the spacer on that same side; a
 * narrower one takes it off the other spacer. What is ground off does not come back.
 * @param gapMm - gap as found, below 0 where the rings stand the other way (play)
 * @param wantedGapMm - gap for the wanted preload, mm
 * @param arrangement - back to back or face to face
 * @returns which spacer, and how much comes off, mm
 * @example spacerGrind(0.002, 0.006, "back-to-back") // { ring: "inner", byMm: 0.004 }
 */
export function spacerGrind(gapMm: number, wantedGapMm: number, arrangement: PairArrangement): SpacerGrind {
  const off = wantedGapMm - gapMm;
  if (Math.abs(off) < GRIND_LEAST) return { ring: "none", byMm: 0 };
  const [gapped, other] =
    arrangement === "back-to-back" ? (["inner", "outer"] as const) : (["outer", "inner"] as const);
  return off > 0 ? { ring: gapped, byMm: off } : { ring: other, byMm: -off };
}

/**
 * Make-up spacer of an older pattern: what is left between shoulder and nut side, mm.
 * @param depthMm - depth from shoulder to nut side, mm
 * @param bearingWidthsMm - widths of the bearings, mm
 * @returns width of the spacer, mm
 * @example makeUpSpacer(50, [15, 15]) // 20
 */
export function makeUpSpacer(depthMm: number, bearingWidthsMm: readonly number[]): number {
  const stack = bearingWidthsMm.reduce((a, b) => a + b, 0);
  requireBound({ "seat depth": depthMm }, depthMm > stack, `more than the bearings’ ${stack} mm`);
  return depthMm - stack;
}

/**
 * Grease fill of a bearing, g: G = 0.005·D·B (bearing handbooks).
 * @param outsideMm - outside diameter, mm
 * @param widthMm - width, mm
 * @returns grease, g
 * @example greaseFill(47, 15) // 3.525
 */
export function greaseFill(outsideMm: number, widthMm: number): number {
  return 0.005 * outsideMm * widthMm;
}
