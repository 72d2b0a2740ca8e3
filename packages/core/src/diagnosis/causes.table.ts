import type { Cause, CauseLink, CostClass, Fitting, Level, Remedy, SlackId } from "./knowledge";
import type { FindingId } from "../measure/findings";

const SHIPPED = "common practice, no source";
const SCREW: Fitting[] = [{ transmission: ["direct", "belt", "rotating-nut", "plain-screw"] }];
const BALL: Fitting[] = [{ transmission: ["direct", "belt", "rotating-nut"] }];
const TURNING: Fitting[] = [{ transmission: ["direct", "belt", "plain-screw"] }];
const DIRECT: Fitting[] = [{ transmission: ["direct", "plain-screw"] }];
const TURNING_NUT: Fitting[] = [{ transmission: ["rotating-nut"] }];
const PLAIN: Fitting[] = [{ transmission: ["plain-screw"] }];
const RACK: Fitting[] = [{ transmission: ["rack"] }];

type Shows = Partial<Record<FindingId, Level>>;
type Share = readonly [slack: SlackId, least: number, most: number];

function cause(
  id: string, name: string, link: CauseLink, fits: readonly Fitting[], prior: number,
  share: Share | null, shows: Shows,
  remedy: readonly [text: string, minutes: number, costClass: CostClass, kind: Remedy["kind"]],
  more: Partial<Pick<Cause, "normal" | "beside" | "provenBy" | "provenance">> & { bothWays?: boolean } = {},
): Cause {
  const { bothWays, ...rest } = more;
  const [text, minutes, costClass, kind] = remedy;
  return {
    id, name, link, fits, prior, shows,
    share: share ? { slack: share[0], um: [share[1], share[2]], bothWays } : null,
    remedy: { text, minutes, costClass, kind },
    provenance: SHIPPED,
    ...rest,
  };
} // prettier-ignore

