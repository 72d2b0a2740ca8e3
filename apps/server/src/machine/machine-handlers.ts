import type { DeviceHub } from "../devices/device-hub";
import type { Handlers } from "../http/mount";
import type { MachineList } from "./machine-list";
import type { Machines } from "./machines";

export function machineHandlersFor(s: {
  readonly machines: Machines;
  readonly hub: DeviceHub;
  readonly list: MachineList;
}): Pick<
  Handlers,
  | "createMachine"
  | "machine"
  | "updateMachine"
  | "machineList"
  | "machineListBack"
  | "duplicateMachine"
  | "retireMachine"
  | "reviveMachine"
  | "createAxis"
  | "axis"
  | "updateAxis"
  | "duplicateAxis"
  | "retireAxis"
  | "reviveAxis"
> {
  return {
    createMachine: ({ body, who }) => s.machines.createWithDefaults(body, body.letters, { who, units: body.units }),
    machine: ({ params }) => s.machines.withAxes(params.id),
    updateMachine: ({ params, body }) => s.machines.update(params.id, body.version, body),
    machineList: ({ body, who }) => s.list.read(body, who),
    machineListBack: ({ body }) => s.list.back(body.ids),
    duplicateMachine: ({ params, who }) => s.machines.duplicate(params.id, who),
    retireMachine: ({ params }) => s.machines.setRetired(params.id, true),
    reviveMachine: ({ params }) => s.machines.setRetired(params.id, false),
    createAxis: ({ params, body, who }) => s.machines.createAxis(params.id, body.config, who),
    axis: ({ params }) => s.machines.axis(params.id),
    updateAxis: async ({ params, body, who }) => {
      const axis = await s.machines.updateAxis(params.id, { version: body.version, config: body.config, who });
      await s.hub.forget(params.id);
      return axis;
    },
    duplicateAxis: ({ params, who }) => s.machines.duplicateAxis(params.id, who),
    retireAxis: ({ params }) => s.machines.setAxisRetired(params.id, true),
    reviveAxis: ({ params }) => s.machines.setAxisRetired(params.id, false),
  };
}
