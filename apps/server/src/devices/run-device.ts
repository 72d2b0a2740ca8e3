import {
  approachSentence,
  hasProgram,
  isSplitTest,
  judgeApproach,
  programMoves,
  nextStep,
  readingFactor,
  signOf,
  stepsOf,
  wantedApproach,
  type DeviceMove,
  type TestStep,
  type UnitSystem,
} from "@iron/core";
import type { Axis, DeviceSnapshot, Run } from "@iron/contract";
import { conflict } from "../http/problem-error";
import type { Machines } from "../machine/machines";
import type { NewReading } from "../measure/readings";
import type { Runs } from "../measure/runs";
import type { Device } from "./device";
import type { DeviceHub } from "./device-hub";

/** Display steps that count as a movement of the needle beyond its trembling. */
const NOTICED_STEPS = 2;

/** Runs fed by a connected indicator: judged approaches, readings, guided movements, programs. */
export class RunDevice {
  constructor(
    private readonly hub: DeviceHub,
    private readonly runs: Runs,
    private readonly machines: Machines,
  ) {}

  /** Reads the device for a step of a run: a spoilt approach is kept as spoilt, with the reason. */
  async take(
    runId: number,
    stepIndex: number,
    {
      who,
      source = "device",
      system = "metric",
    }: { readonly who: string; readonly source?: "device" | "program"; readonly system?: UnitSystem },
  ): Promise<Run> {
    const run = await this.runs.run(runId);
    const { step, axis, device } = await this.at(run);
    if (step.index !== stepIndex) throw conflict("That step already has its reading. The test has gone on.", run);
    const snapshot = device.snapshot();
    if (snapshot.moving && source === "device") throw conflict("The axis is still moving. Wait until it stands.");
    if (!snapshot.fresh) throw conflict("The axis has not moved since the last reading. Make the approach first.");
    const reading =
      step.action === "count"
        ? this.count(run, step, snapshot)
        : await this.read(run, { step, axis, device, before: snapshot, system });
    const after = await this.runs.keep(runId, { ...reading, step: step.index, source }, who);
    device.markRead();
    return after;
  }

  /** Makes the approach that the next step asks for, properly. */
  async approach(runId: number, feedMmMin: number): Promise<Device> {
    const run = await this.runs.run(runId);
    const { step, device } = await this.at(run);
    const move = (toMm: number): DeviceMove => ({
      kind: "move",
      toMm,
      feedMmMin,
    });
    if (step.action === "count") {
      await device.command([move(device.destinationMm() + signOf(step.direction) * run.plan.tickMm)]);
      return device;
    }
    const sign = signOf(step.direction);
    const straightOn =
      run.plan.keepsZero && step.action === "read" && step.target !== (sign > 0 ? 0 : run.plan.targetsMm.length - 1);
    const past = straightOn ? [] : [move(step.targetMm - sign * step.runUpMm)];
    await device.command([...past, move(step.targetMm)]);
    return device;
  }

  /** Runs what is left of a test as a program. */
  async program(runId: number, feedMmMin: number, dwellS: number): Promise<Device> {
    const run = await this.runs.run(runId);
    const { step, axis, device } = await this.at(run);
    if (!hasProgram(run.plan.kind)) {
      throw conflict("A test that counts steps by hand has no program.");
    }
    const { letter, rapidMmMin } = axis.config;
    const moves = programMoves(
      run.plan,
      // The stand-in’s tip is in nobody’s way, and it sets zero by itself.
      { letter, feedMmMin, dwellS, lift: { way: "none" }, zeroBy: "dwell" },
      step.index,
    );
    const commands = moves.flatMap((m): DeviceMove[] => {
      if (m.kind === "dwell") return [{ kind: "dwell", seconds: m.seconds, step: m.step }];
      if (m.kind === "rapid") return [{ kind: "move", toMm: m.toMm, feedMmMin: rapidMmMin }];
      return m.kind === "feed" ? [{ kind: "move", toMm: m.toMm, feedMmMin }] : [];
    });
    await device.command(commands, runId);
    return device;
  }

  private async at(run: Run): Promise<{ step: TestStep; axis: Axis; device: Device }> {
    const step = nextStep(stepsOf(run.plan), run.readings);
    if (!step || run.state !== "running") throw conflict("This test has ended. Begin a new one.", run);
    return {
      step,
      axis: await this.machines.axis(run.axisId),
      device: await this.hub.device(run.axisId),
    };
  }

  private async read(
    run: Run,
    {
      step,
      axis,
      device,
      before,
      system,
    }: {
      readonly step: TestStep;
      readonly axis: Axis;
      readonly device: Device;
      readonly before: DeviceSnapshot;
      readonly system: UnitSystem;
    },
  ): Promise<Omit<NewReading, "step" | "source">> {
    const { indicator, tipAngleDeg } = run.setup;
    const judgement = judgeApproach(before.track, wantedApproach(run.plan, step));
    const reason = approachSentence(judgement, { step, axis: axis.config, system }) ?? "";
    if (judgement.kind === "not-at-target") throw conflict(reason);
    const spoilt = judgement.kind !== "good";
    if (step.action === "zero" && !spoilt) {
      await device.zero({
        id: run.id,
        indicator: { ...indicator, tipAngleDeg },
        station: isSplitTest(run.plan.kind) ? run.plan.kind : "member",
        // What the indicator follows for a movement of the table.
        perTableMm: 1 / readingFactor(run.plan),
      });
      return {
        value: 0,
        widthMm: indicator.resolutionMm,
        entered: "set to zero",
        spoilt,
        reason,
        judgement,
      };
    }
    if (step.action === "read" && before.mountedRunId !== run.id) {
      throw conflict("The indicator has been set up for another test since this one was zeroed. Begin a new test.");
    }
    if (before.displayMm === null) throw conflict("The tip does not touch here: there is nothing to read.");
    return {
      value: before.displayMm,
      widthMm: indicator.resolutionMm,
      entered: "",
      spoilt,
      reason,
      judgement,
    };
  }

  /** Steps jogged since the reversal at the place where zero was set. */
  private count(run: Run, step: TestStep, snapshot: DeviceSnapshot): Omit<NewReading, "step" | "source"> {
    if (snapshot.mountedRunId !== run.id) {
      throw conflict("The indicator has been set up for another test since this one was zeroed. Begin a new test.");
    }
    const { track } = snapshot;
    const resolutionMm = run.setup.indicator.resolutionMm;
    const count = Math.round(Math.abs(track.positionMm - track.strokeStartMm) / run.plan.tickMm);
    if (track.lastDirection !== step.direction || count < 1) {
      throw conflict("No step has been jogged the other way yet.");
    }
    const turned = Math.abs(track.strokeStartMm - step.targetMm) > run.plan.tickMm / 2;
    // The step that moved the needle was jogged too; newer tests do not count it.
    const value = run.plan.countsStill ? count - 1 : count;
    return {
      value,
      widthMm: NOTICED_STEPS * resolutionMm,
      entered: `${value} steps`,
      spoilt: turned,
      reason: turned ? "The axis turned round while the steps were counted. Set zero and count again." : "",
    };
  }
}