/** Causes outside the chain, at the control and the motor, and in the drive up to the bearings. */
const FRONT: readonly Cause[] = [
  cause('control-override', 'Override at zero', 'none', [], 3, null, { 'no-motion': '+', 'stops-in-program': '±', 'override-zero': '++' }, ['turn it up, guard closed and hands out: the axis moves at once', 2, 0, 'set']),
  cause('control-interlock', 'Interlock or enable missing', 'none', [], 2, null, { 'no-motion': '++', 'listed-interlock': '++' }, ['find who holds the signal, by the builder’s list', 30, 0, 'set']),
  cause('control-waiting', 'Program waits', 'none', [], 2, null, { 'stops-in-program': '++', 'listed-waiting': '++' }, ['read the control’s own list of what it waits for', 5, 0, 'set']),
  cause('control-comp', 'Wrong compensation entered', 'none', [], 1.5, ['entered', 6, 50], { 'comp-differs': '++', hunting: '±' }, ['set it from a test, retest at the same place', 20, 0, 'set'], { bothWays: true }),
  cause('travel-scale', 'Travel per command set wrong', 'none', [], 1, null, { 'travel-wrong': '++' }, ['find what is wrong of steps, lead and scale factor; set it from a measured travel', 30, 0, 'set']),
  cause('refer-display', 'Display or its supply failed', 'none', [], 0.6, null, { 'display-dead': '++' }, ['refer it on: screen or its supply, no axis matter', 5, 0, 'refer']),
  cause('normal-regen', 'Supply handles regenerated energy', 'none', [{ gravity: true }], 2, null, { 'click-descent': '++' }, ['nothing: this is normal', 0, 0, 'none'], { normal: true, beside: 0.1 }),
  cause('normal-dragbrake', 'Drag brake does its job', 'none', [{ gravity: true }], 2, null, { 'tight-one-way': '++', 'dragbrake-fitted': '++' }, ['nothing: this is normal', 0, 0, 'none'], { normal: true, beside: 0.3 }),
  cause('normal-running-in', 'Fresh parts still settle', 'none', [], 1, null, { spikes: '++' }, ['nothing: look again in a month, do not tune it away', 0, 0, 'none'], { normal: true, beside: 0.02 }),
  cause('refer-spindle-sensor', 'Speed-sensing wheel on the spindle', 'none', [], 1, null, { 'grind-still': '++' }, ['refer it on: not an axis matter', 5, 0, 'refer']),
  cause('motor-bearing', 'Motor bearing', 'motor', [], 1, null, { rumble: '++', 'motor-noise': '++', chatter: '±' }, ['motor service', 240, 3, 'replace']),
  cause('brake-drags', 'Brake does not release fully', 'motor', [{ brake: [true] }], 1, null, { 'tight-all': '+', 'motor-heavy': '++', stalls: '+' }, ['brake supply first, then the brake', 120, 2, 'adjust']),
  cause('stepper-stall', 'Motor stalls, open loop', 'motor', [{ feedback: ['open-loop'] }], 2, null, { 'lost-steps': '++', stalls: '+', wanders: '+' }, ['ease friction first, then lower the acceleration', 30, 0, 'adjust']),
  cause('coupling-screw', 'Coupling clamp screw loose', 'coupling', DIRECT, 4, ['coupling', 6, 300], { 'coupling-turns': '++', 'marks-off': '+', knock: '+', wanders: '+', hunting: '±' }, ['tighten to torque, never strip, mark it', 15, 0, 'tighten']),
  cause('coupling-insert', 'Coupling insert worn', 'coupling', [{ transmission: ['direct', 'plain-screw'], coupling: ['insert'] }], 3, ['coupling', 5, 80], { springy: '++', 'insert-broken': '++', knock: '±' }, ['new insert', 60, 1, 'replace']),
  cause('coupling-eccentric', 'Coupling off centre or jammed endwise', 'coupling', DIRECT, 1, null, { 'tight-turn': '++', 'hot-end': '±' }, ['set it again with its gap', 45, 0, 'adjust']),
  cause('belt-slack', 'Belt slack or worn', 'coupling', [{ transmission: ['belt', 'rotating-nut'] }], 3, ['coupling', 5, 100], { springy: '++', 'belt-frayed': '+', knock: '±', hunting: '±', 'lost-steps': '±' }, ['tension it by its frequency, or renew it', 30, 1, 'adjust']),
  cause('retainer-loose', 'Bearing retainer or nut loose', 'end-bearings', SCREW, 5, ['bearings', 5, 100], { 'retainer-turns': '++', rumble: '+', knock: '+', 'coasts-free': '+' }, ['tighten the retainer and retest', 30, 0, 'tighten']),
  cause('nut-preload-lost', 'Bearing nut backed off', 'end-bearings', TURNING, 3, ['bearings', 3, 60], { 'coasts-free': '++', rumble: '±', knock: '±' }, ['set the bearing-nut preload again', 60, 0, 'adjust']),
  cause('end-bearing-worn', 'End bearings worn', 'end-bearings', SCREW, 6, ['bearings', 5, 60], { rumble: '++', 'rough-finger': '++', 'coasts-free': '+', knock: '±', chatter: '±' }, ['new bearing set', 240, 2, 'replace']),
  cause('end-bearing-overtight', 'End bearings preloaded too hard', 'end-bearings', TURNING, 2, null, { 'hot-end': '++', 'coast-stuck': '++', 'tight-all': '+', rumble: '±', stalls: '±' }, ['ease the bearing nut', 45, 0, 'adjust']),
  cause('housing-loose', 'Bearing housing moves on its casting', 'end-bearings', TURNING, 2, ['housing', 5, 80], { 'housing-turns': '++', knock: '+' }, ['tighten and pin the housing', 30, 0, 'tighten']),
]; // prettier-ignore

