import type { AxisConfig } from "@iron/core";
import type { Condition } from "./condition";

/** What a fault comes of: moves how often it is met. */
export type Origin = "wear" | "work" | "crash" | "dirt" | "stop" | "parameter" | "fresh" | "moved" | "any";

export interface Fault {
  /** By the name the verdict would give it, for the score alone. */
  readonly id: string;
  readonly often: number;
  readonly of: readonly Origin[];
  readonly on: (axis: AxisConfig) => boolean;
  /** Makes the parts what they are with it: `s` from just there (0) to failed (1), `u` chance for the rest. */
  readonly worse: (c: Condition, s: number, u: () => number) => void;
}

/** From least to most, evenly by ratio: play grows as it grows. */
const grown = (least: number, most: number, s: number): number => least * (most / least) ** s;
const always = (): boolean => true;
const rack = (a: AxisConfig): boolean => a.transmission === "rack";
const screw = (a: AxisConfig): boolean => !rack(a);
const turning = (a: AxisConfig): boolean => screw(a) && a.transmission !== "rotating-nut";
const direct = (a: AxisConfig): boolean => a.transmission === "direct" || a.transmission === "plain-screw";
const balls = (a: AxisConfig): boolean => screw(a) && a.transmission !== "plain-screw";
const falls = (a: AxisConfig): boolean => a.orientation !== "horizontal";
const gibs = (a: AxisConfig): boolean => a.guideway === "box" || a.guideway === "dovetail";

