import { Matrix, solve } from "ml-matrix";
import { defaultAxis, type AxisConfig } from "../axis";
import { anyAxis, numbers, pickFrom } from "../../job/sheets.testing";
import { holdersOf, isHeld, isSelfLocking } from "./holders";
import { jointsOf, screwTurns, type JointId, type JointState } from "./joints";
import { effectNeeds, meets, reachNeeds } from "./reach";
import { jointAt, stateAfter, WHOLE, type MechanismState, type Power } from "./state";
import { stateChange, stateText, type StateLine } from "./state.text";
import { againstPower, verbAllowed, waysToMove } from "./ways";

const z = defaultAxis("vertical-centre", "Z");
const heavy: AxisConfig = {
  ...z,
  counterweight: true,
  lockNut: "double-nut-tab",
  screw: { ...z.screw, nominalMm: 40, rootMm: 36 },
};

/**
 * Rigid bodies on springs, written apart from the holders: member, bracket, nut and screw endwise, the
 * screw’s and the motor’s turn; a joint that is tight is a stiff spring, any other none; what closes
 * only one way pushes only that way. Held is what comes to rest within a hair.
 */
function restsUnder(config: AxisConfig, state: MechanismState, power: Power, loadN: number): boolean {
  const K = 1e6;
  const [member, bracket, nut, screw, turn, rotor] = [0, 1, 2, 3, 4, 5];
  const tight = (...joints: JointId[]): boolean =>
    joints.every((j) => !jointsOf(config).includes(j) || jointAt(state, j) === "tight");
  const oneWay = (down: boolean, up: boolean): boolean => (loadN > 0 ? down : up);
  const stiffness = Matrix.eye(6).mul(1e-6);
  const spring = (on: boolean, ...terms: [number, number][]): void => {
    if (!on) return;
    for (const [a, ca] of terms) for (const [b, cb] of terms) stiffness.set(a, b, stiffness.get(a, b) + K * ca * cb);
  };
  const brake = config.brake && power === "isolated" && !state.brakeLet;
  const atMotor = config.mechanics.brakeAt === "motor";
  if (config.transmission === "rack") {
    // The pinion’s turn is the member’s way.
    spring(tight("mesh", "pinion", "rack"), [member, 1], [rotor, -1]);
    // A brake that is not on the motor sits on the pinion’s shaft.
    spring(brake && !atMotor, [member, 1]);
  } else if (screwTurns(config)) {
    spring(tight("bracket-member"), [member, 1], [bracket, -1]);
    spring(tight("nut-bracket"), [bracket, 1], [nut, -1]);
    spring(tight("balls", "screw"), [nut, 1], [screw, -1], [turn, -1]);
    spring(tight("bearing-nut", "bearings", "retainer", "housing"), [screw, 1]);
    spring(tight("hub-motor", "hub-screw", "belt"), [turn, 1], [rotor, -1]);
    spring(brake && !atMotor, [turn, 1]);
    spring(isSelfLocking(config), [turn, 1]);
  } else {
    // The nut turns in the member; its screw stands in its clamps.
    spring(tight("nut-flange", "bearings", "retainer", "bearing-nut"), [member, 1], [nut, -1]);
    spring(tight("balls", "screw", "screw-clamps"), [nut, 1], [turn, -1]);
    spring(tight("belt"), [turn, 1], [rotor, -1]);
    spring(brake && !atMotor, [turn, 1]);
  }
  const driven = power === "on" && tight("motor");
  spring((driven || (brake && atMotor)) && tight("motor"), [rotor, 1]);
  spring(state.block !== "none" && oneWay(true, state.tied), [member, 1]);
  spring(state.gear === "taut" && oneWay(true, false), [member, 1]);
  const load = Matrix.zeros(6, 1);
  load.set(member, 0, loadN);
  return Math.abs(solve(stiffness, load).get(member, 0)) < 0.1;
}