/** Causes at screw, nut, bracket and rack. */
const SCREW_AND_NUT: readonly Cause[] = [
  cause('support-bearing', 'Support-end bearing worn', 'screw', [{ transmission: ['direct', 'belt'] }], 1.5, null, { rumble: '+', 'far-play': '++' }, ['new support bearing', 120, 1, 'replace']),
  cause('screw-worn-middle', 'Screw worn where it works most', 'screw', SCREW, 2, ['wear', 5, 60], { 'profile-middle': '++', 'flank-middle': '++', howl: '+' }, ['use other travel, compensate, or a new screw', 480, 3, 'replace'], { provenBy: ['profile-middle', 'flank-middle', 'howl', 'nut-flank'] }),
  cause('screw-bent', 'Bent screw or journal', 'screw', SCREW, 1, null, { 'tight-turn': '++', 'crest-turn': '++', 'end-walks': '±', chatter: '±' }, ['new screw', 480, 3, 'replace'], { provenBy: ['crest-turn'] }),
  cause('screw-misaligned', 'Screw not parallel to the ways', 'screw', TURNING, 4, null, { 'tight-end': '++', 'crest-slope': '++', 'end-walks': '+', 'hot-end': '±', stalls: '±' }, ['align housing, nut and support', 90, 0, 'adjust']),
  cause('nut-worn', 'Nut worn', 'nut', BALL, 3, ['nut', 6, 80], { 'back-drives': '++', howl: '+', 'balls-out': '±', knock: '±' }, ['rebuild, rebalance or replace by screw class', 360, 3, 'replace'], { provenBy: ['back-drives', 'howl', 'nut-flank'] }),
  cause('nut-clearance', 'Clearance that a single nut has from new', 'nut', [{ nut: ['single-clearance'], transmission: ['direct', 'belt'] }], 3, ['nut', 2, 13], {}, ['nothing, or compensate within the limits', 10, 0, 'none'], { normal: true }),
  cause('nut-dirty', 'Dirt in the nut', 'nut', BALL, 2, null, { grit: '++', 'nut-gritty': '++', 'wiper-torn': '±', 'tight-spot': '±' }, ['flush or rebuild, by screw class; renew the wipers', 120, 1, 'clean']),
  cause('nut-returns', 'Ball returns loose', 'nut', [{ transmission: ['direct', 'belt'], nut: ['single-clearance', 'single-preloaded'] }], 1, null, { rattle: '++', 'balls-out': '±' }, ['live with it, or replace the nut', 300, 2, 'replace']),
  cause('bracket-loose', 'Nut bracket screws loose', 'bracket', TURNING, 2, ['bracket', 10, 300], { 'bracket-turns': '++', knock: '+', wanders: '±' }, ['tighten, then float the bracket into line', 60, 0, 'tighten']),
  cause('flange-loose', 'Flange of the turning nut loose', 'nut', TURNING_NUT, 2, ['nut', 10, 200], { 'flange-turns': '++', knock: '+' }, ['tighten the flange crosswise, mark it', 30, 0, 'tighten']),
  cause('screw-clamp-loose', 'Clamp of the standing screw loose', 'screw', TURNING_NUT, 2, ['housing', 10, 300], { 'clamp-turns': '++', knock: '+' }, ['tighten the clamp, mark it', 30, 0, 'tighten']),
  cause('antibacklash-tight', 'Anti-backlash nut too tight', 'nut', PLAIN, 2, null, { 'tight-all': '++', stalls: '+' }, ['until it just touches, then lock it', 15, 0, 'adjust']),
  cause('antibacklash-worn', 'Anti-backlash nut worn', 'nut', PLAIN, 3, ['nut', 40, 200], { knock: '±', howl: '±' }, ['adjust or renew the nut', 30, 1, 'adjust']),
  cause('rack-spot', 'High spot or chips in the rack', 'transmission', RACK, 3, null, { 'tight-spot': '++' }, ['clean, reset the rack there', 40, 0, 'adjust']),
  cause('pinion-loose', 'Pinion set screws loose', 'transmission', RACK, 3, ['coupling', 20, 500], { 'pinion-turns': '++', 'marks-off': '+', wanders: '+', knock: '+' }, ['tighten on the flat, mark it', 20, 0, 'tighten']),
  cause('racks-out-of-step', 'Racks of the gantry out of step', 'transmission', [{ transmission: ["rack"], member: ["gantry"] }], 1.5, null, { 'racks-out': '++', 'tight-all': '±', stalls: '±' }, ['free one side, square the gantry, mesh it again', 60, 0, 'adjust']),
  cause('pinion-worn', 'Pinion or rack worn', 'transmission', RACK, 2, ['mesh', 40, 300], { chatter: '±' }, ['new pinion, set the mesh', 90, 1, 'replace']),
]; // prettier-ignore

