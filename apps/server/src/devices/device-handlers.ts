import { BoundError } from "@iron/core";
import type { Handlers } from "../http/mount";
import type { Machines } from "../machine/machines";
import type { DeviceHub } from "./device-hub";
import type { RunDevice } from "./run-device";

interface DeviceServices {
  readonly machines: Machines;
  readonly hub: DeviceHub;
  readonly runDevice: RunDevice;
}

export function deviceHandlersFor(
  s: DeviceServices,
): Pick<Handlers, "device" | "jog" | "approach" | "stopDevice" | "zeroDevice" | "runProgram"> {
  return {
    device: async ({ params }) => (await s.hub.device(params.id)).snapshot(),
    jog: async ({ params, body }) => {
      const device = await s.hub.device(params.id);
      const { config } = await s.machines.axis(params.id);
      if (body.feedMmMin > config.rapidMmMin) {
        throw new BoundError("feed", body.feedMmMin, `at most the rapid feed of ${config.rapidMmMin} mm/min`);
      }
      await device.command([
        {
          kind: "move",
          toMm: device.destinationMm() + body.byMm,
          feedMmMin: body.feedMmMin,
        },
      ]);
      return device.snapshot();
    },
    approach: async ({ body }) => (await s.runDevice.approach(body.runId, body.feedMmMin)).snapshot(),
    stopDevice: async ({ params }) => {
      const device = await s.hub.device(params.id);
      await device.stop();
      return { stopped: true };
    },
    zeroDevice: async ({ params }) => {
      const device = await s.hub.device(params.id);
      await device.zero();
      return device.snapshot();
    },
    runProgram: async ({ body }) => (await s.runDevice.program(body.runId, body.feedMmMin, body.dwellS)).snapshot(),
  };
}