describe("who carries the member", () => {
  it("agrees with rigid-body statics in thousands of states", () => {
    const next = numbers(12);
    const counts = { held: 0, falls: 0 };
    for (let i = 0; i < 6000; i += 1) {
      const config = {
        ...anyAxis("Z", next),
        orientation: "vertical" as const,
      };
      // On a rack axis the statics know one shaft; a brake there sits on the motor.
      const joints: Partial<Record<JointId, JointState>> = {};
      for (const j of jointsOf(config)) if (next() < 0.12) joints[j] = pickFrom(["loose", "off"] as const, next);
      const state: MechanismState = {
        ...WHOLE,
        joints,
        block: pickFrom(["none", "none", "set", "tried"] as const, next),
        tied: next() < 0.3,
        gear: next() < 0.2 ? "taut" : "none",
        balance: next() < 0.5 ? "acts" : "secured",
        brakeLet: next() < 0.2,
        notes: { "self-lock-tried": true },
      };
      if (config.transmission === "rack" && config.mechanics.brakeAt === "screw") continue;
      const power: Power = next() < 0.3 ? "on" : "isolated";
      // A drive pulls only through a whole path, screws’ lock and all; statics ask the path alone.
      const holders = holdersOf(config, state, power);
      for (const [way, load] of [
        ["down", 900],
        ["up", -900],
      ] as const) {
        const ours = holders.some((h) => h[way]);
        const rests = restsUnder(config, state, power, load);
        counts[rests ? "held" : "falls"] += 1;
        if (ours !== rests)
          throw new Error(
            `${way} ${config.transmission} ${power} ${JSON.stringify(state)} brake ${config.brake} at ${config.mechanics.brakeAt}: ours ${ours}, statics ${rests}`,
          );
      }
    }
    // Both answers are met often: the comparison can fail either way.
    expect(counts.held).toBeGreaterThan(1000);
    expect(counts.falls).toBeGreaterThan(1000);
  });

  it("a brake goes away with its motor or coupling; a balance is never a holder (common practice, no source)", () => {
    const ids = (state: MechanismState, power: Power): string[] => holdersOf(heavy, state, power).map((h) => h.id);
    expect(ids(WHOLE, "on")).toEqual(["drive"]);
    expect(ids(WHOLE, "isolated")).toEqual(["brake"]);
    for (const joint of ["motor", "hub-screw", "nut-bracket", "bearing-nut"] as const)
      expect(ids({ ...WHOLE, joints: { [joint]: "loose" } }, "isolated")).toEqual([]);
    const acts = { ...WHOLE, block: "tried" as const };
    // A counterweight may be heavier than the head: the block alone does not keep it down.
    expect(isHeld(heavy, acts, [{ id: "block", down: true, up: false, tried: true }])).toBe(false);
    expect(isHeld(heavy, { ...acts, balance: "secured" }, [{ id: "block", down: true, up: false, tried: true }])).toBe(
      true,
    );
  });

  it("a ball screw never holds by itself, a plain one of low lead does (common practice, no source)", () => {
    const plain = {
      ...z,
      transmission: "plain-screw" as const,
      screw: { ...z.screw, nominalMm: 20, leadMm: 2 },
    };
    expect(isSelfLocking(plain)).toBe(true);
    expect(isSelfLocking({ ...plain, transmission: "direct" })).toBe(false);
    expect(isSelfLocking({ ...plain, screw: { ...plain.screw, leadMm: 8 } })).toBe(false);
  });
});

describe("how a member can be moved", () => {
  const x = { ...defaultAxis("vertical-centre", "X"), brake: false };
  const off = (...joints: JointId[]): MechanismState => ({
    ...WHOLE,
    joints: Object.fromEntries(joints.map((j) => [j, "off"])),
  });

  // Common practice, no source: each row is a thing a mechanic would or would not do.
  it.each([
    ["jog it whole", x, WHOLE, "on", "jog", true],
    ["jog it with the nut parted", x, off("nut-bracket"), "on", "jog", false],
    ["jog it with the covers off, hands out", x, off("covers"), "on", "jog", true],
    ["turn a level screw by hand, isolated", x, WHOLE, "isolated", "screw-by-hand", true],
    ["turn the screw while the nut is parted", x, off("nut-bracket"), "isolated", "screw-by-hand", false],
    ["turn the screw against an engaged brake", { ...x, brake: true }, WHOLE, "isolated", "screw-by-hand", false],
    ["push a gravity axis", z, off("nut-bracket"), "isolated", "push", false],
    ["push a level member with its nut parted", x, off("nut-bracket"), "isolated", "push", true],
    [
      "lift a head whose motor is off, on gear",
      z,
      { ...off("motor", "hub-screw"), gear: "taut" as const },
      "isolated",
      "gear",
      true,
    ],
    [
      "lift it off a block that still stands under it",
      z,
      {
        ...off("motor", "hub-screw"),
        gear: "taut" as const,
        block: "tried" as const,
      },
      "isolated",
      "gear",
      false,
    ],
    ["lift it against its engaged brake", z, { ...WHOLE, gear: "taut" as const }, "isolated", "gear", false],
    [
      "push a table on a plain screw whose coupling is loose: its thread rubs",
      { ...x, transmission: "plain-screw" as const },
      off("hub-screw"),
      "isolated",
      "push",
      false,
    ],
    ["push it along a ball screw of the same lead", x, off("hub-screw"), "isolated", "push", true],
    [
      "lift a head on a plain screw: the thread does not turn",
      { ...z, transmission: "plain-screw" as const },
      { ...off("motor", "hub-screw"), gear: "taut" as const },
      "isolated",
      "gear",
      false,
    ],
    [
      "turn the screw of a rotating nut",
      { ...x, transmission: "rotating-nut" as const },
      off("belt"),
      "isolated",
      "screw-by-hand",
      false,
    ],
    [
      "push a rotating-nut gantry with its belt off",
      { ...x, transmission: "rotating-nut" as const },
      off("belt"),
      "isolated",
      "push",
      true,
    ],
  ] as const)("%s", (_, config, state, power, way, can) => {
    expect(waysToMove(config, { state, power, to: "near-far" }).includes(way)).toBe(can);
  });

  it("a pinned balance lets the head rise by a lead; for more it is unhooked first", () => {
    const state: MechanismState = {
      ...off("motor", "hub-screw"),
      gear: "taut",
      balance: "secured",
    };
    expect(waysToMove(heavy, { state, power: "isolated", to: "opening" }).length).toBeGreaterThan(0);
    expect(waysToMove(heavy, { state, power: "isolated", to: "near-far" })).toEqual([]);
    const unhooked = {
      ...state,
      joints: { ...state.joints, "balance-link": "off" as const },
    };
    expect(waysToMove(heavy, { state: unhooked, power: "isolated", to: "near-far" }).length).toBeGreaterThan(0);
  });

  it("full travel wants the reference, a load a meter, a flick a screw that turns free", () => {
    const lost = stateAfter({ power: "isolated", axes: { X: WHOLE } }, "X", [
      { kind: "joint", joint: "hub-screw", to: "loose" },
      { kind: "joint", joint: "hub-screw", to: "tight" },
    ]).axes["X"];
    expect(verbAllowed(x, { state: lost, power: "on", verb: "creep" })).toBe(true);
    expect(verbAllowed(x, { state: lost, power: "on", verb: "full-travel" })).toBe(false);
    expect(verbAllowed({ ...x, motor: "stepper" }, { state: WHOLE, power: "on", verb: "read-load" })).toBe(false);
    expect(verbAllowed(x, { state: WHOLE, power: "isolated", verb: "flick" })).toBe(false);
    expect(verbAllowed(x, { state: off("motor", "hub-screw"), power: "isolated", verb: "flick" })).toBe(true);
    expect(verbAllowed(z, { state: off("motor", "hub-screw"), power: "isolated", verb: "flick" })).toBe(false);
    expect(againstPower(x, off("covers", "nut-lock"))).toEqual([]);
    expect(againstPower(x, off("bearing-nut"))).toEqual(["bearing-nut"]);
  });
});