const GIB: Fitting[] = [{ guideway: ["box", "dovetail"] }];
const WHEEL: Fitting[] = [{ guideway: ["v-wheel"] }];

/** Causes at the guideway, and what is referred on. */
const WAY_AND_BEYOND: readonly Cause[] = [
  cause('gib-tight', 'Gib or way preload too tight', 'way', GIB, 3, ['windup', 2, 10], { 'tight-all': '++', stalls: '+', groan: '±' }, ['set the gib by its friction knee', 45, 0, 'adjust']),
  cause('gib-loose', 'Gib or way clearance', 'way', GIB, 2, null, { rocks: '++', chatter: '+' }, ['set the gib', 45, 0, 'adjust']),
  cause('way-dry', 'Lack of lubrication', 'way', [], 4, ['windup', 1, 8], { dry: '++', groan: '++', 'tight-all': '+', stalls: '±' }, ['lubricate, find why it was dry', 30, 0, 'clean']),
  cause('carriage-failed', 'Rail carriage destroyed', 'way', [{ guideway: ['rail'] }], 2, null, { 'carriage-broken': '++', 'carriage-click': '±', rocks: '±', 'tight-spot': '±', 'lost-steps': '±' }, ['carriages one at a time', 240, 2, 'replace']),
  cause('wheel-tight', 'V-wheels too tight or a bearing pinched', 'way', WHEEL, 3, null, { 'wheel-stuck': '++', 'tight-all': '+', stalls: '±' }, ['ease the eccentric spacer', 20, 0, 'adjust']),
  cause('wheel-loose', 'V-wheel not in contact', 'way', WHEEL, 2, null, { 'wheel-free': '++', rocks: '++', chatter: '+' }, ['turn the spacer until it touches', 20, 0, 'adjust']),
  cause('cage-crept', 'Ball or roller cage out of place', 'way', [{ guideway: ['ball-cage', 'crossed-roller'] }], 2, null, { 'short-travel': '++' }, ['recentre the cage', 45, 0, 'adjust']),
  cause('counterweight-out', 'Counterweight, spring or air balance wrong', 'way', [{ gravity: true, counterweight: [true] }, { gravity: true, gasSpring: [true] }], 2, null, { 'gravity-off': '++', 'tight-one-way': '+', stalls: '±' }, ['restore the balance', 60, 1, 'adjust']),
  cause('chips-in-way', 'Chips or hardened grease at a spot', 'way', [], 3, null, { 'tight-spot': '++', grit: '±', 'wiper-torn': '+' }, ['clean, renew the wipers', 30, 1, 'clean']),
  cause('home-switch', 'Home switch or its cable failing', 'none', [], 2, null, { 'home-varies': '++' }, ['clean, renew, set the marker distance', 60, 1, 'replace']),
  cause('home-marker-near', 'Encoder marker too near the switch', 'none', [{ motor: ['servo'] }], 1, null, { 'home-turn': '++' }, ['shift the switch by half a turn', 20, 0, 'adjust']),
  cause('tram-out', 'Head out of square', 'none', [{ member: ['head', 'quill'] }], 2, null, { recut: '++', 'tram-off': '++' }, ['shim the head square', 60, 1, 'adjust']),
  cause('scale-head', 'Scale or read head dirty or loose', 'feedback', [{ feedback: ['scale'] }], 2, null, { 'scale-dirty': '++', hunting: '++', wanders: '±' }, ['clean it, set its gap', 45, 1, 'clean']),
]; // prettier-ignore

/** The shipped catalogue. Levels, priors, shares and minutes: common practice, no source. */
export const CAUSES: readonly Cause[] = [...FRONT, ...SCREW_AND_NUT, ...WAY_AND_BEYOND];

/** Pairs met together more often than by chance, and by how much (common practice, no source). */
export const AFFINITIES: readonly (readonly [string, string, number])[] = [
  ["end-bearing-worn", "coupling-insert", 3],
  ["gib-tight", "retainer-loose", 3],
  ["gib-tight", "nut-worn", 3],
  ["screw-misaligned", "end-bearing-worn", 2],
  ["way-dry", "nut-worn", 3],
  ["nut-dirty", "chips-in-way", 3],
];
