import { usualSoundPlan, virtualSound, type AxisConfig, type SoundPlan, type VirtualSoundAsked } from "@iron/core";
import { LARGEST_SOUND_PART, writeWav, type Axis, type Sound } from "@iron/contract";
import { randomUUID } from "node:crypto";
import type { TestApp } from "./test-app";

/** A short run that suits an axis. */
export const shortRun = (config: AxisConfig, passes: number): SoundPlan => ({
  ...usualSoundPlan(config),
  stillS: 2,
  passes,
});

/** Sends a recording in parts and has it worked out. */
export async function sendSound(
  t: TestApp,
  axisId: number,
  { bytes, ...more }: { readonly bytes: Uint8Array; readonly plan: SoundPlan } & Partial<Omit<Sound, "bytes">>,
): Promise<Sound> {
  const begun = await t.api
    .post(`/api/axes/${axisId}/sounds`)
    .send({ key: randomUUID(), source: "file", place: "", ownGain: false, ...more, bytes: bytes.length })
    .expect(201);
  const { id } = begun.body as Sound;
  for (let from = 0; from < bytes.length; from += LARGEST_SOUND_PART)
    await t.api
      .put(`/api/sounds/${id}/parts/${from}`)
      .set("Content-Type", "application/octet-stream")
      .send(Buffer.from(bytes.slice(from, from + LARGEST_SOUND_PART)))
      .expect(200);
  return (await t.api.post(`/api/sounds/${id}/finish`).expect(200)).body as Sound;
}

/** Records an axis as it sounds with these parts. */
export function recordSound(
  t: TestApp,
  axis: Axis,
  {
    parts = {},
    seed = 21,
    passes = 4,
    plan = shortRun(axis.config, passes),
    ...more
  }: {
    readonly parts?: VirtualSoundAsked["parts"];
    readonly seed?: number;
    readonly passes?: number;
  } & Partial<Omit<Sound, "bytes">> = {},
): Promise<Sound> {
  const run = { ...plan, accelMmS2: 1800 };
  const { samples } = virtualSound(axis.config, { parts, run, roomDb: -20, machine: 4, seed });
  return sendSound(t, axis.id, { bytes: writeWav(samples, 48_000), plan, ...more });
}