describe("what hides what", () => {
  it("an axis has no joint that it does not have, and every need is of its own joints", () => {
    const next = numbers(3);
    for (let i = 0; i < 500; i += 1) {
      const config = anyAxis("Z", next);
      const has = jointsOf(config);
      for (const joint of has)
        for (const to of ["tight", "snug", "loose", "off"] as const)
          for (const need of reachNeeds(config, joint, to)) expect(has).toContain(need.joint);
    }
    const rack = jointsOf(defaultAxis("router", "X"));
    for (const none of ["housing", "bearing-nut", "nut-bracket", "screw"] as const) expect(rack).not.toContain(none);
  });

  it("a housing does not come off with its nut on; a step’s own earlier effects count", () => {
    const needs = effectNeeds(z, [{ kind: "joint", joint: "housing", to: "off" }]);
    expect(needs.filter((n) => !meets(WHOLE, n)).map((n) => n.joint)).toEqual(
      expect.arrayContaining(["bearing-nut", "pins", "motor"]),
    );
    const both = effectNeeds(z, [
      { kind: "joint", joint: "belt", to: "off" },
      { kind: "joint", joint: "motor", to: "off" },
    ]);
    expect(both.map((n) => n.joint)).not.toContain("belt");
  });

  it("says how an axis stands in one line", () => {
    expect(stateText(heavy, WHOLE, "isolated")).toBe("power off · head: brake · nothing open");
    const open: MechanismState = {
      ...off(),
      block: "set",
      joints: { motor: "off", "bearing-nut": "loose" },
      prop: true,
      balance: "secured",
    };
    expect(stateText(heavy, open, "isolated")).toBe(
      "power off · head: block, not tried, balance secured · screw: its nut, the prop · motor off, bearing nut backed off",
    );
    function off(): MechanismState {
      return WHOLE;
    }
  });
});

describe("what a step changed of a state", () => {
  const line = (over: Partial<StateLine>): StateLine => ({
    power: "isolated",
    carried: ["block"],
    screw: [],
    open: [],
    ...over,
  });
  it.each<[Partial<StateLine>, Partial<StateLine>, string]>([
    [{ open: ["covers off"] }, { open: ["covers off", "hub off the screw"] }, "+ hub off the screw"],
    [
      { open: ["motor off", "covers off"] },
      { carried: ["brake", "block"], open: ["covers off"] },
      "head: brake, block · no more: motor off",
    ],
    [{ open: ["covers off"] }, { open: ["covers off"] }, ""],
    [{ power: "on" }, {}, "power off"],
    [{}, { screw: ["the prop"] }, "screw: the prop"],
  ])("from %j to %j is “%s”", (before, after, words) => {
    expect(stateChange(z, line(before), line(after))).toBe(words);
  });
});
