import {
  advanceDevice,
  enqueue,
  nextSample,
  programMoves,
  signOf,
  startDevice,
  stepsOf,
  mountIndicator,
  viewDevice,
  zeroIndicator,
  type DeviceMove,
  type DeviceState,
  type Indicator,
  type TestPlan,
  type VirtualAxis,
} from "@iron/core";

/** A reading as a simulated test gives it. */
export interface SimulatedReading {
  readonly step: number;
  readonly value: number;
}

function finish(model: VirtualAxis, start: DeviceState): DeviceState {
  let state = start;
  while (state.queue.length > 0) state = advanceDevice(model, state, Infinity).state;
  return nextSample(state);
}

/** Works a two-sided approach, travel profile or out-and-back through on a virtual axis. */
export function simulateTest(model: VirtualAxis, plan: TestPlan, indicator: Indicator): readonly SimulatedReading[] {
  let state = startDevice(model, indicator);
  const options = {
    letter: "X",
    feedMmMin: 1000,
    dwellS: 4,
    lift: { way: "none" as const },
    zeroBy: "dwell" as const,
  };
  const moves = programMoves(plan, options);
  const readings: SimulatedReading[] = [];
  const steps = stepsOf(plan);
  for (const move of moves) {
    if (move.kind === "rapid" || move.kind === "feed") {
      const go: DeviceMove = { kind: "move", toMm: move.toMm, feedMmMin: 3000 };
      state = finish(model, enqueue(model, state, [go]));
    } else if (move.kind === "dwell") {
      state = finish(model, enqueue(model, state, [{ kind: "dwell", seconds: move.seconds, step: move.step }]));
      const step = steps[move.step];
      if (step.action === "zero") {
        const first = readings.every((r) => steps[r.step].target !== step.target);
        if (first) state = mountIndicator(model, { state, indicator });
        state = zeroIndicator(model, state);
        readings.push({ step: step.index, value: 0 });
      } else {
        const shown = viewDevice(model, state).displayMm;
        if (shown === null) throw new Error(`no contact at ${step.targetMm} mm, ${signOf(step.direction)}`);
        readings.push({ step: step.index, value: shown });
      }
    }
  }
  return readings;
}