export const FAULTS: readonly Fault[] = [
  { id: "control-override", often: 3, of: ["any"], on: always, worse: (c, _, u) => Object.assign(c, { override: 1, inProgram: u() < 0.4 ? 1 : 0 }) },
  { id: "control-interlock", often: 2, of: ["parameter"], on: always, worse: (c) => (c.interlock = 1) },
  { id: "control-waiting", often: 2, of: ["any"], on: always, worse: (c) => (c.waiting = 1) },
  { id: "control-comp", often: 1.5, of: ["parameter"], on: always, worse: (c, s, u) => (c.enteredUm = (u() < 0.6 ? 1 : -1) * grown(6, 50, s)) },
  { id: "normal-regen", often: 1, of: ["any"], on: falls, worse: (c) => (c.regen = 1) },
  { id: "normal-dragbrake", often: 1, of: ["any"], on: (a) => falls(a) && a.dragBrake, worse: (c, s) => (c.oneWayDrag = grown(0.5, 1.5, s)) },
  { id: "normal-running-in", often: 1, of: ["fresh"], on: always, worse: (c, s) => Object.assign(c, { fresh: grown(0.5, 1, s), nutDrag: 0.2 }) },
  { id: "refer-spindle-sensor", often: 1, of: ["any"], on: always, worse: (c, s) => (c.spindleWheel = grown(0.5, 1, s)) },
  { id: "motor-bearing", often: 1, of: ["wear"], on: always, worse: (c, s) => Object.assign(c, { motorRough: grown(0.25, 1, s), motorDrag: 0.25 * s }) },
  { id: "brake-drags", often: 1.5, of: ["stop"], on: (a) => a.brake, worse: (c, s) => (c.motorDrag = grown(0.5, 2.5, s)) },
  { id: "stepper-stall", often: 2, of: ["parameter"], on: (a) => a.feedback === "open-loop", worse: (c, s) => (c.stall = grown(0.3, 1, s)) },
  { id: "coupling-screw", often: 4, of: ["work", "crash"], on: direct, worse: (c, s, u) => { c.couplingScrews = grown(0.3, 1, u()); c.couplingUm += grown(5, 300, s); } },
  { id: "coupling-insert", often: 3, of: ["wear"], on: (a) => direct(a) && a.coupling === "insert", worse: (c, s) => { c.giveUm += grown(5, 80, s); c.couplingUm += 0.2 * grown(5, 80, s); } },
  { id: "coupling-eccentric", often: 1, of: ["work"], on: direct, worse: (c, s) => Object.assign(c, { turnDrag: grown(0.3, 1.4, s), bearingDrag: 0.15 }) },
  { id: "belt-slack", often: 3, of: ["wear"], on: (a) => a.transmission === "belt" || a.transmission === "rotating-nut", worse: (c, s) => { c.giveUm += grown(6, 110, s); c.stall = Math.max(c.stall, 0.25 * s); } },
  { id: "retainer-loose", often: 4, of: ["work", "crash"], on: screw, worse: (c, s, u) => { c.retainerScrews = grown(0.35, 1, u()); c.bearingUm += grown(5, 110, s); c.preload = -0.4 - 0.6 * s; } },
  { id: "nut-preload-lost", often: 3, of: ["work", "wear"], on: turning, worse: (c, s) => { c.bearingUm += grown(3, 60, s); c.preload = -0.5 - 0.5 * s; } },
  { id: "end-bearing-worn", often: 5, of: ["wear", "crash"], on: screw, worse: (c, s) => { c.bearingRough = grown(0.3, 1, s); c.bearingUm += grown(3, 60, s); c.preload = -0.7 * s; } },
  { id: "end-bearing-overtight", often: 2, of: ["work", "fresh"], on: turning, worse: (c, s) => { c.preload = grown(0.35, 1.2, s); c.bearingDrag += 0.5 * c.preload; c.bearingUm *= 0.4; } },
  { id: "housing-loose", often: 2, of: ["work", "crash"], on: turning, worse: (c, s, u) => { c.housingScrews = grown(0.35, 1, u()); c.housingUm += grown(5, 80, s); } },
  { id: "support-bearing", often: 1.5, of: ["wear"], on: (a) => turning(a) && a.transmission !== "plain-screw" && a.screw.fixings !== "fixed-free", worse: (c, s) => Object.assign(c, { farRough: grown(0.25, 1, s), farUm: grown(25, 200, s) }) },
  { id: "screw-worn-middle", often: 2, of: ["wear", "dirt"], on: screw, worse: (c, s) => (c.wearUm = grown(5, 60, s)) },
  { id: "screw-bent", often: 1, of: ["crash"], on: screw, worse: (c, s) => Object.assign(c, { bendUm: grown(30, 250, s), turnDrag: grown(0.2, 1.2, s) }) },
  { id: "screw-misaligned", often: 4, of: ["work", "moved", "crash"], on: turning, worse: (c, s) => Object.assign(c, { slopeUm: grown(40, 350, s), endDrag: grown(0.3, 1.8, s), bearingDrag: c.bearingDrag + 0.15 * s }) },
  { id: "nut-worn", often: 3, of: ["wear", "dirt"], on: balls, worse: (c, s) => (c.nutUm += grown(6, 80, s)) },
  { id: "nut-dirty", often: 2, of: ["dirt", "stop"], on: balls, worse: (c, s) => { c.grit = grown(0.25, 1, s); c.nutDrag += 0.4 * s; } },
  { id: "nut-returns", often: 1, of: ["crash", "wear"], on: (a) => balls(a) && a.transmission !== "rotating-nut" && a.nut.startsWith("single"), worse: (c, s) => (c.ballReturns = grown(0.35, 1, s)) },
  { id: "bracket-loose", often: 2, of: ["work", "crash"], on: turning, worse: (c, s, u) => { c.bracketScrews = grown(0.35, 1, u()); c.bracketUm += grown(8, 300, s); } },
  { id: "antibacklash-tight", often: 2, of: ["work"], on: (a) => a.transmission === "plain-screw", worse: (c, s) => { c.nutDrag += grown(0.5, 2, s); c.nutUm *= 0.3; } },
  { id: "antibacklash-worn", often: 3, of: ["wear"], on: (a) => a.transmission === "plain-screw", worse: (c, s) => (c.nutUm += grown(35, 220, s)) },
  { id: "rack-spot", often: 3, of: ["dirt", "crash"], on: rack, worse: (c, s) => (c.spotDrag = grown(0.4, 2, s)) },
  { id: "pinion-loose", often: 3, of: ["work", "crash"], on: rack, worse: (c, s, u) => { c.pinionScrews = grown(0.35, 1, u()); c.couplingUm += grown(20, 500, s); } },
  { id: "pinion-worn", often: 2, of: ["wear", "dirt"], on: rack, worse: (c, s) => (c.meshUm += grown(40, 300, s)) },
  { id: "gib-tight", often: 3, of: ["work", "moved"], on: gibs, worse: (c, s) => { c.wayDrag *= 1 + grown(0.5, 2.5, s); c.rockMm *= 0.3; } },
  { id: "gib-loose", often: 2, of: ["wear", "work"], on: gibs, worse: (c, s) => (c.rockMm = grown(0.022, 0.15, s)) },
  { id: "way-dry", often: 4, of: ["stop", "any"], on: always, worse: (c, s) => { c.dry = grown(0.4, 1, s); c.wayDrag *= 1 + grown(0.15, 1.6, s); } },
  { id: "carriage-failed", often: 2, of: ["wear", "dirt", "crash"], on: (a) => a.guideway === "rail", worse: (c, s) => { c.carriage = grown(0.3, 1, s); c.spotDrag += 0.5 * s; c.stall = Math.max(c.stall, 0.3 * s); } },
  { id: "wheel-tight", often: 3, of: ["work"], on: (a) => a.guideway === "v-wheel", worse: (c, s) => { c.wheel = grown(0.4, 1, s); c.wayDrag *= 1 + grown(0.3, 2, s); } },
  { id: "wheel-loose", often: 2, of: ["wear", "work"], on: (a) => a.guideway === "v-wheel", worse: (c, s) => { c.wheel = -grown(0.4, 1, s); c.rockMm = grown(0.03, 0.4, s); } },
  { id: "cage-crept", often: 2, of: ["any"], on: (a) => a.guideway === "ball-cage" || a.guideway === "crossed-roller", worse: (c, s) => (c.cageMm = grown(2, 40, s)) },
  { id: "counterweight-out", often: 2, of: ["wear", "work"], on: (a) => falls(a) && (a.counterweight || a.gasSpring), worse: (c, s) => { c.balance = grown(0.3, 1.2, s); c.oneWayDrag = Math.max(c.oneWayDrag, 0.8 * c.balance); } },
  { id: "chips-in-way", often: 3, of: ["dirt"], on: always, worse: (c, s) => { c.spotDrag = Math.max(c.spotDrag, grown(0.35, 1.8, s)); c.grit = Math.max(c.grit, 0.3 * s); } },
  { id: "home-switch", often: 2, of: ["dirt", "stop"], on: always, worse: (c, s) => (c.homeUm = grown(8, 300, s)) },
  { id: "home-marker-near", often: 1, of: ["work"], on: (a) => a.motor === "servo", worse: (c) => (c.homeTurn = 1) },
  { id: "tram-out", often: 2, of: ["crash", "moved"], on: (a) => a.member === "head" || a.member === "quill", worse: (c, s) => (c.tram = grown(0.4, 1.5, s)) },
  { id: "scale-head", often: 2, of: ["dirt"], on: (a) => a.feedback === "scale", worse: (c, s) => (c.scaleDirt = grown(0.35, 1, s)) },
]; // prettier-ignore
