import { defaultVirtualAxis } from "@iron/core";
import { problem } from "../http/problem-error";
import type { Machines } from "../machine/machines";
import type { Db } from "../store/database";
import { fromJson, toJson } from "../store/columns";
import { Device, type DeviceHooks, type KeptDevice } from "./device";

export interface HubOptions {
  /** Give every axis without a hidden condition an ordinary one. */
  readonly simulate: boolean;
  readonly speed: number;
}

/** The devices by axis. An axis of the shop's own has none unless simulation is asked for. */
export class DeviceHub {
  private readonly devices = new Map<number, Promise<Device>>();

  constructor(
    private readonly needs: {
      readonly db: Db;
      readonly machines: Machines;
      readonly options: HubOptions;
      readonly hooks: Pick<DeviceHooks, "failed"> & {
        dwelt(axisId: number, runId: number, step: number): Promise<void>;
      };
    },
  ) {}

  device(axisId: number): Promise<Device> {
    let device = this.devices.get(axisId);
    if (!device) {
      device = this.open(axisId);
      this.devices.set(axisId, device);
      device.catch(() => this.devices.delete(axisId));
    }
    return device;
  }

  /** Its configuration has changed: the next call opens it anew. */
  async forget(axisId: number): Promise<void> {
    const device = await this.devices.get(axisId)?.catch(() => null);
    this.devices.delete(axisId);
    device?.close();
  }

  async close(): Promise<void> {
    for (const device of this.devices.values()) (await device.catch(() => null))?.close();
  }

  private async open(axisId: number): Promise<Device> {
    const { config } = await this.needs.machines.axis(axisId);
    const row = await this.needs.db
      .selectFrom("virtual_axis")
      .selectAll()
      .where("axis_id", "=", axisId)
      .executeTakeFirst();
    if (!row && !this.needs.options.simulate) {
      throw problem(404, {
        title: "No indicator",
        detail: "No indicator is connected to this axis. Type the readings or import them.",
      });
    }
    const model = row ? fromJson(row.model) : defaultVirtualAxis(config, axisId);
    if (!row) {
      await this.needs.db
        .insertInto("virtual_axis")
        .values({
          axis_id: axisId,
          model: toJson(model),
          state: null,
          mounted_run_id: null,
        })
        .execute();
    }
    const kept = row?.state ? { state: fromJson(row.state), mountedRunId: row.mounted_run_id } : null;
    const hooks = {
      failed: this.needs.hooks.failed,
      dwelt: (runId: number, step: number) => this.needs.hooks.dwelt(axisId, runId, step),
      keep: (state: KeptDevice) => this.keep(axisId, state),
    };
    return new Device({ ...model, travelMm: config.travelMm }, kept, { speed: this.needs.options.speed, hooks });
  }

  private async keep(axisId: number, kept: KeptDevice): Promise<void> {
    await this.needs.db
      .updateTable("virtual_axis")
      .set({ state: toJson(kept.state), mounted_run_id: kept.mountedRunId })
      .where("axis_id", "=", axisId)
      .execute();
  }
}
