import type { AxisConfig } from "../machine/axis";
import type { FindingId } from "../measure/findings";
import { causeFits, fits, type Cause } from "./knowledge";
import type { LocateTest } from "./locate-test";
import { LOCATE_TEST_ROWS } from "./locate-tests.table";
import { seenBy } from "./slack";

export type TestId = (typeof LOCATE_TEST_ROWS)[number]["id"];

export const LOCATE_TESTS: readonly (LocateTest & { readonly id: TestId })[] = LOCATE_TEST_ROWS;

/** A coupling that has an insert to break. */
const INSERT: Pick<Cause, "fits"> = { fits: [{ transmission: ["direct", "plain-screw"], coupling: ["insert"] }] };

const BY_ID = new Map(LOCATE_TESTS.map((t) => [t.id as string, t]));
/**
 * A test of the catalogue by its id.
 * @param id - as in the table of tests
 * @returns the test; undefined where there is none of that name
 * @example locateTest("end-float")?.id // "end-float"
 */
export function locateTest(id: string): (LocateTest & { readonly id: TestId }) | undefined {
  return BY_ID.get(id);
}
export const TEST_IDS = LOCATE_TESTS.map((t) => t.id) as unknown as readonly [TestId, ...TestId[]];

export interface Availability {
  readonly possible: boolean;
  /** Why not, or what must be done first. */
  readonly say: string;
  readonly minutes: number;
}

/** What blocking a gravity axis adds, min (common practice, no source). */
const BLOCK_MINUTES = 15;
const BLOCK_FIRST =
  "Needs the block first: set it on the casting or the cartridge flange, never the spindle nose, and try it with the drive off.";
/** A loop that is closed over what the motor no longer moves drives it on (common practice, no source). */
const SCALE_LOOP =
  "The control reads a scale that an uncoupled motor no longer moves: the motor would run away. Run it only with the loop put on the motor’s own encoder, as the machine’s book says; else turn it by hand alone, drive off.";

/**
 * Can this test be done on this axis, and what must be done first?
 * @param axis - configuration
 * @param test - the test
 * @returns whether it can be done, why not, and what comes first
 * @example availability(defaultAxis("vertical-centre", "X"), locateTest("end-float")).possible // true
 */
export function availability(axis: AxisConfig, test: LocateTest): Availability {
  const no = (say: string): Availability => ({ possible: false, say, minutes: test.minutes });
  const gravity = axis.orientation !== "horizontal";
  if (test.id === "hand-push" && gravity)
    return no("Never on an axis that can fall: it would take your hands with it.");
  if (test.fits.length > 0 && !test.fits.some((f) => fits(axis, f)))
    return no("This axis does not have what it looks at.");
  if (test.id === "in-hand") return no("Told at station Ask, by whoever holds the part.");
  if (test.id === "back-drive")
    return no(
      gravity
        ? "Only inside a job, with the head blocked and the block tried: the screw is free then."
        : "A screw that lies down does not wind down by itself.",
    );
  if (test.id === "end-watch" && axis.screw.fixings === "fixed-fixed")
    return no("Both ends of the screw are held: neither is free to walk.");
  if (test.id === "far-end" && axis.screw.fixings === "fixed-free")
    return no("The screw has no bearing at its far end.");
  if (test.magnitude === "whole-chain" && seenBy(axis, "whole-chain").length === 0)
    return no("The scale takes slack up before the table is read: nothing would show.");
  if (test.id === "load-trace" && axis.motor === "stepper")
    return no("A stepper draws the same current whatever it pushes: it has no load to read.");
  if (test.id === "screw-by-hand" && gravity)
    return {
      possible: true,
      say: "Needs lifting gear that carries the member and follows it: without current nothing else holds it.",
      minutes: test.minutes + BLOCK_MINUTES,
    };
  const blocked = test.opens === true && gravity;
  const first = [blocked ? BLOCK_FIRST : "", test.id === "motor-alone" && axis.feedback === "scale" ? SCALE_LOOP : ""];
  return {
    possible: true,
    say: first.filter(Boolean).join(" "),
    minutes: test.minutes + (blocked ? BLOCK_MINUTES : 0),
  };
}

/**
 * The findings of a test that this axis can have.
 * @param axis - configuration
 * @param test - the test
 * @returns ids
 * @example findingsOf(defaultAxis("vertical-centre", "X"), locateTest("fastener-check")).length > 2 // true
 */
export function findingsOf(axis: AxisConfig, test: LocateTest): readonly FindingId[] {
  const rack = axis.transmission === "rack";
  return test.findings.filter((id) => {
    if (id === "pinion-turns") return rack;
    if (id === "bracket-turns" || id === "housing-turns")
      return axis.transmission !== "rack" && axis.transmission !== "rotating-nut";
    if (id === "carriage-broken") return axis.guideway === "rail";
    if (id === "insert-broken") return causeFits(axis, INSERT);
    if (id === "belt-frayed") return axis.transmission === "belt" || axis.transmission === "rotating-nut";
    if (id === "nut-gritty" || id === "balls-out") return !rack && axis.transmission !== "plain-screw";
    if (id === "rough-finger") return !rack;
    if (id === "flange-turns" || id === "clamp-turns") return axis.transmission === "rotating-nut";
    if (id === "marks-off") return rack || axis.transmission === "direct" || axis.transmission === "plain-screw";
    if (id === "hot-end" || id === "retainer-turns") return !rack;
    if (id === "coupling-turns") return axis.transmission === "direct" || axis.transmission === "plain-screw";
    if (id === "gravity-off" || id === "tight-one-way") return axis.orientation !== "horizontal";
    return true;
  });
}
